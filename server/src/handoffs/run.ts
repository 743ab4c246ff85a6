import type { Problem } from '@legame/core/contract';
import { basename, dirname } from 'node:path';
import { stat } from 'node:fs/promises';
import { decodeText } from '@legame/core/formats';
import type { HandoffId, MediaFileId } from '@legame/core/model';
import { frameName, safeName } from '@legame/core/paths';
import { collectTimelines } from '@legame/core/project';
import { bundleParts, bundleVersion } from '@legame/core/bundle';
import type { Database } from '../db/database.ts';
import { copyVerified, hashFile } from './copy.ts';
import { writeZipVerified } from './zip.ts';
import { FencedFolder } from '../disk/writing.ts';
import { problemFor, UserProblem } from '../problems.ts';
import { handoffStore, type HandoffFile, type HandoffRecord } from '../stores/handoffs.ts';
import { placeStore } from '../stores/places.ts';
import { isInside } from '../disk/fence.ts';
import { loadProject } from '../clips/project.ts';
import { type ProjectState } from '../clips/state.ts';
import { documentsInScope } from './scope.ts';
import type { JobContext } from '../context.ts';
import { relinkedContent, relinkedEdit, type ReferenceTo } from '../documents/relinked.ts';
import { tell } from '../events/tell.ts';

/**
 * Carries a planned handoff out: copies and verifies file by file, then writes the relinked timelines and the
 * manifest beside them. What is verified is recorded at once, so it can stop at any point and go on from there.
 */
export async function runHandoff(job: JobContext, id: HandoffId): Promise<void> {
  const { db, signal } = job;
  const handoff = await handoffStore.getHandoff(db, id);
  try {
    const folder = await FencedFolder.make(dirname(handoff.folder), basename(handoff.folder), {
      ours: handoff.folderMade,
    });
    await handoffStore.markFolderMade(db, id);
    if (handoff.layout === 'otioz') await writeZippedBundle(job, handoff, folder);
    else await copyFiles(job, handoff, folder);
    const files = await handoffStore.listFiles(db, id);
    if (handoff.layout === 'folder') await writeTimelines(job, handoff, folder, files);
    if (handoff.layout === 'otiod') {
      await rewrite(folder, bundleParts.content, await bundleContent(job.db, handoff, files));
      await rewrite(folder, bundleParts.version, bundleVersion);
    }
    await writeManifest(handoff, folder, files);
    const failed = files.filter((f) => f.state === 'failed');
    if (failed.length > 0) {
      const first = failed[0]!.problem;
      const problem: Problem = { code: 'files-not-copied', failed: failed.length, of: files.length, first };
      await handoffStore.setState(db, id, 'failed', { problem });
      throw new UserProblem(problem);
    }
    await handoffStore.setState(db, id, 'done');
  } catch (error) {
    if (signal.aborted)
      await handoffStore.setState(db, id, signal.reason === 'cancel' ? 'cancelled' : 'running', { problem: null });
    else await handoffStore.setState(db, id, 'failed', { problem: problemFor(error) });
    throw error;
  } finally {
    await tell(db, 'project', handoff.projectId);
  }
}

