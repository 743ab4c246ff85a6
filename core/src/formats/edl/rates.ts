import { rangeLength } from '../../time/range.ts';
import { rate, type Rate } from '../../time/rate.ts';
import type { RateSigns } from '../rates.ts';
import type { EdlEvent } from './events.ts';
import type { EdlLine } from './lines.ts';
import { readRange } from './timing.ts';

/** Enough events to tell rates apart; more would only cost time. */
const asked = 400;

/** What a list shows of its rate: FCM and semicolons, frame numbers, and events whose source and record are equally long. */
export const rateSigns = (
  lines: readonly EdlLine[],
  events: readonly EdlEvent[],
  otherRates: readonly Rate[],
): RateSigns => ({
  statesDrop:
    lines.some((l) => l.kind === 'counting' && l.drop) ||
    events.some(({ raw }) => /;\d+$/.test(raw.recordIn) || /;\d+$/.test(raw.sourceIn)),
  largest: largestFrame(events),
  lengthsAt: (nominal) => agreeing(events, nominal),
  otherRates,
});

function largestFrame(events: readonly EdlEvent[]): RateSigns['largest'] {
  let largest = { frame: -1, line: 0 };
  for (const { raw, line } of events) {
    for (const text of [raw.sourceIn, raw.sourceOut, raw.recordIn, raw.recordOut]) {
      const frame = Number(/\d+$/.exec(text)![0]);
      // No rate numbers frames beyond 59; what does is a slip of the pen and tells nothing of the rate.
      if (frame > largest.frame && frame < 60) largest = { frame, line };
    }
  }
  return largest;
}

function agreeing(events: readonly EdlEvent[], nominal: number): { agree: number; of: number } {
  const counted = rate(nominal);
  let [agree, of] = [0, 0];
  for (const { raw, speed } of events.slice(0, asked)) {
    if (speed) continue;
    const source = readRange(raw.sourceIn, raw.sourceOut, false, counted).range;
    const record = readRange(raw.recordIn, raw.recordOut, false, counted).range;
    of += 1;
    if (source && record && rangeLength(source) === rangeLength(record)) agree += 1;
  }
  return { agree, of };
}
