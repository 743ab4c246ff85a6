import { tracksOf } from '../../model/tracks.ts';
import type { EdlLine, RawEvent } from './lines.ts';

/** An event line with everything that belongs to it: its track, counting, speed, name, source file and partner. */
export type EdlEvent = {
  readonly line: number;
  readonly raw: RawEvent;
  /** How its record and its source timecode are numbered: by the list's first FCM, and by the latest one. */
  recordDrop: boolean;
  readonly sourceDrop: boolean;
  /** The track with the channels of an AUD line. */
  track: string;
  clipName: string | null;
  sourceFile: { line: number; value: string } | null;
  speed: { line: number; framesPerSecond: number; entry: string } | null;
  /** The line that comes in over this one: the second of a dissolve, wipe or key. */
  over: EdlEvent | null;
};

type Retimed = Extract<EdlLine, { kind: 'speed' }> & { readonly after: number };
type Named = { readonly line: number; readonly value: string; readonly after: number };

/** Dissolve, wipe, key and key-out come in over another line; a cut and a key's background do not. */
export const comesOver = ({ transition }: RawEvent): boolean => /^(D|W\d{1,3}|K|KO)$/.test(transition);

/**
 * Ties comments, channels and speeds to their events. A dissolve, wipe or key is two lines of one number, from and to;
 * picture and sound of one number may have their own lines. FROM CLIP NAME is the first's, TO (or KEY) CLIP NAME the
 * second's; source files go by order, a single one to the second, unless it stands between the two. Lines that belong
 * to no event come back as strays.
 */
export function gatherEvents(lines: readonly EdlLine[]): { events: EdlEvent[]; strays: EdlLine[] } {
  const events: EdlEvent[] = [];
  const strays: EdlLine[] = [];
  let recordDrop: boolean | null = null;
  let sourceDrop = false;
  let group: EdlEvent[] = [];
  let isRun = false;
  let names: { from: string[]; to: string[] } = { from: [], to: [] };
  let files: Named[] = [];
  let speeds: Retimed[] = [];
  const close = () => {
    giveSpeeds(group, speeds);
    speeds = [];
    nameEvents(group, names);
    giveFiles(group, files);
    group = [];
    names = { from: [], to: [] };
    files = [];
  };
  for (const line of lines) {
    switch (line.kind) {
      case 'counting':
        recordDrop ??= line.drop;
        sourceDrop = line.drop;
        break;
      case 'event': {
        const raw = line.event;
        const event: EdlEvent = {
          line: line.line,
          raw,
          recordDrop: recordDrop ?? false,
          sourceDrop,
          track: raw.track,
          clipName: null,
          sourceFile: null,
          speed: null,
          over: null,
        };
        const under = comesOver(raw)
          ? group.findLast((e) => !comesOver(e.raw) && !e.over && sharesTrack(e, event))
          : undefined;
        const isSameNumber = group[0]?.raw.number === raw.number;
        if (!isSameNumber || !(isRun || under)) close();
        else if (under) under.over = event;
        group.push(event);
        events.push(event);
        isRun = true;
        break;
      }
      case 'speed': {
        const ofReel = group.filter((e) => e.raw.reel.toUpperCase() === line.reel.toUpperCase());
        const told = speeds.filter((s) => s.reel.toUpperCase() === line.reel.toUpperCase());
        if (told.length < ofReel.length) speeds.push({ ...line, after: group.length });
        else strays.push(line);
        break;
      }
      case 'audio': {
        const target = group.at(-1);
        if (target) target.track = `${target.track} AUD ${line.channels.replace(/[\s,]+/g, ' ')}`;
        else strays.push(line);
        break;
      }
      case 'comment':
        isRun = false;
        if (line.label === 'FROM CLIP NAME') names.from.push(line.value);
        else if (line.label === 'TO CLIP NAME' || line.label === 'KEY CLIP NAME') names.to.push(line.value);
        else if (line.label === 'SOURCE FILE' && line.value !== '')
          files.push({ line: line.line, value: line.value, after: group.length });
        break;
      case 'unknown':
        strays.push(line);
        break;
      case 'title':
      case 'split':
      case 'blank':
        break;
      default:
        line satisfies never;
    }
  }
  close();
  return { events, strays };
}