async function copyFiles(
  { db, signal, report }: JobContext,
  handoff: HandoffRecord,
  folder: FencedFolder,
): Promise<void> {
  const files = await handoffStore.listFiles(db, handoff.id);
  const total = files.reduce((sum, f) => sum + f.sizeInBytes, 0);
  const placePaths = (await placeStore.listPlaces(db)).map((p) => p.path);
  let done = 0;
  for (const file of files) {
    signal.throwIfAborted();
    if (file.state === 'verified' && (await folder.has(file.target))) {
      done += file.sizeInBytes;
      continue;
    }
    const startedAt = done;
    await report({ done, of: total, unit: 'bytes', doing: { code: 'copying', file: basename(file.target) } });
    const onBytes = (bytes: number) => {
      done += bytes;
      void report({ done, of: total, unit: 'bytes', doing: { code: 'copying', file: basename(file.target) } });
    };
    try {
      if (!placePaths.some((path) => isInside(path, file.source)))
        throw new UserProblem({ code: 'in-no-place', path: file.source });
      const xxh64 =
        (await finishedBefore(file, folder, signal)) ??
        (await copyVerified(file.source, folder, file.target, { signal, onBytes }));
      await handoffStore.setFile(db, handoff.id, file.position, { state: 'verified', xxh64, problem: null });
    } catch (error) {
      // A full or unplugged target stops everything; one bad source does not.
      if (
        signal.aborted ||
        !(error instanceof UserProblem) ||
        ['drive-full', 'no-room', 'target-not-writable', 'folder-not-there'].includes(error.code)
      )
        throw error;
      await handoffStore.setFile(db, handoff.id, file.position, {
        state: 'failed',
        xxh64: null,
        problem: error.problem,
      });
    }
    done = startedAt + file.sizeInBytes;
  }
  await report({ done: total, of: total, unit: 'bytes', doing: { code: 'finishing' } });
}

/** A copy that was named just before a crash, and not recorded: proven by hashing both, or left for the user. */
async function finishedBefore(file: HandoffFile, folder: FencedFolder, signal: AbortSignal): Promise<string | null> {
  if (!(await folder.has(file.target))) return null;
  const [source, copy] = [
    await hashFile(file.source, { signal }),
    await hashFile(folder.resolve(file.target), { signal, direct: true }),
  ];
  if (source === copy) return copy;
  throw new UserProblem({ code: 'target-exists', path: file.target, when: 'copied' });
}

/** Each document of the project beside the media, its references relative to itself. */
async function writeTimelines(
  { db }: JobContext,
  handoff: HandoffRecord,
  folder: FencedFolder,
  files: readonly HandoffFile[],
): Promise<void> {
  const project = await loadProject(db, handoff.projectId);
  const targets = targetsByFile(handoff, project, files);
  for (const { document, name } of documentNames(project, handoff.timelines)) {
    const { bytes } = await relinkedContent(db, document, project.states, referenceInto(targets));
    await rewrite(folder, name, bytes);
  }
}

/** References into the handoff, of the clips whose file came along. */
const referenceInto =
  (targets: ReadonlyMap<MediaFileId, string>): ReferenceTo =>
  ({ tied }) => {
    const target = tied ? targets.get(tied.file.id) : undefined;
    return tied && target ? { path: target, sequence: tied.file.sequence } : null;
  };

/** One from an earlier, incomplete run is Legame's own, in a folder of its own making, and knows fewer copies. */
async function rewrite(folder: FencedFolder, name: string, content: Uint8Array | string): Promise<void> {
  await folder.discard(name);
  await folder.writeWhole(name, content);
}

/** The one document of a bundle: the documents in scope with references into it, OTIO to the letter, lists as OTIO. */
async function bundleContent(db: Database, handoff: HandoffRecord, files: readonly HandoffFile[]): Promise<string> {
  const project = await loadProject(db, handoff.projectId);
  const referenceTo = referenceInto(targetsByFile(handoff, project, files));
  const parts = await Promise.all(
    documentsInScope(project.documents, handoff.timelines).map(async (document) => {
      if (document.format !== 'otio') return relinkedEdit(document, project.states, referenceTo);
      const { bytes } = await relinkedContent(db, document, project.states, referenceTo);
      return { otio: decodeText(bytes)!.text };
    }),
  );
  return collectTimelines(basename(handoff.folder).replace(/\.otiod$/, ''), parts);
}

