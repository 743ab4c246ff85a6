import { isCodedFilm } from '@legame/core/consolidate';
import { basename, posix } from 'node:path';
import type { Problem, ProblemCode } from '@legame/core/contract';
import { bundleParts, bundleVersion } from '@legame/core/bundle';
import type { HandoffId } from '@legame/core/model';
import type { JobContext } from '../context.ts';
import { isInside } from '../disk/fence.ts';
import { driveOf } from '../disk/removable.ts';
import { tell } from '../events/tell.ts';
import { madeFolder } from '../made/folders.ts';
import { Ours } from '../made/ours.ts';
import { ReaderProcess } from '../media/readerProcess.ts';
import { problemFor, UserProblem } from '../problems.ts';
import { handoffRunStore } from '../stores/handoffRuns.ts';
import { handoffStore, type HandoffFile, type HandoffRecord, type HandoffTarget } from '../stores/handoffs.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { groundOf, placeStore, type PlaceRecord } from '../stores/places.ts';
import type { Copied, CopyOptions } from '../media/copying.ts';
import { copyVerified, writeVerified, type Copy } from './copy.ts';
import { inLanes, inTurns, type InTurn } from './lanes.ts';
import { bundleContent, writePapers } from './papers.ts';
import { writeZipVerified } from './zip.ts';

/**
 * Carries a planned handoff out: copies and verifies file by file, holds all of them once more against what was proven,
 * then writes the relinked timelines and the manifest beside them. What is verified is recorded at once, so it can stop
 * at any point and go on from there.
 */
export async function runHandoff(job: JobContext, id: HandoffId): Promise<void> {
  const { db, signal } = job;
  const handoff = await handoffStore.getHandoff(db, id);
  const ours: Ours[] = [];
  try {
    for (const [i, target] of handoff.targets.entries())
      ours.push(
        await Ours.in(db, i === 0 ? `handoff:${id}` : `handoff:${id}:${i + 1}`, await folderOf(job, id, target)),
      );
    const left = (await handoffStore.listFiles(db, id)).filter((f) => f.state !== 'verified');
    const startedMs = performance.now();
    if (handoff.layout === 'otioz') await writeZippedBundle(job, handoff, ours);
    else await copyFiles(job, handoff, ours);
    const ms = performance.now() - startedMs;
    if (handoff.layout !== 'otioz') await proveAgain(job, handoff, ours);
    const files = await handoffStore.listFiles(db, id);
    const before = new Set(left.map((f) => f.position));
    const written = files.filter((f) => f.state === 'verified' && before.has(f.position));
    await measured(job, handoff, written, ms);
    // What went whole instead of in parts is known only now.
    await writePapers(job, await handoffStore.getHandoff(db, id), ours, files);
    const failed = files.filter((f) => f.state === 'failed');
    if (failed.length > 0) {
      const first = failed[0]!.problem;
      throw new UserProblem({ code: 'files-not-copied', failed: failed.length, of: files.length, first });
    }
    await handoffStore.setState(db, id, 'done');
  } catch (error) {
    if (signal.aborted)
      await handoffStore.setState(db, id, signal.reason === 'cancel' ? 'cancelled' : 'running', { problem: null });
    else await handoffStore.setState(db, id, 'failed', { problem: problemFor(error) });
    throw error;
  } finally {
    for (const one of ours) await one.sweep();
    await tell(db, 'project', handoff.projectId);
  }
}

/** How long it took is what the next one onto these drives is told by. */
async function measured(
  { db }: JobContext,
  { targets }: HandoffRecord,
  written: readonly HandoffFile[],
  ms: number,
): Promise<void> {
  const bytes = written.reduce((sum, f) => sum + f.sizeInBytes, 0);
  if (bytes === 0) return;
  const isCoded = written.some((f) => isCodedFilm(f.trim?.coded));
  for (const drive of new Set(await Promise.all(targets.map(({ folder }) => driveOf(folder)))))
    await handoffRunStore.insert(db, { drive, isCoded, files: written.length, bytes, ms });
}

