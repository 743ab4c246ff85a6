import { detailWords } from './details.ts';
import type { Grouping } from '@legame/core/formats';
import type { ColumnRole, RateProposal, ReadFault, Remark, RowFault } from '@legame/core/remarks';
import { formatRate, type TimecodeFault } from '@legame/core/time';
import { bytes, clock, count } from './numbers.ts';

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
    case 'speed-disagrees':
      return `Source is ${count(remark.sourceInFrames, 'frame')} for ${count(remark.recordInFrames, 'record frame')}, but at ${remark.framesPerSecond} frames a second ${count(remark.expectedInFrames, 'frame')} are read. The speed was believed.`;
    case 'record-overlap':
      return `Overlaps the event of line ${remark.withLine} on its track by ${count(remark.overlapInFrames, 'frame')}.`;
    case 'record-gap':
      return `${count(remark.gapInFrames, 'frame')} of nothing on the first picture track since the event of line ${remark.afterLine}.`;
    case 'name-far-apart':
      return `“${remark.name}” is read ${clock(remark.apartInSeconds)} beyond the event of line ${remark.afterLine}: perhaps two recordings of one name. Gathered by reel, name and stretch they are two clips.`;
    case 'speed-without-event':
      return `A speed for no event of this reel, kept for the export: ${remark.text}`;
    case 'drop-frame-impossible':
      return `“${remark.text}”, but the chosen rate has no drop-frame: numbers are counted without. Check the rate.`;
    case 'transition-unknown':
      return `“${remark.text}” is no known transition; the event was read as a cut.`;
    case 'schema-unknown':
      return `Schema ${remark.schema} is not understood; it stays in the document untouched.`;
    case 'schema-version-unknown':
      return `Schema ${remark.schema} is newer than version ${remark.known}, which is known; it was read like that one.`;
    case 'number-not-finite':
      return `${remark.text} is no number of JSON; it stays in the document and counts for nothing.`;
    case 'time-not-understood':
      return `The ${remark.what.replace('_', ' ')} is not understood: value ${remark.value}${remark.rate ? ` at rate ${remark.rate}` : ''}. It was taken as absent.`;
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
    case 'row-skipped':
      return `Row left out: ${rowFaultWords(remark.reason)}`;
    case 'media-in-bundle':
      return `${count(remark.files, 'media file')}, ${bytes(remark.bytes)}, lie inside the bundle.`;
    case 'more-of-these':
      return `${count(remark.count, 'more remark')} like this one (${remark.of.replaceAll('-', ' ')}).`;
    default:
      return remark satisfies never;
  }
}

function rowFaultWords(fault: RowFault): string {
  switch (fault.code) {
    case 'no-name':
      return 'it has neither name, file nor reel.';
    case 'timecode-impossible':
      return `in column “${fault.column}”, ${faultWords(fault.fault)}.`;
    case 'duration-not-understood':
      return `“${fault.text}” in column “${fault.column}” is no duration: timecode, frames, or seconds as “10.5 s”.`;
    case 'rate-not-understood':
      return `“${fault.text}” in column “${fault.column}” is no frame rate.`;
    case 'ends-before-start':
      return `it ends at ${fault.end}, before its start at ${fault.start}.`;
    case 'too-many-cells':
      return `it has ${count(fault.cells, 'cell')} for ${count(fault.columns, 'column')}; a cell with a delimiter in it needs quotes.`;
    case 'quote-not-closed':
      return 'a quote in it is never closed.';
    default:
      return fault satisfies never;
  }
}

export function proposalWords({ rate, reason }: RateProposal): string {
  switch (reason.code) {
    case 'drop-frame-stated':
      return `${formatRate(rate)} – it says drop-frame`;
    case 'lengths-agree':
      return `${formatRate(rate)} – ${reason.agree} of ${count(reason.of, 'length')} agree at it`;
    case 'stated':
      return `${formatRate(rate)} – stated in line ${reason.line}`;
    case 'other-timelines':
      return `${formatRate(rate)} – as the project’s other timelines`;
    case 'largest-frame':
      return `${formatRate(rate)} – the largest frame number is ${reason.frame}, in line ${reason.line}`;
    case 'common':
      return `${formatRate(rate)} – possible, in common use`;
    default:
      return reason satisfies never;
  }
}

/** Why a dropped file was not read. What a person can answer is asked elsewhere. */
export function readFaultSentence(fault: ReadFault): string {
  switch (fault.code) {
    case 'document-empty':
      return 'It is empty. Export it again from where it comes from.';
    case 'document-not-text':
      return 'It is no text file, so it is no EDL, OTIO or log. If it is media, add the folder it lies in as a place.';
    case 'document-too-large':
      return `It holds more than ${bytes(fault.limitInBytes)} of text, more than any edit.`;
    case 'format-unknown':
      return `It is none of the formats Legame reads: ${fault.known.join(', ')}.`;
    case 'json-broken':
      return `It is broken JSON at line ${fault.line}, column ${fault.column}: ${detailWords(fault.detail)}. It may have been cut off.`;
    case 'nested-too-deep':
      return `It nests deeper than ${fault.limit} levels, which no edit does.`;
    case 'no-edit-inside':
      return `It holds no edit: it is ${fault.found}.`;
    case 'bundle-broken':
      return `It is no whole bundle: ${detailWords(fault.detail)}. Copy or export it again.`;
    case 'counts-too-far':
      return `It counts to ${fault.number.toPrecision(3)}, which no timecode does: it is damaged, or was written by a faulty program. Export it again.`;
    case 'rate-needed':
      return 'It does not say its frame rate, and timecodes mean nothing without it.';
    case 'columns-needed':
      return 'None of its columns is known by its name. Say which holds the clip’s name, file or reel.';
    default:
      return fault satisfies never;
  }
}

export const groupingWords: Readonly<Record<Grouping, string>> = {
  'reel-and-name': 'reel and name',
  stretch: 'reel, name and stretch',
  reel: 'reel',
  'clip-name': 'clip name',
  'source-file': 'source file',
};

export const roleWords: Readonly<Record<ColumnRole, string>> = {
  name: 'clip name',
  file: 'file',
  folder: 'folder',
  reel: 'reel',
  start: 'start',
  end: 'end (first frame after)',
  duration: 'duration',
  rate: 'frame rate',
  scene: 'scene',
  take: 'take',
  notes: 'notes',
  metadata: 'kept under its header',
  ignore: 'left out',
};

export const formatWords = { edl: 'EDL', otio: 'OpenTimelineIO', log: 'shot log' } as const;