/** The whole bundle as one zip of stored files, beside its manifest. A zip is written in one go: stopped, it begins anew. */
async function writeZippedBundle(
  { db, signal, report }: JobContext,
  handoff: HandoffRecord,
  folder: FencedFolder,
): Promise<void> {
  const files = await handoffStore.listFiles(db, handoff.id);
  const name = `${basename(handoff.folder)}.otioz`;
  await requireKnownSources(db, files);
  const total = files.reduce((sum, f) => sum + f.sizeInBytes, 0);
  let done = 0;
  const onBytes = (bytes: number) => {
    done += bytes;
    void report({ done: Math.min(done, total), of: total, unit: 'bytes', doing: { code: 'writing', file: name } });
  };
  await folder.discard(name);
  // Every file either is in the zip or the zip is not there, so the document can count on all of them.
  const content = await bundleContent(
    db,
    handoff,
    files.map((f) => ({ ...f, state: 'verified' })),
  );
  const hashes = await writeZipVerified(
    folder,
    name,
    [
      { name: bundleParts.version, text: bundleVersion },
      { name: bundleParts.content, text: content },
      ...files.map((f) => ({ name: f.target, source: f.source })),
    ],
    { signal, onBytes },
  );
  for (const file of files)
    await handoffStore.setFile(db, handoff.id, file.position, {
      state: 'verified',
      xxh64: hashes.get(file.target) ?? null,
      problem: null,
    });
}

async function requireKnownSources(db: Database, files: readonly HandoffFile[]): Promise<void> {
  const placePaths = (await placeStore.listPlaces(db)).map((p) => p.path);
  const stray = files.find((f) => !placePaths.some((path) => isInside(path, f.source)));
  if (stray) throw new UserProblem({ code: 'in-no-place', path: stray.source });
}

/** File names for the documents in scope; two of one name are numbered. */
function documentNames(project: ProjectState, timelines: readonly string[] | null) {
  const taken = new Set(['manifest.json']);
  return documentsInScope(project.documents, timelines).map((document) => {
    const plain = safeName(document.name);
    let name = plain;
    for (let n = 2; taken.has(name.toLowerCase()); n += 1)
      name = plain.replace(/(\.[^.]*)?$/, (ending) => `_${n}${ending}`);
    taken.add(name.toLowerCase());
    return { document, name };
  });
}

/** Where each media file lies in the handoff; only files of which every part was verified. */
function targetsByFile(
  handoff: HandoffRecord,
  project: ProjectState,
  files: readonly HandoffFile[],
): Map<MediaFileId, string> {
  const incomplete = new Set(files.filter((f) => f.state !== 'verified').map((f) => f.mediaFileId));
  return new Map(
    handoff.plan.files
      .filter((planned) => !incomplete.has(planned.mediaFileId))
      .map((planned) => {
        const sequence = project.files.get(planned.mediaFileId)?.sequence;
        return [
          planned.mediaFileId,
          sequence ? planned.target.replace(/[^/]*$/, frameName(sequence, sequence.first)) : planned.target,
        ];
      }),
  );
}

/** What the next person checks the set against: every file with size and hash, where it came from, and what is not here. */
async function writeManifest(
  handoff: HandoffRecord,
  folder: FencedFolder,
  files: readonly HandoffFile[],
): Promise<void> {
  const sources = new Map(handoff.plan.files.map((f) => [f.mediaFileId, f]));
  const entries = await Promise.all(
    files
      .filter((f) => f.state === 'verified')
      .map(async (f) => {
        const planned = f.mediaFileId ? sources.get(f.mediaFileId) : undefined;
        // In a zip the file has no path of its own; its size is the plan's.
        const size = handoff.layout === 'otioz' ? f.sizeInBytes : (await stat(folder.resolve(f.target))).size;
        return {
          path: f.target,
          sizeInBytes: size,
          xxh64: f.xxh64,
          from: { place: planned?.placeName, path: planned?.source },
          usedBy: planned?.usedBy,
        };
      }),
  );
  const manifest = {
    legame: { manifest: 1, handoff: handoff.id, plannedAt: handoff.createdAt.toISOString() },
    files: entries,
    notIncluded: [
      ...handoff.plan.leftOut.map((l) => ({ clip: l.clipName, reason: l.reason })),
      ...files.filter((f) => f.state !== 'verified').map((f) => ({ path: f.target, reason: f.problem })),
    ],
    timelines: handoff.plan.timelines,
  };
  const name = 'manifest.json';
  await folder.discard(name);
  await folder.writeWhole(name, `${JSON.stringify(manifest, null, 2)}\n`);
}