const folderOf = ({ db }: JobContext, id: HandoffId, { folder, parent, made, isIntended }: HandoffTarget) =>
  madeFolder({
    path: folder,
    parent,
    made,
    isIntended,
    intend: (intended) => handoffStore.intendFolder(db, id, folder, intended),
    note: (identity) => handoffStore.markFolderMade(db, id, folder, identity),
  });

/** What stops everything: a target that is full, away or another drive. One bad source does not. */
const stopping: readonly ProblemCode[] = [
  'drive-full',
  'no-room',
  'target-not-writable',
  'folder-not-there',
  'drive-failed',
  'another-folder-there',
];

async function copyFiles(job: JobContext, handoff: HandoffRecord, ours: readonly Ours[]): Promise<void> {
  const { db, report } = job;
  const files = await handoffStore.listFiles(db, handoff.id);
  for (const one of ours) await one.note(files.map((f) => f.target));
  const total = files.reduce((sum, f) => sum + f.sizeInBytes, 0);
  const places = await placeStore.listPlaces(db);
  let done = 0;
  const copyOne = async (copier: ReaderProcess, { file, next }: InTurn, signal: AbortSignal) => {
    let written = 0;
    const tellOf = (bytes: number) => {
      done += bytes - written;
      written = bytes;
      return report({ done, of: total, unit: 'bytes', doing: { code: 'copying', file: basename(file.target) } });
    };
    const onBytes = (bytes: number) => void tellOf(Math.min(file.sizeInBytes, written + bytes));
    const options = { signal, onBytes, also: handoff.plan.choices.alsoHashed };
    await tellOf(0);
    try {
      const copy = await sourceOf(job, file, places);
      const made = await copyOnce(copier, copy, file, ours, { ...options, next }).catch((error: unknown) =>
        wholeInstead(error, job, handoff, file, (whole) =>
          copyOnce(copier, { ...copy, trim: null }, whole, ours, options),
        ),
      );
      if (made)
        await handoffStore.setFile(db, handoff.id, file.position, { state: 'verified', problem: null, ...made });
    } catch (error) {
      if (signal.aborted || !(error instanceof UserProblem) || isTargets(error, ours)) throw error;
      await fail(job, handoff, file, error.problem);
    }
    await tellOf(file.sizeInBytes);
  };
  await inLanes(inTurns(files), job.signal, copyOne);
  await report({ done: total, of: total, unit: 'bytes', doing: { code: 'finishing' } });
}

/**
 * A part that cannot be proven to be the same is thrown away, and the whole file goes: it is noted first, so that whoever
 * goes on after a crash does the same. What was to be coded anew stays undone: the receiver could not use it as it is.
 */
async function wholeInstead<T>(
  error: unknown,
  { db }: JobContext,
  handoff: HandoffRecord,
  file: HandoffFile,
  copyWhole: (whole: HandoffFile) => Promise<T>,
): Promise<T | null> {
  const isUnproven = error instanceof UserProblem && error.problem.code === 'trim-not-proven';
  if (!isUnproven || !file.trim || file.trim.coded) throw error;
  return (await handoffStore.goWhole(db, handoff.id, file)) ? copyWhole({ ...file, trim: null }) : null;
}

/** A source that is away has the same codes as a target that is. */
function isTargets({ code, problem }: UserProblem, ours: readonly Ours[]): boolean {
  if (!stopping.includes(code)) return false;
  if (!('path' in problem) || !problem.path) return true;
  const { path } = problem;
  return ours.some(({ folder }) => isInside(folder.path, path));
}

