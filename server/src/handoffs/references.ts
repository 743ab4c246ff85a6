import { countingRate, type ClipId, type MediaFileId } from '@legame/core/model';
import type { NewReference } from '@legame/core/formats';
import { convertFrames, rangeLength, sameNumbering, type FrameRange } from '@legame/core/time';
import type { HandoffPlan } from '@legame/core/contract';
import type { ClipState, ProjectState } from '../clips/state.ts';
import type { ReferenceTo } from '../documents/relinked.ts';
import type { HandoffFile, HandoffRecord } from '../stores/handoffs.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import { partOfSequence } from '@legame/core/consolidate';
import { frameName } from '@legame/core/paths';
import { clipsOfScope, type ScopeOfClip, type UseInScope } from './scope.ts';

type Out = HandoffPlan['recordings'][number]['outs'][number];

/** References into the set: each event to the file that serves it, with what that holds, of what was verified. */
export function referencesInto(
  handoff: Pick<HandoffRecord, 'plan' | 'scope'>,
  project: ProjectState,
  files: readonly HandoffFile[],
): ReferenceTo {
  // A sidecar that could not come makes no recording dark.
  const beside = new Set(handoff.plan.recordings.flatMap((r) => r.sidecars.map((s) => s.target)));
  const failed = new Set(files.filter((f) => f.state !== 'verified' && !beside.has(f.target)).map((f) => f.target));
  const outs = new Map<MediaFileId, Out[]>(
    handoff.plan.recordings.map(({ mediaFileId, outs: of }) => [
      mediaFileId,
      of
        .filter((out) => ![...failed].some((target) => belongs(target, out)))
        // Of those that hold a use, the tightest serves it.
        .toSorted((a, b) => lengthOf(a) - lengthOf(b)),
    ]),
  );
  const scope = clipsOfScope(project, handoff.scope);
  return (state, address) => {
    const { clip, tied } = state;
    const of = tied ? (outs.get(tied.file.id) ?? []) : [];
    const length = tied ? unitsHeld(tied.file) : 0;
    const servingOf = ({ units }: UseInScope) => units && of.find((o) => serves(o, units, length));
    const whole = of.find((o) => o.range === null);
    if (whole) return referenceOf(whole, state, null);
    const use = useAt(scope, clip.id, address);
    const serving = use && servingOf(use);
    if (use && serving) return referenceOf(serving, state, use);
    // Not an event, or one outside of the scope: the clip as such, known by the first of its parts.
    for (const other of use ? [] : (scope.get(clip.id)?.uses ?? [])) {
      const first = servingOf(other);
      if (first) return referenceOf(first, state, other);
    }
    return null;
  };
}

const unitsHeld = ({ facts, sequence }: MediaFileRecord): number =>
  sequence ? sequence.last - sequence.first + 1 : (facts?.length ?? 0);

/** A target of one file, or of one of the frames of a sequence. */
const belongs = (target: string, out: Out): boolean =>
  out.files > 1 ? target.startsWith(out.target.replace(/[^/]*$/, '')) : target === out.target;

const lengthOf = ({ range }: Out): number => (range ? rangeLength(range) : Infinity);

/** Whether a part serves a use; what the whole file does not hold of it, no part can. */
function serves({ range }: Out, units: FrameRange, length: number): boolean {
  if (!range) return true;
  const held = { start: Math.max(0, units.start), end: Math.min(length, units.end) };
  return held.end > held.start && range.start <= held.start && held.end <= range.end;
}

/** The use whose event stands at this address, or holds the reference that does. */
function useAt(
  scope: ReadonlyMap<ClipId, ScopeOfClip>,
  clipId: ClipId,
  address: string | null,
): UseInScope | undefined {
  if (address === null) return undefined;
  return scope.get(clipId)?.uses.find((u) => address === u.address || address.startsWith(`${u.address}/`));
}

function referenceOf({ target, range }: Out, { clip, tied }: ClipState, use: UseInScope | null): NewReference {
  const { facts, sequence } = tied!.file;
  const kept = sequence && (range ? partOfSequence(sequence, range) : sequence);
  const path = kept ? target.replace(/[^/]*$/, () => frameName(kept, kept.first)) : target;
  if (!range || !use?.units) return { path, sequence: kept };
  const own = facts && countingRate(facts);
  const { rate } = clip.asStated;
  const inFrames = (units: number, rounding: 'down' | 'nearest') =>
    own && !sameNumbering(own, rate) ? convertFrames(units, own, rate, rounding) : units;
  // Counted from the use, as the edit states it: whatever the file calls its frames, these are the same ones.
  const start = use.stated.start - inFrames(use.units.start - range.start, 'nearest');
  return { path, sequence: kept, available: { start, end: start + inFrames(rangeLength(range), 'down') } };
}
