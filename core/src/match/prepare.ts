import type { Clip, MediaKind } from '../model/edit.ts';
import type { ClipId, MediaFileId, PlaceId } from '../model/ids.ts';
import { knownFromMetadata, type Known } from '../model/known.ts';
import { countingRate, sourceRange, type MediaFile } from '../model/media.ts';
import { pathKeys, type PathKeys } from '../paths/places.ts';
import { foldersFromVolume, parseRememberedPath, type RememberedPath } from '../paths/remembered.ts';
import { nameKey, nameTokens, reelForms, reelKey, splitExtension, type ReelForms } from '../paths/names.ts';
import { sequenceNamed } from '../paths/sequence.ts';
import { renamingOf, type Renaming } from '../paths/renaming.ts';
import { allBesideIn } from '../paths/siblings.ts';
import { versionsIn } from '../paths/versions.ts';
import { acrossMidnight, nearestDay, uniteRanges, type FrameRange } from '../time/range.ts';
import { isCommonStart } from '../time/starts.ts';
import { framesPerDay } from '../time/timecode.ts';
import { toMilliseconds } from '../time/intervals.ts';

/** A clip whose addresses are as its file counts them (`readAs`), with what was learned of its media by an earlier link. */
export type MatchClip = Clip & {
  readonly id: ClipId;
  readonly known?: Known | null;
  /** What another clip says of its media, as a row of a log does (see `enrichFromLogs`). */
  readonly enriched?: Enriched | undefined;
};

/** Taken from another clip: where the media begins and ends, and, where the clip had no name of its own, that as well. */
export const enrichments = ['extent', 'extent-and-name'] as const;
export type Enriched = (typeof enrichments)[number];

/** A clip with all that comparisons ask for again and again, worked out once. */
export type PreparedClip = {
  readonly id: ClipId;
  readonly clip: MatchClip;
  readonly known: Known | null;
  readonly path: RememberedPath | null;
  readonly pathKeys: PathKeys | null;
  /** The name to look for: that of the remembered file, else the clip's. */
  readonly name: string;
  readonly nameKey: string;
  readonly stem: string;
  readonly stemKey: string;
  readonly tokens: readonly string[];
  /** The stem as reels are compared; and whether the clip bears its reel's name and no other. */
  readonly stemAsReel: string;
  readonly isNamedByReel: boolean;
  /** The stem of the clip's own name, where its file had another. */
  readonly clipStemKey: string;
  /** Remembered volume and folders, top first; empty when the edit knows no path. */
  readonly folders: readonly string[];
  readonly folderKeys: readonly string[];
  readonly folderText: string;
  /** The versions that its lowest folder tells, where its name tells none. */
  readonly versions: readonly number[];
  /** See `lowestFolders`. */
  readonly lowest: readonly string[];
  /** What the folders on its way are of, where cameras, channels or eyes have each their own; see `siblings.ts`. */
  readonly beside: readonly string[];
  /** The folder that the file lay in; null when the edit knows no path. */
  readonly parentKey: string | null;
  /** The folder that the edit remembers it in; its reel, where it remembers none, or its name's; null where nothing gathers it. */
  readonly origin: string | null;
  readonly reelKey: string;
  readonly reel: ReelForms | null;
  /** The first frame that the edit says its media has; null where it says none, or one that devices begin with. */
  readonly start: number | null;
  /** The image sequence that its name may mean, as a name key; `number` where it names one picture of it. */
  readonly sequence: { readonly nameKey: string; readonly number: number | null } | null;
  /** What is used, in one run also over midnight. */
  readonly used: readonly FrameRange[];
  /** See `wantedOf`. */
  readonly wanted: FrameRange | null;
  /** After so many frames its timecode begins again. */
  readonly dayInFrames: number;
  /** Null where all that is known of it is its own. */
  readonly enriched: Enriched | null;
  /** Files of its name are many; and its start is one that many takes have. Set by `withStanding`. */
  readonly nameIsCommon: boolean;
  readonly startIsCommon: boolean;
  readonly namesakes: number;
  readonly outOfTime: number;
  readonly leftOut: number;
};