/**
 * A speed belongs to the line above it of its reel that begins at its entry point; else to the last. Where both lines of a
 * dissolve do and only one has a speed, it is that whose lengths want one.
 */
function giveSpeeds(group: readonly EdlEvent[], speeds: readonly Retimed[]): void {
  const isAlike = (a: { reel: string; entry: string }, b: { reel: string; entry: string }) =>
    a.reel.toUpperCase() === b.reel.toUpperCase() && a.entry === b.entry;
  for (const [i, { line, reel, framesPerSecond, entry, after }] of speeds.entries()) {
    const open = group.slice(0, after).filter((e) => !e.speed && e.raw.reel.toUpperCase() === reel.toUpperCase());
    const there = open.filter((e) => e.raw.sourceIn === entry);
    const toCome = speeds.slice(i).filter((s) => isAlike(s, { reel, entry })).length;
    const wanting = toCome < there.length ? there.find((e) => areLengthsOther(e.raw)) : undefined;
    const target = wanting ?? there[0] ?? open.at(-1);
    if (target) target.speed = { line, framesPerSecond, entry };
  }
}

/** Whether source and record have other lengths, at whatever rate they count. */
const areLengthsOther = ({ sourceIn, sourceOut, recordIn, recordOut }: RawEvent): boolean =>
  [24, 25, 30, 50, 60].every((rate) => {
    const frames = (timecode: string) =>
      timecode.split(/\D/).reduce((sum, part, i) => sum * (i === 3 ? rate : 60) + Number(part), 0);
    return frames(sourceOut) - frames(sourceIn) !== frames(recordOut) - frames(recordIn);
  });

function nameEvents(group: readonly EdlEvent[], names: { from: readonly string[]; to: readonly string[] }): void {
  const [from, to] = [group.filter((e) => !comesOver(e.raw)), group.filter((e) => comesOver(e.raw))];
  // A dissolve without a from line has only itself to name.
  giveByReel(from.length > 0 || names.to.length > 0 ? from : to, names.from, (e, name) => (e.clipName = name));
  giveByReel(to, names.to, (e, name) => (e.clipName = name));
}

function giveFiles(group: readonly EdlEvent[], files: readonly Named[]): void {
  const [from, to] = [group.filter((e) => !comesOver(e.raw)), group.filter((e) => comesOver(e.raw))];
  const give = (targets: readonly EdlEvent[], named: readonly Named[]) =>
    giveByReel(targets, named, (e, file) => (e.sourceFile = { line: file.line, value: file.value }));
  if (from.length === 0 || to.length === 0) return give(group, files);
  const between = files.filter((f) => f.after < group.length);
  const below = files.filter((f) => f.after >= group.length);
  give(from, between.length > 0 ? between : below.slice(0, -1));
  give(to, below.slice(-1));
}

/** The n-th value belongs to the n-th reel of these lines; picture and sound lines of one reel share it. */
function giveByReel<T>(
  targets: readonly EdlEvent[],
  values: readonly T[],
  give: (event: EdlEvent, value: T) => void,
): void {
  const reels = [...new Set(targets.map((e) => e.raw.reel))];
  const byReel = values.length > reels.length ? values.slice(-reels.length) : values;
  for (const event of targets) {
    const value = byReel[reels.indexOf(event.raw.reel)];
    if (value !== undefined) give(event, value);
  }
}

function sharesTrack(a: EdlEvent, b: EdlEvent): boolean {
  if (a.raw.track === b.raw.track) return true;
  const others = tracksOf(b.raw.track);
  return tracksOf(a.raw.track).some((t) => others.includes(t));
}
