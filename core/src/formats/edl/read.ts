import type { EditEvent, Timeline, TransitionIn } from '../../model/edit.ts';
import { isPictureTrack, tracksOf } from '../../model/tracks.ts';
import { withUsedRanges } from '../../model/uses.ts';
import { isBareName, rememberedName } from '../../paths/remembered.ts';
import type { Remark } from '../../remarks/remark.ts';
import { rangeLength } from '../../time/range.ts';
import { hasDropFrame, type Rate } from '../../time/rate.ts';
import { ClipGatherer, kindOfName } from '../clips.ts';
import { noChoices, type ReadOptions, type ReadResult } from '../format.ts';
import { checkRecord, checkStretches } from './checks.ts';
import { gatherEvents, type EdlEvent } from './events.ts';
import { countClips, identitiesBy, needsMedia, sourceOf, type EventSource } from './grouping.ts';
import { knownTransition, parseLines, type EdlLine } from './lines.ts';
import { markersIn } from './markers.ts';
import { proposeRates } from '../rates.ts';
import { rateSigns } from './rates.ts';
import { settleCounting, timingOf, type EventTiming } from './timing.ts';

/**
 * Reads a list as one timeline. An EDL states no rate, so without `options.rate` the answer is a fault that proposes
 * the likely ones. Which events are one clip goes by `options.clipsBy`; black needs no media; AX says no reel.
 */
export function readEdl(text: string, options: ReadOptions): ReadResult {
  const lines = parseLines(text);
  const { events: found, strays } = gatherEvents(lines);
  if (found.length === 0)
    return { ok: false, fault: { code: 'no-edit-inside', found: 'an EDL without an event line' } };
  const rates = proposeRates(rateSigns(lines, found, options.otherRates ?? []));
  if (!options.rate) return { ok: false, fault: { code: 'rate-needed', proposals: rates } };

  const listRate = options.rate;
  const remarks: Remark[] = [...strays.map(remarkOfStray), ...dropFrameRemarks(lines, listRate)];
  settleCounting(found, listRate);
  const timed = found.flatMap((event) => {
    const timing = timingOf(event, listRate, remarks);
    if (!knownTransition.test(event.raw.transition))
      remarks.push({ at: { line: event.line }, code: 'transition-unknown', text: event.raw.transition });
    return timing ? [{ event, timing }] : [];
  });
  if (timed.length === 0) {
    const found = 'an EDL in which no event has a possible timecode at this rate';
    return { ok: false, fault: { code: 'no-edit-inside', found } };
  }
  // A key stands over a background that has its own line and length; without one it is the record itself.
  const backgrounds = new Map(timed.map(({ event, timing }) => [event.over, rangeLength(timing.record) > 0]));
  remarks.push(
    ...checkRecord(
      timed.map(({ event, timing: { record } }) => {
        const isOver = event.raw.transition.startsWith('K') && (backgrounds.get(event) ?? false);
        return { line: event.line, track: event.track, record, isOver };
      }),
    ),
  );

  const needy = timed.filter(({ event }) => needsMedia(event));
  const sources = needy.map(({ event, timing }) => sourceOf(event, timing.source));
  const identityOf = identitiesBy(options.clipsBy ?? 'reel-and-name', sources);
  remarks.push(
    ...checkStretches(
      sources.flatMap((source, i) => {
        const isBare = source.remembered === null || isBareName(source.remembered);
        return isBare ? [{ ...source, line: needy[i]!.event.line, key: identityOf(source) }] : [];
      }),
      listRate,
    ),
  );
  const gatherer = new ClipGatherer();
  const events = timed.map(({ event, timing }): EditEvent => {
    const source = sourceOf(event, timing.source);
    const clipKey = needsMedia(event) ? gatherer.see(referenceOf(event, source, identityOf(source), listRate)) : null;
    return editEvent(event, timing, source.name, clipKey);
  });

  const title = lines.find((l) => l.kind === 'title')?.title || options.name.replace(/\.[^.]*$/, '');
  const start = events.reduce((least, e) => Math.min(least, e.record.start), Infinity);
  const end = events.reduce((most, e) => Math.max(most, e.record.end), 0);
  const isDrop = hasDropFrame(listRate) && found.some((e) => e.recordDrop || /;\d+$/.test(e.raw.recordIn));
  const counting = isDrop ? 'drop' : 'non-drop';
  const timeline: Timeline = {
    key: 'timeline-1',
    name: title,
    rate: listRate,
    counting,
    start,
    length: end - start,
    top: true,
    events,
    markers: markersIn(lines, events, { rate: listRate, counting }, remarks),
  };
  const clips = withUsedRanges(gatherer.clips(listRate), [timeline]);
  return {
    ok: true,
    remarks: remarks.toSorted((a, b) => lineOf(a) - lineOf(b)),
    edit: { title, bins: [], clips, timelines: [timeline] },
    choices: { ...noChoices, rates, clipsBy: countClips(sources) },
  };
}

function referenceOf(event: EdlEvent, { reel, name, remembered }: EventSource, identity: string, rate: Rate) {
  return {
    identity,
    name,
    reel,
    remembered,
    kind: kindOfName(remembered ? rememberedName(remembered) : name),
    rate,
    counting: event.sourceDrop && hasDropFrame(rate) ? ('drop' as const) : ('non-drop' as const),
    available: null,
    used: null,
    raster: null,
    address: String(event.line),
    binKey: null,
  };
}

function editEvent(event: EdlEvent, timing: EventTiming, name: string, clipKey: string | null): EditEvent {
  const tracks = tracksOf(event.track);
  return {
    number: event.raw.number,
    name,
    track: event.track,
    trackKind: tracks.length === 0 || tracks.some(isPictureTrack) ? 'picture' : 'sound',
    clipKey,
    nestedKey: null,
    source: timing.source,
    record: timing.record,
    head: 0,
    tail: timing.tail,
    speed: timing.speed,
    transition: transitionOf(event),
    rounded: timing.speed.num !== timing.speed.den,
    address: String(event.line),
  };
}

function transitionOf({ raw: { transition, transitionLength } }: EdlEvent): TransitionIn | null {
  const kinds = { D: 'dissolve', K: 'key', KB: 'key-background', KO: 'key-out' } as const;
  if (/^W\d/.test(transition)) return { kind: 'wipe', wipe: Number(transition.slice(1)), length: transitionLength };
  const kind = Object.hasOwn(kinds, transition) ? kinds[transition as keyof typeof kinds] : null;
  return kind && { kind, wipe: null, length: transitionLength };
}

/** FCM says drop-frame, and the chosen rate has none: said once, at the first such line. */
function dropFrameRemarks(lines: readonly EdlLine[], listRate: Rate): Remark[] {
  const stated = hasDropFrame(listRate) ? undefined : lines.find((l) => l.kind === 'counting' && l.drop);
  return stated ? [{ at: { line: stated.line }, code: 'drop-frame-impossible', text: stated.text.trim() }] : [];
}

function remarkOfStray(line: EdlLine): Remark {
  const code = line.kind === 'speed' ? 'speed-without-event' : 'line-not-understood';
  return { at: { line: line.line }, code, text: line.text.slice(0, 200) };
}

const lineOf = (remark: Remark): number => ('line' in remark.at ? remark.at.line : 0);
