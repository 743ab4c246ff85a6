import { forms, type Form } from './forms.ts';
import { isCopyMark } from './evidence/name.ts';
import { verdictIn } from './marks.ts';
import type { Candidate } from './weigh.ts';
import { countingRate, type MediaFile } from '../model/media.ts';
import type { MediaFileId } from '../model/ids.ts';
import { compareReels, nameKey, reelForms, reelKey, splitExtension } from '../paths/names.ts';
import { renamingOf } from '../paths/renaming.ts';
import { nominalRate } from '../time/rate.ts';

export type Rendition = { readonly mediaFileId: MediaFileId; readonly form: Form };

/**
 * Files that are one recording in several forms: the same reel, start and length, and names of which one came of the
 * other, or where no reel is known the same stem; same shape of picture. Two cameras started by one hand, their clocks
 * set alike, share all but their names, and units share reels: another name altogether is another recording, unless the
 * reel is the name of this one recording and no roll. Only files that carry timecode can be told so; what differs in any
 * of these, or in its content at the same form, is a recording of its own. `accepted` are known accepted copies. By each
 * file's id.
 */
export function findRenditions(
  files: Iterable<MediaFile>,
  accepted: ReadonlySet<MediaFileId> = new Set(),
): Map<MediaFileId, readonly Rendition[]> {
  const renditions = new Map<MediaFileId, readonly Rendition[]>();
  for (const group of groupedBy(files, recordingKey)) {
    for (const alike of byShape(group).flatMap(byName)) {
      if (alike.length < 2) continue;
      const list = formsOf(alike, accepted);
      // Several of one form with different bytes are not forms of one recording: which is which is not known.
      if (list && new Set(list.map((r) => r.form)).size > 1)
        for (const { mediaFileId } of list) renditions.set(mediaFileId, list);
    }
  }
  return renditions;
}

function recordingKey(file: MediaFile): string | null {
  const { facts, unreadable } = file;
  if (!facts || unreadable || facts.kind !== 'picture' || facts.length === null || facts.timecodeSource === 'none')
    return null;
  const rate = countingRate(facts);
  if (!rate) return null;
  const who = facts.reel ? `reel ${reelKey(facts.reel).slice(0, 8)}` : `stem ${stemOf(file)}`;
  return [who, facts.start, facts.length, nominalRate(rate)].join('\u0000');
}

/** Rasters of one shape lie together; one pixel of rounding is what scaling an odd size costs. */
function byShape(files: readonly MediaFile[]): MediaFile[][] {
  const shapes: MediaFile[][] = [];
  for (const file of files) {
    const raster = file.facts!.raster;
    const shape = shapes.find(([first]) => {
      const other = first!.facts!.raster;
      if (!raster || !other) return raster === other;
      return Math.abs(raster.width * other.height - other.width * raster.height) <= Math.max(raster.width, other.width);
    });
    if (shape) shape.push(file);
    else shapes.push([file]);
  }
  return shapes;
}

/** So many have not been made of one recording: they begin and are called alike for want of anything better. */
const mostOfOne = 40;

/** Those whose names came of each other lie together, also by way of a third. */
function byName(files: readonly MediaFile[]): MediaFile[][] {
  if (files.length > mostOfOne) return groupedBy(files, stemOf);
  let groups: MediaFile[][] = [];
  for (const file of files) {
    const isOf = (group: readonly MediaFile[]) => group.some((other) => areOneName(other, file));
    groups = [[file, ...groups.filter(isOf).flat()], ...groups.filter((group) => !isOf(group))];
  }
  return groups;
}

function groupedBy(files: Iterable<MediaFile>, keyOf: (file: MediaFile) => string | null): MediaFile[][] {
  const groups = new Map<string, MediaFile[]>();
  for (const file of files) {
    const key = keyOf(file);
    if (key === null) continue;
    const group = groups.get(key);
    if (group) group.push(file);
    else groups.set(key, [file]);
  }
  return [...groups.values()];
}