/** How often a clip's name stands in the whole index, and what of that nobody weighed. */
export type Standing = Pick<PreparedClip, 'namesakes' | 'outOfTime' | 'leftOut'>;
/** More files of one name than this, and it tells nothing: every camera restarts its numbering. */
const fewNamesakes = 3;

/** Before the reel by which a clip is gathered; no folder begins so. */
const reelMark = '\u0000';
const originOf = (reel: string): string | null => (reel === '' ? null : reelMark + reel);
/** The reel with which a name begins, as cameras name: "A001" of "A001C003"; empty where a name is a counter, or words. */
const reelInName = (stem: string): string => reelKey(/^\p{L}+[ ._-]?\d{2,}(?=[ ._-]?\p{L})/u.exec(stem)?.[0] ?? '');
/** Whether both names begin with reels, and not with the same one: as those of two cameras that rolled at once. */
export function areOfOtherReels(clip: Pick<PreparedClip, 'stem'>, file: Pick<PreparedFile, 'stem'>): boolean {
  const [own, other] = [reelInName(clip.stem), reelInName(file.stem)];
  return own !== '' && other !== '' && own !== other;
}
/** Whether nothing but its reel gathers a clip: several cards may bear it. */
export const isOfReel = ({ origin }: Pick<PreparedClip, 'origin'>): boolean => origin?.startsWith(reelMark) ?? false;

/** A clip with what retrieval found out about its name. */
export function withStanding(clip: PreparedClip, { namesakes, outOfTime, leftOut }: Standing): PreparedClip {
  const { available, rate } = clip.clip;
  const nameIsCommon = namesakes > fewNamesakes;
  const startIsCommon = nameIsCommon && available !== null && isCommonStart(available.start, rate);
  return { ...clip, namesakes, outOfTime, leftOut, nameIsCommon, startIsCommon };
}

/** How the clip's name became the file's; of a sequence, the pattern is the name of any of its pictures. Null where it is another. */
export function renamingBetween(clip: PreparedClip, { nameKey: key, file }: PreparedFile): Renaming | null {
  return clip.name === file.name || clip.sequence?.nameKey === key ? asItWas : renamingOf(clip.name, file.name);
}
const asItWas: Renaming = { stem: { kind: 'same' }, extension: null };

export type PreparedFile = {
  readonly id: MediaFileId;
  readonly placeId: PlaceId;
  /** Its place is there. What lies in one that is away is a rival still, though nothing can be tied to it. */
  readonly there: boolean;
  /** Its folder inside its place. */
  readonly folder: string;
  readonly kind: MediaKind | null;
  readonly state: 'readable' | 'unread' | 'unusable';
  /** The same for the same bytes; null where nothing was measured. */
  readonly bytes: string | null;
  readonly file: MediaFile;
  readonly nameKey: string;
  readonly stem: string;
  readonly stemKey: string;
  readonly tokens: readonly string[];
  /** The stem as reels are compared. */
  readonly stemAsReel: string;
  /** Place name and folders, top first. */
  readonly folders: readonly string[];
  readonly folderKeys: readonly string[];
  readonly folderText: string;
  /** The versions that its lowest folder tells. */
  readonly versions: readonly number[];
  /** The same of all its folders, that of a project among them, of which what was shot is no version. */
  readonly versionsAnywhere: readonly number[];
  /** See `lowestFolders`. */
  readonly lowest: readonly string[];
  /** What the folders on its way are of, where cameras, channels or eyes have each their own; see `siblings.ts`. */
  readonly beside: readonly string[];
  readonly reelKey: string;
  readonly reel: ReelForms | null;
  readonly stretch: Stretch | null;
};

