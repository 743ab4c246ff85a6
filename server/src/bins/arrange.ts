import { isDeepStrictEqual } from 'node:util';
import {
  binBy,
  faultOf,
  faultOfMove,
  isSameBin,
  isWithin,
  movedPath,
  nothingNoted,
  orNothing,
  pathsOfBins,
  uniteBins,
  withValues,
  type BinFault,
  type BinPath,
  type FileRule,
  type Label,
  type Noted,
} from '@legame/core/bins';
import type { Act } from '@legame/core/contract';
import type { ClipId, ProjectId } from '@legame/core/model';
import { parseRememberedPath } from '@legame/core/paths';
import { loadProject } from '../clips/project.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { act } from '../history/act.ts';
import { UserProblem } from '../problems.ts';
import { clipNoteStore, type ClipNotes } from '../stores/clipNotes.ts';
import { documentStore } from '../stores/documents.ts';
import type { ClipChange, DeskChange } from '../stores/journal.ts';
import { projectStore } from '../stores/projects.ts';

/** Puts clips into a bin, which is made where there is none; an empty path is the project itself. */
export async function fileClips(
  { db }: Context,
  projectId: ProjectId,
  clipIds: readonly ClipId[],
  bin: BinPath,
): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    if (bin.length > 0) refuse(bin, faultOf(bin));
    const clips = await withBins(trx, projectId, clipIds);
    return act(
      trx,
      projectId,
      'file',
      filings(clips, () => bin),
    );
  });
}

/** Puts each clip into the bin that a rule names for it, under another; of which nothing tells stays where it lies. */
export async function fileClipsBy(
  { db }: Context,
  projectId: ProjectId,
  clipIds: readonly ClipId[],
  { rule, under }: { readonly rule: FileRule; readonly under: BinPath },
): Promise<Act> {
  // Outside of the turn, where the project as it was looked at last is at hand.
  const { states } = await loadProject(db, projectId);
  const bins = new Map(
    states.map(({ clip, tied }) => {
      const remembered = clip.remembered === null ? null : parseRememberedPath(clip.remembered);
      const folders = tied
        ? [tied.place.name, ...tied.file.folder.split('/').filter(Boolean)]
        : [...(remembered?.volume ? [remembered.volume] : []), ...(remembered?.folders ?? [])];
      const { kind, reel } = clip;
      return [clip.id, binBy(rule, { kind, reel, folders, writtenMs: tied?.file.modifiedMs ?? null })] as const;
    }),
  );
  return projectStore.inTurn(db, projectId, async (trx) => {
    const clips = await withBins(trx, projectId, clipIds);
    const changes = filings(clips, (clip) => {
      const bin = bins.get(clip.id);
      return bin ? [...under, ...bin] : clip.bin;
    });
    return act(trx, projectId, 'file', changes);
  });
}

/** Makes a bin, with those it stands in. */
export async function makeBin({ db }: Context, projectId: ProjectId, bin: BinPath): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    refuse(bin, faultOf(bin));
    const { bins } = await projectStore.getProject(trx, projectId);
    return act(trx, projectId, 'edit-bins', binsChange(bins, [...bins, bin]));
  });
}

/** Gives a bin another name or another place, with all that is in it; onto one that is there, the two are merged. */
export async function moveBin(
  { db }: Context,
  projectId: ProjectId,
  { bin, to }: { readonly bin: BinPath; readonly to: BinPath },
): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    refuse(bin, faultOfMove(bin, to));
    const { bins } = await projectStore.getProject(trx, projectId);
    const clips = await withBins(trx, projectId, null);
    const changes = filings(clips, (clip) => movedPath(clip.bin, bin, to));
    const now = bins.map((one) => movedPath(one, bin, to));
    for (const path of now) refuse(path, faultOf(path));
    return act(trx, projectId, 'edit-bins', [...binsChange(bins, [...now, to]), ...changes]);
  });
}

