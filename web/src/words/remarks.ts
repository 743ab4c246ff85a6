import { formatRate, type RateProposal, type Remark, type TimecodeFault } from '@legame/core';
import { count } from './numbers.ts';

export const whereWords = (remark: Remark): string => ('line' in remark.at ? `line ${remark.at.line}` : remark.at.path);

function faultWords(fault: TimecodeFault): string {
  switch (fault.code) {
    case 'not-timecode':
      return `“${fault.text}” is no timecode`;
    case 'no-such-address':
      return `${fault.text} has ${fault.field} that do not exist at this rate`;
    case 'dropped-number':
      return `${fault.text} is a number that drop-frame leaves out`;
    case 'rate-has-no-drop-frame':
      return `${fault.text} is drop-frame, which this rate does not have`;
    default:
      return fault satisfies never;
  }
}

/** What a reader noticed, and what follows from it. */
export function remarkSentence(remark: Remark): string {
  switch (remark.code) {
    case 'line-not-understood':
      return `Not understood, kept for the export: ${remark.text}`;
    case 'timecode-impossible':
      return `${faultWords(remark.fault)}. The event was left out; check the rate.`;
    case 'lengths-differ':
      return `Source is ${count(remark.sourceInFrames, 'frame')}, record ${count(remark.recordInFrames, 'frame')}, and no speed is stated.`;
    case 'record-overlap':
      return `Overlaps the event of line ${remark.withLine} on its track by ${count(remark.overlapInFrames, 'frame')}.`;
    case 'speed-without-event':
      return `A speed for no event of this reel, kept for the export: ${remark.text}`;
    case 'event-kind-unknown':
      return `An unknown kind of event, kept for the export: ${remark.text}`;
    case 'text-replaced':
      return `Some characters do not exist in ${remark.encoding}.`;
    case 'schema-unknown':
      return `Schema ${remark.schema} is not understood; it stays in the document untouched.`;
    case 'rate-unknown':
      return `No rate is stated anywhere; ${remark.value} is taken.`;
    case 'fraction-rounded-outward':
      return `${remark.value} is no whole frame; it was rounded outward.`;
    case 'clip-without-range':
      return `Clip “${remark.name}” states neither a source range nor what is available; it has no length.`;
    case 'reference-missing':
      return `Clip “${remark.name}” has no media reference, so it needs no media.`;
    case 'child-not-understood':
      return `Found ${remark.what} where an object belongs; it stays in the document untouched.`;
    default:
      return remark satisfies never;
  }
}

export function proposalWords({ rate, reason }: RateProposal): string {
  switch (reason.code) {
    case 'drop-frame-stated':
      return `${formatRate(rate)} – the list says drop-frame`;
    case 'largest-frame':
      return `${formatRate(rate)} – the largest frame number is ${reason.frame}, in line ${reason.line}`;
    case 'common':
      return `${formatRate(rate)} – possible, in common use`;
    default:
      return reason satisfies never;
  }
}