/**
 * From its first frame to its end, in whole milliseconds as timecode numbers them: near enough for finding, never for
 * judging. `isNumbered`: it carries timecode; else it counts from zero.
 */
export type Stretch = { readonly from: number; readonly to: number; readonly isNumbered: boolean };

/** The frames of a clip that are used, in one run also over midnight. */
const usedOf = (clip: Clip): FrameRange[] =>
  uniteRanges(acrossMidnight(clip.used, framesPerDay(clip.rate, clip.counting)));
const wantedAmong = (used: readonly FrameRange[], { available }: Clip): FrameRange | null =>
  used.length ? { start: used[0]!.start, end: used.at(-1)!.end } : available;

/** From the first to the last frame of a clip that is used, at its rate; what the edit says is available when nothing is. */
export const wantedOf = (clip: Clip): FrameRange | null => wantedAmong(usedOf(clip), clip);

export function prepareClip(clip: MatchClip): PreparedClip {
  const path = clip.remembered === null ? null : parseRememberedPath(clip.remembered);
  const name = path?.name || clip.name;
  const { stem } = splitExtension(name);
  const keys = path && pathKeys(path);
  const used = usedOf(clip);
  const reel = clip.reel ? reelForms(clip.reel) : null;
  const sequence = sequenceNamed(name);
  const folders = path ? foldersFromVolume(path) : [];
  const folderKeys = keys?.fromVolume ?? [];
  const stemKey = nameKey(stem);
  return {
    id: clip.id,
    clip,
    known: clip.known ?? knownFromMetadata(clip.metadata),
    path,
    pathKeys: keys,
    name,
    nameKey: nameKey(name),
    stem,
    stemKey,
    tokens: nameTokens(stemKey),
    stemAsReel: reelKey(stem),
    isNamedByReel: path === null && reel !== null && reel.full !== '' && reelKey(name) === reel.full,
    clipStemKey: clip.name === name ? stemKey : nameKey(splitExtension(clip.name).stem),
    folders,
    folderKeys,
    versions: versionsIn(stem).length > 0 ? [] : versionsIn(folderKeys.at(-1) ?? ''),
    lowest: lowestFolders(folderKeys),
    beside: allBesideIn(folderKeys),
    parentKey: folderKeys.at(-1) ?? null,
    origin: folderKeys.length > 0 ? folderKeys.join('/') : originOf(reel?.full || reelInName(stem)),
    folderText: folders.join('/'),
    reelKey: reel?.full ?? '',
    reel: reel?.full ? reel : null,
    start: clip.available && !isCommonStart(clip.available.start, clip.rate) ? clip.available.start : null,
    sequence: sequence && { nameKey: nameKey(sequence.name), number: sequence.number },
    used,
    dayInFrames: framesPerDay(clip.rate, clip.counting),
    enriched: clip.enriched ?? null,
    nameIsCommon: false,
    startIsCommon: false,
    namesakes: 0,
    outOfTime: 0,
    leftOut: 0,
    wanted: wantedAmong(used, clip),
  };
}

export const prepareFile = (file: MediaFile, placeName: string, there = true): PreparedFile =>
  new FilePreparer().prepare(file, placeName, there);

type Folder = Pick<
  PreparedFile,
  'folders' | 'folderKeys' | 'folderText' | 'versions' | 'versionsAnywhere' | 'lowest' | 'beside'
>;
type Name = Pick<PreparedFile, 'nameKey' | 'stem' | 'stemKey' | 'tokens' | 'stemAsReel'>;

/** Prepares many files: what those of one name, one folder or one reel share is worked out once, and kept once. */
export class FilePreparer {
  readonly #names = new Map<string, Name>();
  readonly #folders = new Map<string, Map<string, Folder>>();
  readonly #reels = new Map<string, ReelForms>();