/** Takes a bin away with those inside; the clips in them go up to where it stood. */
export async function removeBin({ db }: Context, projectId: ProjectId, bin: BinPath): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    const { bins } = await projectStore.getProject(trx, projectId);
    const clips = await withBins(trx, projectId, null);
    const changes = filings(clips, (clip) => (isWithin(clip.bin, bin) ? bin.slice(0, -1) : clip.bin));
    const kept = bins.filter((one) => !isWithin(one, bin));
    return act(trx, projectId, 'edit-bins', [...binsChange(bins, kept), ...changes]);
  });
}

/** Gives clips a label, or takes it from them. */
export async function labelClips(
  { db }: Context,
  projectId: ProjectId,
  clipIds: readonly ClipId[],
  label: string | null,
): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    const { labels } = await projectStore.getProject(trx, projectId);
    if (label !== null && !labels.some((l) => l.id === label)) throw new UserProblem({ code: 'label-unknown' });
    const clips = await clipNoteStore.listNotes(trx, projectId, clipIds);
    const changes = clips.flatMap((clip) => noteChange(clip, orNothing({ ...(clip.noted ?? nothingNoted), label })));
    return act(trx, projectId, 'label', changes);
  });
}

/** Says which labels there are. A clip whose label is gone has none, until that comes back by Undo. */
export async function setLabels({ db }: Context, projectId: ProjectId, labels: readonly Label[]): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    const { labels: before } = await projectStore.getProject(trx, projectId);
    const isSame = JSON.stringify(before) === JSON.stringify(labels);
    return act(trx, projectId, 'edit-labels', isSame ? [] : [{ what: 'labels', before, after: labels }]);
  });
}

/** Writes into columns of clips: a cell, a column of a selection, or what was pasted, as one act. */
export async function writeNotes(
  { db }: Context,
  projectId: ProjectId,
  written: readonly { readonly clipIds: readonly ClipId[]; readonly values: Readonly<Record<string, string>> }[],
): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    const values = new Map<ClipId, Record<string, string>>();
    for (const one of written) for (const id of one.clipIds) values.set(id, { ...values.get(id), ...one.values });
    const clips = await clipNoteStore.listNotes(trx, projectId, [...values.keys()]);
    const changes = clips.flatMap((clip) => noteChange(clip, withValues(clip, values.get(clip.id)!)));
    return act(trx, projectId, 'note', changes);
  });
}

type InBin = ClipNotes & { readonly bin: BinPath; readonly ofDocument: BinPath };

/** Clips with the bin each lies in, and that of its document. */
async function withBins(trx: Transaction, projectId: ProjectId, ids: readonly ClipId[] | null): Promise<InBin[]> {
  const documents = await documentStore.listDocuments(trx, projectId);
  const paths = new Map(documents.map((d) => [d.id as string, pathsOfBins(d.bins)]));
  return (await clipNoteStore.listNotes(trx, projectId, ids)).map((clip) => {
    const ofDocument = paths.get(clip.documentId)?.get(clip.binKey ?? '') ?? [];
    return { ofDocument, bin: clip.noted?.bin ?? ofDocument, ...clip };
  });
}

/** Notes of clips that come to lie in another bin; back in its document's, nothing is noted of that. */
const filings = (clips: readonly InBin[], binFor: (clip: InBin) => BinPath): ClipChange[] =>
  clips.flatMap((clip) => {
    const bin = binFor(clip);
    if (isSameBin(bin, clip.bin)) return [];
    const own = isSameBin(bin, clip.ofDocument) ? null : bin;
    return noteChange(clip, orNothing({ ...(clip.noted ?? nothingNoted), bin: own }));
  });

const noteChange = ({ id, noted }: ClipNotes, after: Noted | null): ClipChange[] =>
  isDeepStrictEqual(noted, after) ? [] : [{ what: 'note', clipId: id, before: noted, after }];

function binsChange(before: readonly BinPath[], wanted: readonly BinPath[]): DeskChange[] {
  const after = uniteBins(wanted);
  return JSON.stringify(before) === JSON.stringify(after) ? [] : [{ what: 'bins', before, after }];
}

function refuse(bin: BinPath, why: BinFault | null): void {
  if (why) throw new UserProblem({ code: 'bin-refused', bin, why });
}
