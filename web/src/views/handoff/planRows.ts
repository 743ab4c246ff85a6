import type { Handoff, PlannedContent, PlannedRecording } from '@legame/core/contract';
import { treatmentsOf, type Treatment } from '@legame/core/consolidate';
import {
  codedText,
  handlesCutText,
  isException,
  leftOutText,
  lostText,
  sidecarsText,
  tracksLeftText,
  wholeText,
} from '@legame/words/handoffs';
import { problemText } from '@legame/words/problems';

export type PlanRow = {
  readonly key: string;
  readonly name: string;
  readonly where: string;
  /** Null for a clip that cannot come. */
  readonly recording: PlannedRecording | null;
  readonly remark: { readonly text: string; readonly tone: 'missing' | 'changed' | 'quiet' } | null;
  readonly sizeInBytes: number | null;
  readonly wholeInBytes: number | null;
  readonly proof: Proof | null;
  /** The file with which something else can be done than with its kind, and what is done by kind or by choice. */
  readonly treatable: Treatable | null;
};
export type Treatable = {
  readonly mediaFileId: PlannedRecording['mediaFileId'];
  readonly options: readonly Treatment[];
  readonly chosen: Treatment | null;
};
export type Proof = {
  readonly verified: number;
  readonly of: number;
  readonly xxh64: string | null;
  /** What was written, once all of it is proven. */
  readonly sizeInBytes: number | null;
};

export const sortings = { saved: 'bytes saved', name: 'name', size: 'bytes' } as const;
export type Sorting = keyof typeof sortings;
export const filters = { all: 'all', remarks: 'with a remark', left: 'cannot come' } as const;
export type Filter = keyof typeof filters;

/** The rows of a plan, in the order and choice that is asked for; with what was proven, once it runs. */
export function planRows(
  plan: PlannedContent,
  copied: Handoff['copied'] | null,
  { sorting, filter }: { sorting: Sorting; filter: Filter },
): PlanRow[] {
  const proofs = copied && proofsOf(plan, copied);
  const said = new Map(plan.choices.exceptions.map((e) => [e.mediaFileId, e.treatment]));
  const treatable = ({ mediaFileId, kind }: Pick<LeftOut, 'mediaFileId' | 'kind'>): Treatable | null =>
    mediaFileId && { mediaFileId, options: optionsFor(kind), chosen: said.get(mediaFileId) ?? null };
  const rows = [
    ...plan.recordings.map((r) => ({ ...recordingRow(r, proofs?.get(r) ?? null), treatable: treatable(r) })),
    ...plan.leftOut.map((l) => ({ ...leftOutRow(l), treatable: treatable(l) })),
  ].filter((row) => filter === 'all' || (filter === 'left' ? row.recording === null : row.remark !== null));
  const saved = ({ sizeInBytes, wholeInBytes }: PlanRow) => (wholeInBytes ?? 0) - (sizeInBytes ?? 0);
  switch (sorting) {
    case 'name':
      return rows.toSorted((a, b) => a.name.localeCompare(b.name));
    case 'size':
      return rows.toSorted((a, b) => (b.sizeInBytes ?? -1) - (a.sizeInBytes ?? -1));
    case 'saved':
      return rows.toSorted((a, b) => saved(b) - saved(a));
  }
}

type Proven = Proof & { readonly problem: string | null; readonly lost: string | null };
type LeftOut = PlannedContent['leftOut'][number];
type Row = Omit<PlanRow, 'treatable'>;

/** Sequences are coded picture by picture already. */
function optionsFor(kind: PlannedRecording['kind']): readonly Treatment[] {
  if (kind === 'sequence') return treatmentsOf.picture.filter((t) => t !== 'transcode');
  return treatmentsOf[kind ?? 'picture'];
}

function recordingRow(recording: PlannedRecording, proof: Proven | null): Row {
  const at = recording.source.lastIndexOf('/');
  return {
    key: recording.mediaFileId,
    name: recording.source.slice(at + 1),
    where: [recording.placeName, recording.source.slice(0, Math.max(0, at))].filter(Boolean).join('/'),
    recording,
    remark: proof?.problem ? { text: proof.problem, tone: 'missing' } : remarkOf(recording, proof?.lost ?? null),
    sizeInBytes: proof?.sizeInBytes ?? recording.sizeInBytes,
    wholeInBytes: recording.wholeInBytes,
    proof,
  };
}

function remarkOf(recording: PlannedRecording, lost: string | null): PlanRow['remark'] {
  const [cut, left] = [handlesCutText(recording), tracksLeftText(recording)];
  const texts = [
    ...(codedText(recording) ? [codedText(recording)!] : []),
    ...(recording.wholeBecause ? [wholeText(recording.wholeBecause)] : []),
    ...(left ? [left] : []),
    ...(lost ? [lost] : []),
    ...(cut ? [cut] : []),
    ...(sidecarsText(recording) ? [sidecarsText(recording)!] : []),
    ...(recording.outs.some((o) => o.renamed) ? ['renamed: its name was taken, or not every drive takes it'] : []),
  ];
  if (texts.length === 0) return null;
  return {
    text: texts.join('; '),
    tone: isException(recording) || (cut ?? left ?? lost) !== null ? 'changed' : 'quiet',
  };
}

const leftOutRow = ({ clipId, clipName, reason }: LeftOut): Row => ({
  key: clipId,
  name: clipName,
  where: '',
  recording: null,
  remark: {
    text: `${reason === 'left-by-choice' || reason === 'waived' ? '' : 'cannot come: '}${leftOutText[reason]}`,
    tone: reason === 'left-by-choice' || reason === 'waived' ? 'quiet' : 'missing',
  },
  sizeInBytes: null,
  wholeInBytes: null,
  proof: null,
});

/** What is proven of each recording: of its one file the hash, of several how many. */
function proofsOf(plan: PlannedContent, copied: Handoff['copied']) {
  const byFolder = new Map<string, Handoff['copied'][number][]>();
  const byTarget = new Map(copied.map((f) => [f.target, f]));
  const folderOf = (path: string) => path.replace(/[^/]*$/, '');
  const beside = new Set(plan.recordings.flatMap((r) => r.sidecars.map((s) => s.target)));
  for (const file of copied.filter((f) => !beside.has(f.target)))
    byFolder.set(folderOf(file.target), [...(byFolder.get(folderOf(file.target)) ?? []), file]);
  return new Map(
    plan.recordings.map((recording) => {
      const files = recording.outs.flatMap(
        ({ target, files: n }) => (n > 1 ? byFolder.get(folderOf(target)) : [byTarget.get(target)!]) ?? [],
      );
      const known = files.filter(Boolean);
      const sidecars = recording.sidecars.flatMap((s) => byTarget.get(s.target) ?? []);
      const failed = [...known, ...sidecars].find((f) => f.state === 'failed')?.problem;
      const verified = known.filter((f) => f.state === 'verified').length;
      const xxh64 = known.length === 1 ? (known[0]!.xxh64 ?? null) : null;
      const lost = lostText(known.flatMap((f) => f.lost));
      const isProven = verified === known.length && verified > 0;
      const sizeInBytes = isProven ? known.reduce((sum, f) => sum + f.sizeInBytes, 0) : null;
      const problem = failed ? problemText(failed) : null;
      return [recording, { verified, of: known.length, xxh64, problem, lost, sizeInBytes }];
    }),
  );
}
