import { isCodedFilm, type Coded } from '@legame/core/consolidate';
import type { AcceptanceProfile } from '@legame/core/model';
import { formatRate } from '@legame/core/time';
import type {
  HandoffChoices,
  HandoffLayout,
  HandoffPlan,
  LostTrait,
  PlannedContent,
  PlannedRecording,
} from '@legame/core/contract';
import { binText } from './bins.ts';
import { count } from './numbers.ts';

export const treatmentText: Readonly<Record<HandoffChoices['picture'], string>> = {
  whole: 'whole',
  trim: 'trimmed',
  transcode: 'transcoded',
  leave: 'left where it is',
};

export const codingText: Readonly<Record<Coded['coding'], string>> = {
  ffv1: 'FFV1, without loss',
  dnxhd: 'VC-3',
  h264: 'H.264',
  mjpeg: 'Motion JPEG',
  wave: 'WAVE',
};

/** What a transcoded recording becomes; null where it stays as it is. */
export function codedText({ coded }: Pick<PlannedRecording, 'coded'>): string | null {
  if (!coded) return null;
  const { coding, bitDepth, isExact } = coded;
  if (!isCodedFilm(coded)) return `as ${codingText[coding]}${isExact ? ', without loss' : ''}, ${bitDepth}-bit PCM`;
  const { chroma, raster } = coded;
  const name = coding === 'ffv1' && !isExact ? 'FFV1' : codingText[coding];
  return `as ${name}, ${bitDepth}-bit ${chroma}${raster ? `, ${raster.width} × ${raster.height}` : ''}`;
}

export const divisionText: Readonly<Record<HandoffChoices['division'], string>> = {
  span: 'one file a span',
  source: 'one file a source',
  use: 'one file a use',
};

export const folderingText: Readonly<Record<HandoffChoices['foldering'], string>> = {
  flat: 'all in one folder',
  'as-source': 'foldered as on its drive',
  'by-reel': 'foldered by reel',
  'by-kind': 'foldered by kind',
  'by-timeline': 'foldered by timeline',
  'by-bin': 'foldered by bin',
  'by-template': 'in the folders of the project',
};

export const layoutText: Readonly<Record<HandoffLayout, string>> = {
  folder: 'a folder',
  otiod: 'a bundle folder (.otiod)',
  otioz: 'a bundle in one file (.otioz)',
};

const wholeTexts: Readonly<Record<NonNullable<PlannedRecording['wholeBecause']>, string>> = {
  'open-groups': 'whole: its open groups of pictures cannot be cut',
  'rate-varies': 'whole: its frames are not evenly spaced',
  'no-length': 'whole: how long it is is not known',
  container: 'whole: its kind of file cannot be cut without coding anew',
  codec: 'whole: its coding cannot be cut',
  'no-timecode-at-rate': 'whole: no timecode counts so many frames a second',
  'unreadable-index': 'whole: its index cannot be read',
  'odd-raster': 'whole: its sides are odd, which this coding does not take',
  'small-raster': 'whole: its picture is too small for this coding',
  'coded-is-refused': 'whole: it would not be accepted in this coding either',
  'all-used': 'whole: used from end to end',
  'not-used': 'whole: no timeline uses it',
  'use-unknown': 'whole: which part is used is not known',
  'not-proven': 'whole: its part could not be proven to be the same',
};
export const wholeText = (because: NonNullable<PlannedRecording['wholeBecause']>): string => wholeTexts[because];

/** Whether anything is to be cut, so that handles and files mean something. */
export const cutsParts = ({ picture, sound, exceptions }: HandoffChoices): boolean =>
  [picture, sound, ...exceptions.map((e) => e.treatment)].some((t) => t === 'trim' || t === 'transcode');

/** Those that go whole against what was chosen; one used from end to end is no exception. */
export const isException = ({ wholeBecause }: Pick<PlannedRecording, 'wholeBecause'>): boolean =>
  wholeBecause !== null && wholeBecause !== 'all-used';

export const leftOutText: Readonly<Record<HandoffPlan['leftOut'][number]['reason'], string>> = {
  missing: 'no file is linked',
  'place-away': 'its drive is not plugged in',
  unreadable: 'its file cannot be read',
  'not-accepted': 'it is not accepted as it is; transcoded it could come',
  waived: 'needs no media',
  parked: 'parked',
  'left-by-choice': 'left where it is, as chosen',
};

