import type { Looking } from '../context.ts';
import { dirname, isAbsolute, join, relative } from 'node:path';
import type { ExportQuery } from '@legame/core/contract';
import { formatOf, relinkDocument, type NewReference, type Relinked } from '@legame/core/formats';
import { rangeReadAs, readAs, type DocumentId, type Edit, type EditEvent } from '@legame/core/model';
import { splitExtension } from '@legame/core/paths';
import type { Database } from '../db/database.ts';
import { UserProblem } from '../problems.ts';
import { documentStore, type DocumentRecord } from '../stores/documents.ts';
import { bodyOf } from './bringIn.ts';
import { loadProject } from '../clips/project.ts';
import { type ClipState } from '../clips/state.ts';

/** What a clip's references shall say; null leaves them as they stand. */
export type ReferenceTo = (state: ClipState) => NewReference | null;

/** The brought-in document with only its references changed, by what `referenceTo` says of each clip. */
export async function relinkedContent(
  db: Database,
  document: DocumentRecord,
  states: readonly ClipState[],
  referenceTo: ReferenceTo,
): Promise<Relinked & { relinked: number }> {
  const content = await documentStore.getContent(db, document.id);
  const changes = new Map<string, NewReference>();
  let relinked = 0;
  for (const state of states) {
    if (state.clip.documentId !== document.id) continue;
    const reference = referenceTo(state);
    if (!reference) continue;
    relinked += 1;
    for (const address of state.clip.addresses) changes.set(address, { ...reference, rate: state.clip.rate });
  }
  return { ...relinkDocument(content, document.format, changes, document.reading), relinked };
}

/**
 * The edit of a document with its clips remembering what `referenceTo` says, for writing it in another format. Clips that
 * are read otherwise than the document states them are written as their files count: the same frames, rightly named.
 */
export function relinkedEdit(
  document: DocumentRecord,
  states: readonly ClipState[],
  referenceTo: ReferenceTo,
): { edit: Edit; relinked: number } {
  let relinked = 0;
  const clips = states
    .filter((s) => s.clip.documentId === document.id)
    .map((state) => {
      const body = bodyOf(state.clip);
      const clip = { ...body, ...readAs(body, state.clip.interpretation) };
      const reference = referenceTo(state);
      if (!reference) return clip;
      relinked += 1;
      return { ...clip, remembered: reference.path, reel: reference.reel ?? clip.reel };
    });
  const read = new Map(
    states
      .filter((s) => s.clip.documentId === document.id && s.clip.interpretation)
      .map(({ clip }) => [clip.key, { clip: { ...clip, ...clip.asStated }, interpretation: clip.interpretation! }]),
  );
  const asRead = (event: EditEvent): EditEvent => {
    const how = event.clipKey !== null && event.source ? read.get(event.clipKey) : undefined;
    return how ? { ...event, source: rangeReadAs(event.source!, how.clip, how.interpretation) } : event;
  };
  const { title, bins } = document;
  const timelines = document.timelines.map((t) => (read.size ? { ...t, events: t.events.map(asRead) } : t));
  return { edit: { title, bins, timelines, clips }, relinked };
}

export type Exported = {
  readonly name: string;
  readonly content: Uint8Array;
  readonly relinked: number;
  readonly reencoded: boolean;
};

/**
 * A document for use elsewhere: every clip that has its file refers to it, by a path as the receiving machine knows it.
 * In its own format only references (and reels, if asked for) change; in another one it is written anew.
 */
export async function exportDocument({ db }: Looking, documentId: DocumentId, query: ExportQuery): Promise<Exported> {
  const document = await documentStore.getDocument(db, documentId);
  const { states } = await loadProject(db, document.projectId);
  const pathOf = pathsFor(query);
  const withReels = query.reels === 'true';
  const referenceTo: ReferenceTo = ({ status, tied }) => {
    if (!tied || (status.status !== 'linked' && status.status !== 'short')) return null;
    const reel = withReels ? (tied.file.facts?.reel ?? undefined) : undefined;
    return { path: pathOf(tied), sequence: tied.file.sequence, reel };
  };
  const isOwn =
    (query.format ?? document.format) === document.format && query.timeline === undefined && query.track === undefined;
  if (isOwn) {
    const { bytes, reencoded, relinked } = await relinkedContent(db, document, states, referenceTo);
    return { name: document.name, content: bytes, relinked, reencoded };
  }
  const format = formatOf(query.format ?? document.format);
  const { edit, relinked } = relinkedEdit(document, states, referenceTo);
  const { timeline: timelineKey, track } = query;
  if (timelineKey !== undefined && !edit.timelines.some((t) => t.key === timelineKey))
    throw new UserProblem({ code: 'no-such-timeline', document: document.name });
  if (format.id === 'edl' && edit.timelines.length === 0)
    throw new UserProblem({ code: 'no-timeline', document: document.name });
  const text = format.write(edit, { timelineKey, track });
  const stem = splitExtension(document.name).stem;
  const name = `${[stem, ...(track ? [track] : [])].join('_')}.${format.extensions[0]!}`;
  return { name, content: new TextEncoder().encode(text), relinked, reencoded: false };
}

/** How a file's path is written: whole, seen from the folder the document will lie in, or under the receiver's roots. */
function pathsFor({ paths, folder, roots }: ExportQuery): (tied: NonNullable<ClipState['tied']>) => string {
  const whole = ({ place, file }: NonNullable<ClipState['tied']>) => join(place.path, file.folder, file.name);
  switch (paths) {
    case 'absolute':
      return whole;
    case 'relative': {
      if (!folder || !isAbsolute(folder)) throw new UserProblem({ code: 'folder-wanted-for-relative-paths' });
      return (tied) => relative(folder, whole(tied)) || dirname(whole(tied));
    }
    case 'place-roots':
      return ({ place, file }) => {
        const root = roots?.[place.id];
        // Without a word about a place, its own name under /Volumes says most to most machines.
        const base = (root ?? `/Volumes/${place.name}`).replaceAll('\\', '/').replace(/\/+$/, '');
        return [base, ...(file.folder === '' ? [] : [file.folder]), file.name].join('/');
      };
  }
}
