import { basename } from 'node:path';
import { bundleParts, bundleVersion } from '@legame/core/bundle';
import { decodeText } from '@legame/core/formats';
import { safeName } from '@legame/core/paths';
import { collectTimelines } from '@legame/core/project';
import type { Database } from '../db/database.ts';
import { loadProject } from '../clips/project.ts';
import { type ProjectState } from '../clips/state.ts';
import { relinkedContent, relinkedEdit } from '../documents/relinked.ts';
import type { Ours } from '../made/ours.ts';
import type { HandoffFile, HandoffRecord } from '../stores/handoffs.ts';
import { referencesInto } from './references.ts';
import { documentsInScope } from './scope.ts';

/** What lies beside the media: the relinked documents, and the manifest. */
export async function writePapers(
  db: Database,
  handoff: HandoffRecord,
  ours: Ours,
  files: readonly HandoffFile[],
): Promise<void> {
  if (handoff.layout === 'folder') await writeTimelines(db, handoff, ours, files);
  if (handoff.layout === 'otiod') {
    await ours.write(bundleParts.content, await bundleContent(db, handoff, files));
    await ours.write(bundleParts.version, bundleVersion);
  }
  await ours.write(manifestName, manifestOf(handoff, ours, files));
}

const manifestName = 'manifest.json';

/** Each document of the project beside the media, its references relative to itself. */
async function writeTimelines(
  db: Database,
  handoff: HandoffRecord,
  ours: Ours,
  files: readonly HandoffFile[],
): Promise<void> {
  const project = await loadProject(db, handoff.projectId);
  const referenceTo = referencesInto(handoff, project, files);
  for (const { document, name } of documentNames(project, handoff.timelines)) {
    const { bytes } = await relinkedContent(db, document, project.states, referenceTo);
    await ours.write(name, bytes);
  }
}

/** The one document of a bundle: the documents in scope with references into it, OTIO to the letter, lists as OTIO. */
export async function bundleContent(
  db: Database,
  handoff: HandoffRecord,
  files: readonly HandoffFile[],
): Promise<string> {
  const project = await loadProject(db, handoff.projectId);
  const referenceTo = referencesInto(handoff, project, files);
  const parts = await Promise.all(
    documentsInScope(project.documents, handoff.timelines).map(async (document) => {
      if (document.format !== 'otio') return relinkedEdit(document, project.states, referenceTo);
      const { bytes } = await relinkedContent(db, document, project.states, referenceTo);
      return { otio: decodeText(bytes)!.text };
    }),
  );
  return collectTimelines(basename(handoff.folder).replace(/\.otiod$/, ''), parts);
}

/** File names for the documents in scope; two of one name are numbered. */
function documentNames(project: ProjectState, timelines: readonly string[] | null) {
  const taken = new Set([manifestName]);
  return documentsInScope(project.documents, timelines).map((document) => {
    const plain = safeName(document.name);
    let name = plain;
    for (let n = 2; taken.has(name.toLowerCase()); n += 1)
      name = plain.replace(/(\.[^.]*)?$/, (ending) => `_${n}${ending}`);
    taken.add(name.toLowerCase());
    return { document, name };
  });
}

/** What the next person checks the set against: every file with size and hash, where it came from, and what is not here. */
function manifestOf(handoff: HandoffRecord, ours: Ours, files: readonly HandoffFile[]): string {
  const sources = new Map(handoff.plan.recordings.map((r) => [r.mediaFileId, r]));
  const entries = files
    .filter((f) => f.state === 'verified')
    .map((f) => {
      const planned = f.mediaFileId ? sources.get(f.mediaFileId) : undefined;
      // In a zip the file has no size of its own on the disk; it is the source's.
      const size = handoff.layout === 'otioz' ? f.sizeInBytes : ours.of(f.target).identity?.sizeInBytes;
      return {
        path: f.target,
        sizeInBytes: size ?? f.sizeInBytes,
        xxh64: f.xxh64,
        from: { place: planned?.placeName, path: planned?.source, units: f.trim?.range },
        usedBy: planned?.usedBy,
      };
    });
  const manifest = {
    legame: { manifest: 1, handoff: handoff.id, plannedAt: handoff.createdAt.toISOString() },
    files: entries,
    notIncluded: [
      ...handoff.plan.leftOut.map((l) => ({ clip: l.clipName, reason: l.reason })),
      ...files.filter((f) => f.state !== 'verified').map((f) => ({ path: f.target, reason: f.problem })),
    ],
    timelines: handoff.plan.timelines,
  };
  return `${JSON.stringify(manifest, null, 2)}\n`;
}