/** What its parts are without that the recording has; null where nothing is left behind. */
export const tracksLeftText = ({ tracksLeft }: Pick<PlannedRecording, 'tracksLeft'>): string | null =>
  tracksLeft > 0
    ? `without its ${tracksLeft === 1 ? 'other track' : `${tracksLeft} other tracks`}: picture, sound and timecode alone are cut`
    : null;

const lostTexts: Readonly<Record<LostTrait, string>> = {
  reel: 'reel',
  colour: 'colour tags',
  aspect: 'pixel shape',
  fields: 'order of fields',
  channels: 'layout of channels',
  'track-names': 'names of tracks',
  languages: 'languages of tracks',
};

/** What files could not keep of what their sources state; null where they kept all. */
export function lostText(lost: readonly LostTrait[]): string | null {
  const names = [...new Set(lost)].map((trait) => lostTexts[trait]);
  return names.length > 0 ? `not kept: ${listed(names)}` : null;
}

/** What goes with a recording; null for nothing. */
export function sidecarsText({ sidecars }: Pick<PlannedRecording, 'sidecars'>): string | null {
  if (sidecars.length === 0) return null;
  const names = sidecars.slice(0, 3).map((s) => s.target.split('/').at(-1)!);
  const more = sidecars.length - names.length;
  return `with ${listed([...names, ...(more > 0 ? [`${more} more`] : [])])}`;
}

export const alsoHashedText: Readonly<Record<HandoffChoices['alsoHashed'][number], string>> = {
  md5: 'MD5',
  sha1: 'SHA-1',
  c4: 'C4',
};

/** What of a project is handed over. */
export function scopeText({
  timelines,
  ranges,
  clipsChosen,
  bins,
}: Pick<PlannedContent, 'timelines' | 'ranges' | 'clipsChosen' | 'bins'>): string {
  const of = listed(timelines) || 'all clips';
  const stretches = ranges.map(({ timeline, from, to }) => `${timeline} from ${from} to ${to}`);
  const chosen = clipsChosen === null ? of : `${count(clipsChosen, 'chosen clip')} of ${of}`;
  const cut = stretches.length > 0 ? `${chosen} (only ${listed(stretches)})` : chosen;
  return bins.length > 0
    ? `${cut}, and all of ${listed(bins.map((bin) => (bin.length === 0 ? 'every bin' : `the bin ${binText(bin)}`)))}`
    : cut;
}

/** How much of the wanted handles a recording does not hold, in its own units; null where it holds all. */
export function handlesCutText({ outs, kind }: Pick<PlannedRecording, 'outs' | 'kind'>): string | null {
  const unit = kind === 'sound' ? 'sample' : 'frame';
  const most = (of: 'head' | 'tail') => Math.max(0, ...outs.map((o) => o.handlesCut[of]));
  const [head, tail] = [most('head'), most('tail')];
  const parts = [
    ...(head > 0 ? [`${count(head, unit)} at its start`] : []),
    ...(tail > 0 ? [`${count(tail, unit)} at its end`] : []),
  ];
  return parts.length > 0 ? `handles short of ${parts.join(' and ')}` : null;
}

/** "a, b and c". */
export const listed = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

/** For whom a handoff is, by what they can use. */
export function receiverText(receiver: AcceptanceProfile | null): string {
  if (!receiver) return 'any receiver';
  const { containers, codecs, chroma, largestBitDepth, largestRaster, rates } = receiver;
  const parts = [
    ...[containers, codecs, chroma].flatMap((list) => (list.length > 0 ? [list.join(' or ')] : [])),
    ...(largestBitDepth === null ? [] : [`up to ${largestBitDepth}-bit`]),
    ...(largestRaster ? [`up to ${largestRaster.width} × ${largestRaster.height}`] : []),
    ...(rates.length > 0 ? [`at ${rates.map(formatRate).join(' or ')}`] : []),
  ];
  return parts.length === 0 ? 'a receiver who can use everything' : `a receiver of ${parts.join(', ')}`;
}