  prepare(file: MediaFile, placeName: string, there = true): PreparedFile {
    const { nameKey: key, stem, stemKey, tokens, stemAsReel } = this.#name(file.name);
    const { folders, folderKeys, folderText, versions, versionsAnywhere, lowest, beside } = this.#folder(
      placeName,
      file.folder,
    );
    const reel = file.facts?.reel ? this.#reel(file.facts.reel) : null;
    return {
      id: file.id,
      placeId: file.placeId,
      there,
      folder: file.folder,
      kind: file.facts?.kind ?? null,
      state: file.unreadable ? 'unusable' : file.facts ? 'readable' : 'unread',
      bytes: file.fullHash ?? file.fingerprint,
      file,
      nameKey: key,
      stem,
      stemKey,
      tokens,
      stemAsReel,
      folders,
      folderKeys,
      folderText,
      versions,
      versionsAnywhere,
      lowest,
      beside,
      reelKey: reel?.full ?? '',
      reel: reel?.full ? reel : null,
      stretch: stretchOf(file),
    };
  }

  #name(name: string): Name {
    const known = this.#names.get(name);
    if (known) return known;
    const { stem } = splitExtension(name);
    const stemKey = nameKey(stem);
    const made = { nameKey: nameKey(name), stem, stemKey, tokens: nameTokens(stemKey), stemAsReel: reelKey(stem) };
    this.#names.set(name, made);
    return made;
  }

  #folder(placeName: string, folder: string): Folder {
    const ofPlace = this.#folders.get(placeName) ?? new Map<string, Folder>();
    this.#folders.set(placeName, ofPlace);
    const known = ofPlace.get(folder);
    if (known) return known;
    const folderText = folder === '' ? placeName : `${placeName}/${folder}`;
    const folders = folderText.split('/');
    const folderKeys = folders.map(nameKey);
    const versions = versionsIn(folderKeys.at(-1) ?? '');
    const versionsAnywhere = folderKeys.slice(1).flatMap(versionsIn);
    const [lowest, beside] = [lowestFolders(folderKeys), allBesideIn(folderKeys)];
    const made = { folders, folderKeys, folderText, versions, versionsAnywhere, lowest, beside };
    ofPlace.set(folder, made);
    return made;
  }

  #reel(reel: string): ReelForms {
    const known = this.#reels.get(reel) ?? reelForms(reel);
    this.#reels.set(reel, known);
    return known;
  }
}

/** The two lowest folders together, then the lowest: by these a namesake is looked for where it may lie. */
export function lowestFolders(folderKeys: readonly string[]): readonly string[] {
  const lowest = folderKeys.at(-1);
  if (lowest === undefined) return [];
  const above = folderKeys.at(-2);
  return above === undefined ? [lowest] : [`${above}/${lowest}`, lowest];
}

function stretchOf({ facts }: MediaFile): Stretch | null {
  const rate = facts && countingRate(facts);
  if (!rate || facts.length === null) return null;
  return {
    from: toMilliseconds(facts.start, rate),
    to: toMilliseconds(facts.start + facts.length, rate),
    isNumbered: facts.timecodeSource !== 'none',
  };
}

/**
 * The range of a file's source that a clip at `rate` can count on. A file without timecode counts from zero, so for
 * an edit that says where its media starts the file is laid at that start: its frames are the same, only unnumbered.
 */
export function alignedRange(
  clip: Pick<Clip, 'available' | 'rate'>,
  file: Pick<MediaFile, 'facts'>,
): FrameRange | null {
  if (!file.facts) return null;
  const range = sourceRange(file.facts, clip.rate);
  if (!range || file.facts.timecodeSource !== 'none' || !clip.available) return range;
  return { start: clip.available.start, end: clip.available.start + (range.end - range.start) };
}

/** A range of a clip's addresses on the day on which a file holds them. */
export const onItsDay = (range: FrameRange, held: FrameRange, clip: Pick<Clip, 'rate' | 'counting'>): FrameRange =>
  nearestDay(range, held, framesPerDay(clip.rate, clip.counting));