/** Makes a file wherever it is not there yet. Where one of the folders has it, the others get it from there. */
async function copyOnce(
  copier: ReaderProcess,
  copy: Copy,
  file: HandoffFile,
  ours: readonly Ours[],
  { next = [], ...options }: CopyOptions & { readonly next?: readonly HandoffFile[] },
): Promise<Copied> {
  const absent: Ours[] = [];
  let made: { readonly ours: Ours; readonly copied: Copied } | null = null;
  for (const one of ours) {
    const state = await one.stateOf(file.target, options.signal);
    const { xxh64, others, identity } = one.of(file.target);
    if (state === 'absent') absent.push(one);
    else if (state === 'ours' && xxh64 !== null && identity)
      made = { ours: one, copied: { xxh64, sizeInBytes: identity.sizeInBytes, others, lost: file.lost } };
    // Never replaced, whoever put it there: also not what was ours and was changed since.
    else throw new UserProblem({ code: 'target-exists', path: one.folder.resolve(file.target), when: 'copied' });
  }
  if (!made) {
    const [first] = absent;
    // What has its name already is not made again.
    const parts = next.flatMap(({ target, trim }) =>
      trim && !first!.of(target).identity ? { aside: first!.of(target).aside, trim } : [],
    );
    return copyVerified(copier, { ...copy, next: parts }, absent, options);
  }
  if (absent.length === 0) return made.copied;
  const from = { ...made.ours.folder.ground, file: file.target };
  const expected = { sizeInBytes: made.copied.sizeInBytes, modifiedMs: null, isFrame: false, fingerprint: null };
  const again = await copyVerified(
    copier,
    { source: from, expected, trim: null, target: file.target },
    absent,
    options,
  );
  if (again.xxh64 !== made.copied.xxh64)
    throw new UserProblem({ code: 'copy-changed', path: made.ours.folder.resolve(file.target) });
  return made.copied;
}

/** A source lies where it lay when planned; one that was renamed since through Legame is known by its record. */
async function sourceOf(
  { db }: Pick<JobContext, 'db'>,
  file: HandoffFile,
  places: readonly PlaceRecord[],
): Promise<Copy> {
  const place = file.placeId
    ? places.find((p) => p.id === file.placeId)
    : places.find((p) => isInside(p.path, file.source));
  if (!place) throw new UserProblem({ code: 'in-no-place', path: file.source });
  const planned = file.path ?? file.source.slice(place.path.length + 1);
  const [record] = file.mediaFileId ? await mediaFileStore.listByIds(db, [file.mediaFileId]) : [];
  const isElsewhere = record && !record.gone && !record.sequence && record.placeId === place.id;
  const path = isElsewhere ? posix.join(record.folder, record.name) : planned;
  const { expected, trim, target } = file;
  return { source: { ...groundOf(place), file: path }, expected, trim, target };
}

const fail = (job: JobContext, handoff: HandoffRecord, file: HandoffFile, problem: Problem) =>
  handoffStore.setFile(job.db, handoff.id, file.position, { state: 'failed', xxh64: null, problem });

/** What was proven hours ago is held against the disk once more: anything touched since is hashed again. */
async function proveAgain(job: JobContext, handoff: HandoffRecord, ours: readonly Ours[]): Promise<void> {
  for (const file of await handoffStore.listFiles(job.db, handoff.id)) {
    job.signal.throwIfAborted();
    if (file.state !== 'verified') continue;
    for (const one of ours) {
      const state = await one.stateOf(file.target, job.signal);
      if (state === 'ours' && one.of(file.target).xxh64 === file.xxh64) continue;
      await fail(job, handoff, file, { code: 'copy-changed', path: one.folder.resolve(file.target) });
    }
  }
}

