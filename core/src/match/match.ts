import type { MediaFileId, PlaceId } from '../model/ids.ts';
import type { MediaFile } from '../model/media.ts';
import type { Place } from '../model/place.ts';
import { PlaceDirectory } from '../paths/places.ts';
import { isTakenAsRemembered, whereRemembered, type Spot } from './arrive.ts';
import { decideByItself, decideTogether, inOrderOfCloseness } from './decide.ts';
import { type Decided, type Weighed } from './decision.ts';
import { enrichFromLogs } from './enrich.ts';
import { contradicts, explain, type Why } from './explain.ts';
import { defaultForm, type Form } from './forms.ts';
import { ruleBits } from './marks.ts';
import { Neighbours } from './neighbours.ts';
import {
  FilePreparer,
  prepareClip,
  withStanding,
  type MatchClip,
  type PreparedClip,
  type PreparedFile,
} from './prepare.ts';
import { CandidateIndex } from './retrieve.ts';
import { withForms } from './renditions.ts';
import type { MatchRules } from './rules.ts';
import { weigh, type Candidate } from './weigh.ts';

export type ClipToMatch = MatchClip & {
  readonly linkedTo: MediaFileId | null;
  /** Files that a person said are not the one. */
  readonly declined: readonly MediaFileId[];
};

export type MatchInput = {
  readonly clips: readonly ClipToMatch[];
  /** Files of places that are there, and of those that are away too: they are rivals, and answer for where a clip lies. */
  readonly files: readonly MediaFile[];
  readonly places: readonly Place[];
  readonly rules: MatchRules;
  /** The form of a recording that the project works with, where several are here. */
  readonly preferredForm?: Form | undefined;
  /** Accepted copies that Legame made. */
  readonly accepted?: ReadonlySet<MediaFileId> | undefined;
};

export type MatchResult = Decided<PreparedClip, PreparedFile> & {
  /** The file that lies exactly where the edit says, be it the right one or not. */
  readonly whereRemembered: MediaFileId | null;
  readonly why: Why;
};

/** What came, changed or went since: files that are there, files that are not, and clips decided or read otherwise. */
export type MatchChange = {
  readonly files: readonly MediaFile[];
  readonly gone: readonly MediaFileId[];
  readonly clips: readonly ClipToMatch[];
};

/** The whole of matching over all clips, once. See `Matching`. */
export const match = (input: MatchInput): MatchResult[] => [...new Matching(input).results];

/** One clip on its way: what was retrieved and weighed for it alone, and what lies where it remembers. */
type Found = Weighed<PreparedClip, PreparedFile> & {
  readonly spot: PreparedFile | null;
  /** The file that it has a claim to as things stand. */
  readonly claim: MediaFileId | null;
};

/**
 * Matching: retrieve → weigh → decide → explain. Time grows with clips plus files, never with their product. Only files
 * of places that are there are ever proposed; those that are away are rivals. It may be kept: then a change costs the
 * clips that it can touch and their company, and comes to the same results as matching anew would.
 */
export class Matching {
  /** In the order of the clips given. */
  results: readonly MatchResult[] = [];
  #clips: readonly ClipToMatch[];
  /** The same with what logs of the project know of them. */
  #enriched: readonly ClipToMatch[];
  readonly #given: Omit<MatchInput, 'clips' | 'files'>;
  readonly #directory: PlaceDirectory;
  readonly #places: ReadonlyMap<PlaceId, Place>;
  readonly #preparer = new FilePreparer();
  readonly #files = new Map<MediaFileId, PreparedFile>();
  readonly #prepared: PreparedClip[];
  readonly #index: CandidateIndex;
  readonly #neighbours = new Neighbours();
  /** The clips of each origin, by their place in the list. */
  readonly #byOrigin = new Map<string, Set<number>>();
  readonly #found: Found[] = [];
  readonly #alone: Decided<PreparedClip, PreparedFile>[] = [];
  #settled: readonly Decided<PreparedClip, PreparedFile>[] = [];

