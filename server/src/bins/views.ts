import { binKey, notedColumns, notedValue, pathsOfBins, uniteBins } from '@legame/core/bins';
import type { BinClip, BinClips, Bins, KnownUpTo } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import type { Looking } from '../context.ts';
import { loadProject } from '../clips/project.ts';
import { changedSince } from '../clips/since.ts';
import { clipKeyStore } from '../stores/clipKeys.ts';
import { clipNoteStore } from '../stores/clipNotes.ts';
import { documentStore } from '../stores/documents.ts';
import { projectStore } from '../stores/projects.ts';

/** What a project has of bins beside its clips: those people or documents made, labels, and columns that are written in. */
export async function viewBins({ db }: Looking, projectId: ProjectId): Promise<Bins> {
  const [project, documents, notes, used] = await Promise.all([
    projectStore.getProject(db, projectId),
    documentStore.listDocuments(db, projectId),
    clipNoteStore.listNotes(db, projectId, null),
    clipKeyStore.listBinsUsed(db, projectId),
  ]);
  const others = new Set<string>();
  const paths = new Map(documents.map((d) => [d.id as string, pathsOfBins(d.bins)]));
  // A document's bin that people emptied, by a rename or a move, is there no more where nothing else lies in it.
  const left = notes.flatMap(({ noted, documentId, binKey: key }) =>
    noted?.bin ? [paths.get(documentId)?.get(key ?? '') ?? []] : [],
  );
  const emptied = new Set(uniteBins(left).map(binKey));
  // One that holds nothing became the project's own when the document came in.
  const ofDocuments = uniteBins(used.map(({ documentId, binKey: key }) => paths.get(documentId)?.get(key) ?? []));
  for (const { metadata, noted } of notes)
    for (const column of [...Object.keys(metadata), ...Object.keys(noted?.values ?? {})]) others.add(column);
  for (const column of notedColumns) others.delete(column);
  return {
    bins: uniteBins([...project.bins, ...ofDocuments.filter((path) => !emptied.has(binKey(path)))]),
    labels: project.labels,
    columns: [...notedColumns, ...[...others].sort()],
  };
}

/** All that edit, file and people say of each clip, in the order of the list, or of those that are others than is known. */
export async function viewBinClips({ db }: Looking, projectId: ProjectId, known: KnownUpTo): Promise<BinClips> {
  const { now, touched } = await changedSince(db, projectId, known);
  if (touched?.size === 0) return { ...now, clips: [] };
  const { states, documents } = await loadProject(db, projectId);
  const logs = new Set(documents.filter((d) => d.format === 'log').map((d) => d.id));
  const wanted = touched ? states.filter(({ clip }) => touched.has(clip.id)) : states;
  const clips = wanted.map(({ clip, tied }): BinClip => {
    const columns = new Set([...Object.keys(clip.metadata), ...Object.keys(clip.noted?.values ?? {})]);
    const [first, last] = [clip.used[0], clip.used.at(-1)];
    return {
      id: clip.id,
      isLogged: logs.has(clip.documentId),
      rate: clip.rate,
      counting: clip.counting,
      available: clip.available,
      used: first && last ? { start: first.start, end: last.end } : null,
      facts: tied?.file.facts ?? null,
      sizeInBytes: tied?.file.sizeInBytes ?? null,
      values: Object.fromEntries([...columns].map((column) => [column, notedValue(clip, column)])),
      written: Object.keys(clip.noted?.values ?? {}).sort(),
    };
  });
  return { ...now, clips };
}