const stemOf = ({ name }: MediaFile): string => nameKey(splitExtension(name).stem);

const areOneName = (a: MediaFile, b: MediaFile): boolean =>
  isNamedByReel(a) || isNamedByReel(b) || cameOf(a.name, b.name) || cameOf(b.name, a.name);

function cameOf(name: string, other: string): boolean {
  const stem = renamingOf(name, other)?.stem;
  switch (stem?.kind) {
    case 'added':
    case 'removed':
      // "C0001_1" is what another recording is called that came to lie beside a "C0001".
      return stem.before !== '' || !isCopyMark(nameKey(stem.after));
    case 'same':
    case 'inserted':
      return true;
    case 'replaced':
      return isWord(stem.from) && isWord(stem.to);
    default:
      return false;
  }
}

/** "offline" and "online" are words for what was done to a file; "A" and "B", "01" and "02" are others of its kind. */
const isWord = (text: string): boolean => /^\p{L}{3,}$/u.test(text);

/** The reel is a recording's own where a file bears it, whole or cut as lists cut, as its name. */
function isNamedByReel({ name, facts }: MediaFile): boolean {
  const reel = facts?.reel;
  return Boolean(reel) && compareReels(reelForms(splitExtension(name).stem), reelForms(reel!)) !== 'other';
}

/** Of one raster, but so many times lighter: of another bitrate class, as small copies for editing are. */
const lightCopy = 4;

function formsOf(files: readonly MediaFile[], accepted: ReadonlySet<MediaFileId>): Rendition[] | null {
  const width = (file: MediaFile) => file.facts!.raster?.width ?? 0;
  const own = files.filter((f) => !accepted.has(f.id));
  const widest = Math.max(...own.map(width));
  const first = own.filter((f) => width(f) === widest);
  // Of several as large, the one that is largest in bytes is nearest to what the camera wrote.
  const original = first.reduce((a, b) => (b.sizeInBytes > a.sizeInBytes ? b : a), first[0]!);
  if (!original) return null;
  const list = files.map((file): Rendition & { file: MediaFile } => ({
    file,
    mediaFileId: file.id,
    form: accepted.has(file.id)
      ? 'accepted'
      : isAlike(file, original)
        ? 'original'
        : width(file) < widest || file.sizeInBytes * lightCopy <= original.sizeInBytes
          ? 'small'
          : 'other',
  }));
  for (const form of forms) {
    const bytes = list.filter((r) => r.form === form).map((r) => r.file.fullHash ?? r.file.fingerprint);
    if (bytes.length > 1 && (form === 'original' || form === 'other') && new Set(bytes).size > 1) return null;
  }
  return list.map(({ mediaFileId, form }) => ({ mediaFileId, form }));
}

/** The same technical form: another such file is a copy of the original, or another recording, never a rendition of it. */
function isAlike(a: MediaFile, b: MediaFile): boolean {
  if (a === b) return true;
  const [x, y] = [a.facts!, b.facts!];
  return (
    x.codec === y.codec &&
    x.container === y.container &&
    x.raster?.width === y.raster?.width &&
    x.bitDepth === y.bitDepth
  );
}

/**
 * A clip's candidates, each with its form where they are one recording in several. Only those that agree in timecode are
 * asked; where two recordings are among them in several forms each, nobody is told which form is meant.
 */
export function withForms(candidates: readonly Candidate[], accepted: ReadonlySet<MediaFileId>): readonly Candidate[] {
  const same = candidates.filter((c) => verdictIn(c.marks, 'timecode') === 'agrees' && c.file.kind === 'picture');
  if (same.length < 2) return candidates;
  const found = findRenditions(
    same.map((c) => c.file.file),
    accepted,
  );
  if (new Set(found.values()).size !== 1) return candidates;
  return candidates.map((c) => {
    const form = found.get(c.file.id)?.find((r) => r.mediaFileId === c.file.id)?.form;
    return form ? { file: c.file, marks: c.marks, levels: c.levels, form } : c;
  });
}