  constructor({ clips, files, ...given }: MatchInput) {
    this.#given = given;
    this.#clips = clips;
    this.#directory = new PlaceDirectory(given.places);
    this.#places = new Map(given.places.map((place) => [place.id, place]));
    for (const file of files) this.#files.set(file.id, this.#prepareFile(file));
    this.#enriched = enrichFromLogs(clips);
    this.#prepared = this.#enriched.map(prepareClip);
    this.#prepared.forEach((clip, at) => this.#gather(clip, at));
    this.#index = new CandidateIndex(this.#prepared, this.#files.values());
    this.#weighAnew(this.#prepared.keys(), this.#byOrigin.keys());
  }

  /**
   * The results that are others than before. Null where what changed is not to be had by parts (other clips than there
   * were, or one at a rate that none counted at): then nothing was done, and it has to be made anew.
   */
  renew({ files, gone, clips }: MatchChange): MatchResult[] | null {
    const changed = this.#replaced(clips);
    if (!changed) return null;
    const touched = new Set<number>();
    const origins = new Set<string>();
    const touch = (file: PreparedFile) => {
      for (const at of this.#index.askersOf(file)) touched.add(at);
      for (const origin of this.#neighbours.originsPointingAt(file)) origins.add(origin);
    };
    const put = (id: MediaFileId, file: PreparedFile | null) => {
      const was = this.#files.get(id);
      if (was) {
        touch(was);
        this.#index.remove(was);
        this.#neighbours.remove(was);
        this.#files.delete(id);
      }
      if (!file) return;
      this.#files.set(id, file);
      this.#index.add(file);
      this.#neighbours.add(file);
      touch(file);
    };
    for (const id of gone) put(id, null);
    for (const file of files) put(file.id, this.#prepareFile(file));
    this.#index.replace(changed, this.#files.values());
    for (const { at, was, is } of changed) {
      this.#prepared[at] = is;
      touched.add(at);
      if (was.origin !== null && was.origin !== is.origin) {
        this.#byOrigin.get(was.origin)!.delete(at);
        origins.add(was.origin);
      }
      this.#gather(is, at);
    }
    return this.#weighAnew(touched, origins);
  }

  /** Whether a file that is there, new or changed, could be a candidate or a rival of any clip. */
  reaches = (file: MediaFile): boolean => this.#isAskedFor(this.#prepareFile(file)) || this.knows(file.id);

  /** Whether a file that went was one. */
  knows = (id: MediaFileId): boolean => {
    const file = this.#files.get(id);
    return file !== undefined && this.#isAskedFor(file);
  };

  #isAskedFor = (file: PreparedFile): boolean =>
    this.#index.askersOf(file).size > 0 || this.#neighbours.originsPointingAt(file).size > 0;

  /** Retrieves and weighs these clips, looks where these origins and theirs point, and decides what that may change. */
  #weighAnew(clips: Iterable<number>, origins: Iterable<string>): MatchResult[] {
    const stale = new Set(clips);
    const asked = new Set(origins);
    for (const at of stale) {
      const found = this.#find(at);
      const { origin } = found.clip;
      // A namesake more that is no candidate is nothing to its company.
      if (origin !== null && !isSameWeighing(found, this.#found[at])) asked.add(origin);
      this.#found[at] = found;
    }
    const members = (origin: string) => [...(this.#byOrigin.get(origin) ?? [])];
    this.#neighbours.look(
      new Map([...asked].map((origin) => [origin, members(origin).map((at) => this.#found[at]!)])),
      this.#files.values(),
    );
    for (const origin of asked) for (const at of members(origin)) stale.add(at);
    const { rules, preferredForm = defaultForm, accepted = noneAccepted } = this.#given;
    const bits = ruleBits(rules);
    for (const at of stale) {
      const found = this.#found[at]!;
      const all = allowed(this.#clips[at]!, this.#neighbours.withNeighbours(found));
      const candidates = withForms(inOrderOfCloseness(all), accepted);
      this.#alone[at] = decideByItself({ clip: found.clip, candidates }, bits, preferredForm);
    }
    const claims = this.#found.flatMap(({ clip, claim }) => (claim ? [{ clip, mediaFileId: claim }] : []));
    const before = this.#settled;
    this.#settled = decideTogether(this.#alone, bits, claims);
    const renewed: MatchResult[] = [];
    this.results = this.#settled.map((decided, at) => {
      if (!stale.has(at) && isSame(before[at]!.decision, decided.decision)) return this.results[at]!;
      const whereRemembered = this.#found[at]!.spot?.id ?? null;
      const { clip, candidates, decision } = decided;
      const result = { clip, candidates, decision, whereRemembered, why: explain(decided, this.#directory) };
      const known = this.results[at];
      if (known && isSameResult(result, known)) return known;
      renewed.push(result);
      return result;
    });
    return renewed;
  }

  #find(at: number): Found {
    const [prepared, given] = [this.#prepared[at]!, this.#clips[at]!];
    const found = this.#index.candidatesOf(at);
    const clip = withStanding(prepared, found);
    const candidates = allowed(
      given,
      found.files.map((file) => weigh(prepared, file)),
    );
    const lying = whereRemembered(prepared, this.#directory, this.#index);
    const spot = lying && isTaken(clip, given, lying, this.#given.rules) ? lying.file : null;
    const isItsOwn = spot !== null && contradicts(weigh(clip, spot).marks).length === 0;
    return { clip, candidates, spot, claim: given.linkedTo ?? (isItsOwn ? spot.id : null) };
  }

  /** The clips that are others than they were, by themselves or by what the logs say; null if any was not there before. */
  #replaced(given: readonly ClipToMatch[]): { at: number; was: PreparedClip; is: PreparedClip }[] | null {
    if (given.length === 0) return [];
    const byId = new Map(given.map((clip) => [clip.id, clip]));
    const clips = this.#clips.map((clip) => byId.get(clip.id) ?? clip);
    const enriched = enrichFromLogs(clips);
    const changed = enriched.flatMap((clip, at) =>
      !byId.has(clip.id) && isSame(clip, this.#enriched[at]!)
        ? []
        : [{ at, was: this.#prepared[at]!, is: prepareClip(clip) }],
    );
    const isKnown = clips.filter((clip) => byId.has(clip.id)).length === byId.size;
    if (!isKnown || !changed.every(({ is }) => this.#index.countsAt(is))) return null;
    this.#clips = clips;
    this.#enriched = enriched;
    return changed;
  }

  #gather({ origin }: PreparedClip, at: number): void {
    if (origin === null) return;
    const members = this.#byOrigin.get(origin) ?? new Set();
    this.#byOrigin.set(origin, members.add(at));
  }

  #prepareFile(file: MediaFile): PreparedFile {
    const place = this.#places.get(file.placeId);
    return this.#preparer.prepare(file, place?.name ?? '', place?.there ?? true);
  }
}

const noneAccepted: ReadonlySet<MediaFileId> = new Set();

const allowed = ({ declined }: ClipToMatch, candidates: readonly Candidate[]): readonly Candidate[] =>
  declined.length === 0 ? candidates : candidates.filter((c) => !declined.includes(c.file.id));

const isTaken = (clip: PreparedClip, { declined }: ClipToMatch, spot: Spot, rules: MatchRules): boolean =>
  !declined.includes(spot.file.id) && isTakenAsRemembered(clip, spot, rules);

/** Whether the same was found of the same clip, but for how often its name stands elsewhere. */
const isSameWeighing = (a: Weighed<PreparedClip, PreparedFile>, b: typeof a | undefined): boolean =>
  b !== undefined &&
  a.clip.clip === b.clip.clip &&
  a.candidates.length === b.candidates.length &&
  a.candidates.every(({ file, marks }, i) => file === b.candidates[i]!.file && marks === b.candidates[i]!.marks);

const isSameResult = (a: MatchResult, b: MatchResult): boolean =>
  isSameWeighing(a, b) &&
  a.candidates.every(({ form }, i) => form === b.candidates[i]!.form) &&
  a.whereRemembered === b.whereRemembered &&
  isSame(standingOf(a.clip), standingOf(b.clip)) &&
  isSame(a.decision, b.decision) &&
  isSame(a.why, b.why);

const standingOf = ({ namesakes, outOfTime, leftOut }: PreparedClip) => [namesakes, outOfTime, leftOut];

const isSame = <T>(a: T, b: T): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

export function prepareFiles(
  files: readonly MediaFile[],
  places: readonly (Pick<Place, 'id' | 'name'> & Partial<Pick<Place, 'there'>>)[],
): PreparedFile[] {
  const byId = new Map(places.map((p) => [p.id, p]));
  const preparer = new FilePreparer();
  return files.map((file) => {
    const place = byId.get(file.placeId);
    return preparer.prepare(file, place?.name ?? '', place?.there ?? true);
  });
}