/** What goes into a zip: files as they lie, and parts of files, which are cut out beside it first. */
async function partsOfZip(
  job: JobContext,
  handoff: HandoffRecord,
  files: readonly HandoffFile[],
  places: readonly PlaceRecord[],
  ours: Ours,
  options: Parameters<typeof writeVerified>[3],
): Promise<{ name: string; copy: Copy }[]> {
  const keyOf = ({ position }: HandoffFile) => `part ${position}`;
  await ours.note(files.filter((f) => f.trim).map(keyOf));
  const cutter = new ReaderProcess();
  const parts: { name: string; copy: Copy }[] = [];
  try {
    for (const file of files) {
      const copy = await sourceOf(job, file, places);
      if (!file.trim) {
        parts.push({ name: file.target, copy });
        continue;
      }
      const { aside } = ours.of(keyOf(file));
      const { target } = file;
      const part = await writeVerified(cutter, copy, [{ folder: ours.folder, aside }], options).then(
        ({ sizeInBytes }): Copy => {
          const expected = { sizeInBytes, modifiedMs: null, isFrame: false, fingerprint: null };
          return { source: { ...ours.folder.ground, file: aside }, expected, trim: null, target };
        },
        (error: unknown) =>
          wholeInstead(error, job, handoff, file, () => Promise.resolve<Copy>({ ...copy, trim: null })),
      );
      if (part) parts.push({ name: target, copy: part });
    }
  } finally {
    cutter.stop();
  }
  return parts;
}

/** The whole bundle as one zip of stored files, beside its manifest. A zip is written in one go: stopped, it begins anew. */
async function writeZippedBundle(job: JobContext, handoff: HandoffRecord, targets: readonly Ours[]): Promise<void> {
  const { db, signal, report } = job;
  const files = await handoffStore.listFiles(db, handoff.id);
  const name = `${basename(handoff.folder)}.otioz`;
  for (const one of targets) {
    await one.note([name]);
    if ((await one.stateOf(name, signal)) === 'another')
      throw new UserProblem({ code: 'target-exists', path: one.folder.resolve(name), when: 'copied' });
  }
  const ours = targets[0]!;
  if ((await ours.stateOf(name, signal)) === 'ours') return copyZip(job, handoff, name, targets);
  const places = await placeStore.listPlaces(db);
  const total = files.reduce((sum, f) => sum + f.sizeInBytes, 0);
  let done = 0;
  const onBytes = (bytes: number) => {
    done += bytes;
    void report({ done: Math.min(done, total), of: total, unit: 'bytes', doing: { code: 'writing', file: name } });
  };
  const media = await partsOfZip(job, handoff, files, places, ours, { signal, onBytes });
  // Every file either is in the zip or the zip is not there, so the document can count on all of them.
  const inZip = (await handoffStore.listFiles(db, handoff.id)).map((f) => ({ ...f, state: 'verified' as const }));
  const content = await bundleContent(db, await handoffStore.getHandoff(db, handoff.id), inZip);
  const parts = [
    { name: bundleParts.version, text: bundleVersion },
    { name: bundleParts.content, text: content },
    ...media,
  ];
  const { alsoHashed: also } = handoff.plan.choices;
  const written = await writeZipVerified(ours.folder, ours.of(name).aside, parts, { signal, onBytes, also });
  for (const file of inZip)
    await handoffStore.setFile(db, handoff.id, file.position, {
      state: 'verified',
      xxh64: written.parts.get(file.target) ?? null,
      problem: null,
    });
  await ours.name(name, written.xxh64, written.others);
  await copyZip(job, handoff, name, targets);
}

/** A zip is written in one go, so that it is written once: the other folders get it from the first. */
async function copyZip(
  { signal, report }: JobContext,
  { plan }: HandoffRecord,
  name: string,
  [first, ...others]: readonly Ours[],
): Promise<void> {
  const absent: Ours[] = [];
  for (const one of others) if ((await one.stateOf(name, signal)) === 'absent') absent.push(one);
  if (absent.length === 0) return;
  const { sizeInBytes } = first!.of(name).identity!;
  const expected = { sizeInBytes, modifiedMs: null, isFrame: false, fingerprint: null };
  const source = { ...first!.folder.ground, file: name };
  const copier = new ReaderProcess();
  let done = 0;
  const onBytes = (bytes: number) => {
    done += bytes;
    void report({ done, of: sizeInBytes, unit: 'bytes', doing: { code: 'copying', file: name } });
  };
  try {
    const options = { signal, onBytes, also: plan.choices.alsoHashed };
    await copyVerified(copier, { source, expected, trim: null, target: name }, absent, options);
  } finally {
    copier.stop();
  }
}
