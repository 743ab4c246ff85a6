import { alignedRange, interpretationOf, type TimecodeDisplacement } from '@legame/core/match';
import { readAs, thenReadAs, type Counted, type Interpretation } from '@legame/core/model';
import { uncoveredUse } from '@legame/core/state';
import { formatRate, parseTimecode, standardRates, type FrameRange, type Rate } from '@legame/core/time';
import type { BenchRow } from '@legame/core/contract';
import { displacementWords } from '@legame/words/causes';

/** What is to be done to the timecode of a selection. Nothing of it is in force until it is applied. */
export type Draft =
  /** Each by what stands between it and its file. */
  | { readonly kind: 'as-found' }
  | { readonly kind: 'shift'; readonly text: string; readonly back: boolean }
  /** The first address becomes this. */
  | { readonly kind: 'start-at'; readonly text: string }
  /** The edit counts from the first frame of the file, whatever number that bears. */
  | { readonly kind: 'from-first-frame' }
  | { readonly kind: 'at-rate'; readonly rate: Rate }
  | { readonly kind: 'as-stated' };

export type Drafted =
  { readonly ok: true; readonly interpretation: Interpretation | null } | { readonly ok: false; readonly why: string };

/** The clip's range as it is read: what it states as available, else from the first to the last frame used. */
export function rangeOf({ available, used }: Counted): FrameRange | null {
  if (available) return available;
  const [first, last] = [used[0], used.at(-1)];
  return first && last ? { start: first.start, end: last.end } : null;
}

export const countedNow = (row: BenchRow): Counted => readAs<Counted>(row.stated, row.interpretation);

/** How one clip would be read under a draft, or why it cannot be. */
export function draftFor(row: BenchRow, draft: Draft): Drafted {
  const now = countedNow(row);
  const then = (more: Interpretation): Drafted => ({ ok: true, interpretation: thenReadAs(row.interpretation, more) });
  const range = rangeOf(now);
  switch (draft.kind) {
    case 'as-found':
      return row.apart ? then(interpretationOf(row.apart)) : { ok: false, why: 'nothing stands between it and a file' };
    case 'shift': {
      const parsed = parseTimecode(draft.text, now.rate, now.counting);
      if (!parsed.ok) return { ok: false, why: 'this is no timecode at its rate' };
      return then({ countedAt: null, shiftInFrames: draft.back ? -parsed.frames : parsed.frames });
    }
    case 'start-at': {
      const parsed = parseTimecode(draft.text, now.rate, now.counting);
      if (!parsed.ok) return { ok: false, why: 'this is no timecode at its rate' };
      if (!range) return { ok: false, why: 'the edit states no addresses' };
      return then({ countedAt: null, shiftInFrames: parsed.frames - range.start });
    }
    case 'from-first-frame': {
      const held = heldRange(row, now);
      if (!held) return { ok: false, why: 'no file whose start is known' };
      return then({ countedAt: null, shiftInFrames: held.start - (now.available?.start ?? 0) });
    }
    case 'at-rate':
      return then({ countedAt: draft.rate, shiftInFrames: 0 });
    case 'as-stated':
      return { ok: true, interpretation: null };
  }
}

/** What the file holds, in frames at the rate the clip is read at. */
export function heldRange({ file }: BenchRow, counted: Counted): FrameRange | null {
  if (!file?.facts || file.facts.timecodeSource === 'none') return null;
  return alignedRange(counted, { facts: file.facts });
}

/** Used frames that the file does not hold, when the clip is read so; null where there is no file to ask. */
export function uncoveredWhen(row: BenchRow, interpretation: Interpretation | null): number | null {
  const { file, stated } = row;
  if (!file?.facts) return null;
  return uncoveredUse({ ...readAs<Counted>(stated, interpretation), kind: null }, { facts: file.facts });
}

export type OffsetGroup = { readonly key: string; readonly label: string; readonly rows: readonly BenchRow[] };

/** Clips whose timecode stands apart from their file's in the same way, most clips first. */
export function offsetGroups(rows: readonly BenchRow[]): OffsetGroup[] {
  const groups = new Map<string, { label: string; rows: BenchRow[] }>();
  for (const row of rows) {
    if (!row.apart) continue;
    const { rate } = countedNow(row);
    const key = keyOf(row.apart, rate);
    const group = groups.get(key);
    if (group) group.rows.push(row);
    else
      groups.set(key, {
        label: row.apart.kind === 'from-zero' ? 'counts each clip from zero' : displacementWords(row.apart, rate),
        rows: [row],
      });
  }
  return [...groups].map(([key, group]) => ({ key, ...group })).sort((a, b) => b.rows.length - a.rows.length);
}

function keyOf(apart: TimecodeDisplacement, rate: Rate): string {
  if (apart.kind === 'from-zero') return apart.kind;
  if (apart.kind === 'shifted') return `${apart.byFrames}@${formatRate(rate)}`;
  return `${formatRate(apart.from)}>${formatRate(apart.to)}`;
}

export const ratesToReadAt: readonly Rate[] = standardRates;
