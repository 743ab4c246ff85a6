import { type Claim, settleClaims } from './claims.ts';
import { bearOutByCompany } from './company.ts';
import type { AskReason, ClipInHand, Decided, Decision, Margin, Weighed } from './decision.ts';
import { defaultForm, type Form } from './forms.ts';
import { type Beginning, type Grounds, groundsIn, isLikely, isPlausible, type Judged } from './grounds.ts';
import { beats, difference, type JudgedCandidate, judgedUnder } from './judged.ts';
import { isRefusedUnder, liesBeside, type Marks, marksUnder, ruleBits, type RuleBits, verdictIn } from './marks.ts';
import { rivalsOf, rivalsOfLeader } from './rivals.ts';
import { type Attribute, attributes, type MatchRules } from './rules.ts';
import { type Candidate, closeness, type FileInHand, tellingLevels } from './weigh.ts';

/** Of equals always the same comes first, in whatever order they were found. */
const byName = (a: FileInHand, b: FileInHand): number =>
  a.nameKey < b.nameKey ? -1 : a.nameKey > b.nameKey ? 1 : a.id < b.id ? -1 : 1;

/** Candidates closest first. The order does not depend on rules, so it is made once. */
export function inOrderOfCloseness<F extends FileInHand>(candidates: readonly Candidate<F>[]): Candidate<F>[] {
  if (candidates.length < 2) return [...candidates];
  return candidates
    .map((candidate) => ({ candidate, value: closeness(candidate) }))
    .sort((a, b) => b.value - a.value || byName(a.candidate.file, b.candidate.file))
    .map((entry) => entry.candidate);
}

/**
 * Decides for all clips together; candidates stand closest first. Certain only where something identifies the file, no
 * counted attribute differs and no second candidate is as good, be it in a place that is away; then no file goes to two
 * different recordings. Linear in candidates, and asks nothing but marks, so that rules can be tried while they change.
 */
export function decide<C extends ClipInHand, F extends FileInHand>(
  weighed: readonly Weighed<C, F>[],
  rules: MatchRules,
  claims: readonly Claim[] = [],
  preferred: Form = defaultForm,
): Decided<C, F>[] {
  const bits = ruleBits(rules);
  const alone = weighed.map((one) => decideByItself(one, bits, preferred));
  return decideTogether(alone, bits, claims);
}

/** What would be decided of a clip if there were no other. */
export const decideByItself = <C extends ClipInHand, F extends FileInHand>(
  { clip, candidates }: Weighed<C, F>,
  bits: RuleBits,
  preferred: Form,
): Decided<C, F> => ({ clip, candidates, decision: decideAlone(clip, candidates, bits, preferred) });

/** What becomes of that in the company of all. Entries of which it changes nothing come back as they are. */
export const decideTogether = <C extends ClipInHand, F extends FileInHand>(
  alone: readonly Decided<C, F>[],
  bits: RuleBits,
  claims: readonly Claim[],
): Decided<C, F>[] => settleClaims(bearOutByCompany(alone, bits), claims);

function decideAlone(
  clip: ClipInHand,
  all: readonly Candidate<FileInHand>[],
  bits: RuleBits,
  preferred: Form,
): Decision {
  const { rules } = bits;
  const searched = rules.within || rules.kinds ? all.filter((c) => isSearched(c.file, rules)) : all;
  if (searched.length === 0) return { kind: 'nothing' };
  const candidates = searched.map((c) => judgedUnder(bits, c));
  const usable = candidates.filter(({ c, seen }) => c.file.state !== 'unusable' && !isRefusedUnder(bits, seen));
  const identifying = usable.filter((one) => groundsIn(one, clip) !== null);
  const unread = usable.filter((one) => one.c.file.state === 'unread' && one.c.file.there && isNamesake(one));
  const identified = theOne(clip, identifying, usable, preferred);
  if (unread.length > 0 && !(identified && groundsIn(identified.as, clip) === 'content'))
    return ask('still-reading', 'possible', [...identifying, ...unread]);
  if (identified) return certainly(identified, identifying, usable, clip);
  if (identifying.length > 1)
    return ask(isOneRecording(identifying) ? 'versions' : 'several', 'possible', leadersOf(identifying));
  return unidentified(clip, candidates, usable, bits);
}

/** `as` is what identified the recording, `taken` the form of it that the project works with. */
type Identified = { readonly as: JudgedCandidate; readonly taken: JudgedCandidate };

function certainly(
  { as, taken }: Identified,
  identifying: readonly JudgedCandidate[],
  usable: readonly JudgedCandidate[],
  clip: ClipInHand,
) {
  const { file } = taken.c;
  if (!file.there) return ask('place-away', 'possible', [taken]);
  const grounds = groundsIn(as, clip)!;
  if (clip.leftOut > 0 && grounds !== 'content') return ask('too-many', 'possible', [taken]);
  // What rolled at once begins and ends at once, and may be called alike: only its reel tells it.
  const isToldApart = grounds === 'content' || verdictIn(as.seen, 'reel') === 'agrees';
  if (liesBeside(as.c.marks) && !isToldApart) return ask('not-enough-known', 'possible', [taken]);
  const rivals = rivalsOf(grounds, clip, taken, usable);
  if (rivals.length > 0) return ask('several', 'possible', [taken, ...rivals]);
  const isCopy = (one: JudgedCandidate) => one !== taken && file.bytes !== null && one.c.file.bytes === file.bytes;
  const copies = identifying.filter(isCopy);
  const second = usable.find((one) => one !== taken && !copies.includes(one));
  return {
    kind: 'certain',
    mediaFileId: file.id,
    grounds,
    second: second ? margin(taken, second) : null,
    copies: copies.map(({ c }) => c.file.id),
  } as const;
}

/**
 * Of all that is identified the one that is meant, if anything tells. Of two recordings of which all holds alike it is the
 * namesake that lies where the edit says; where many begin as they do, only if its reel is known, too. A single folder is
 * called alike on every drive.
 */
function theOne(
  clip: ClipInHand,
  identifying: readonly JudgedCandidate[],
  usable: readonly JudgedCandidate[],
  preferred: Form,
): Identified | null {
  if (identifying.length === 0) return null;
  const leaders = leadersOf(identifying);
  const alike = isOneContent(leaders) ? nearest(leaders) : null;
  const lying = leaders.filter(
    (one) =>
      isNamesake(one) &&
      verdictIn(one.seen, 'folder') === 'agrees' &&
      one.c.levels >= tellingLevels &&
      (clip.start !== null || verdictIn(one.seen, 'reel') === 'agrees'),
  );
  const as = alike ?? inForms(leaders) ?? (lying.length > 0 && isOneContent(lying) ? nearest(lying) : null);
  return as && { as, taken: inForm(as, usable, preferred) };
}

/** Those that no other beats, folders aside: where a namesake lies is no proof of what it is. */
const leadersOf = (all: readonly JudgedCandidate[]): JudgedCandidate[] =>
  all.filter((one) => !all.some((other) => other !== one && beats(other, one, false)));

const isOneContent = (all: readonly JudgedCandidate[]): boolean => {
  const { bytes } = all[0]!.c.file;
  return all.length === 1 || (bytes !== null && all.every(({ c }) => c.file.bytes === bytes));
};

/** One recording in forms that tell themselves apart by raster or bitrate; as large in another codec is not told. */
function inForms(all: readonly JudgedCandidate[]): JudgedCandidate | null {
  const originals = all.filter(({ c }) => c.form === 'original');
  const isTold = all.every(({ c }) => c.form && c.form !== 'other') && originals.length > 0 && isOneContent(originals);
  return isTold ? nearest(originals) : null;
}

const isOneRecording = (all: readonly JudgedCandidate[]): boolean =>
  new Set(all.map(({ c }) => c.file.reelKey).filter((reel) => reel !== '')).size < 2 &&
  all.every(({ seen }) => verdictIn(seen, 'length') !== 'differs' && verdictIn(seen, 'timecode') === 'agrees');

/** The form that the project works with, where the recording is here in it; else as it was identified. */
function inForm(identified: JudgedCandidate, usable: readonly JudgedCandidate[], preferred: Form): JudgedCandidate {
  if (!identified.c.form || identified.c.form === preferred) return identified;
  const inPreferred = usable.filter(({ c }) => c.form === preferred && c.file.there);
  return inPreferred.length > 0 ? nearest(inPreferred) : identified;
}

/** Of files with the same bytes any is right; the one that is here, and whose folders agree most, is where one looks. */
const nearest = (all: readonly JudgedCandidate[]): JudgedCandidate =>
  all.reduce((best, one) =>
    one.c.file.there === best.c.file.there
      ? one.c.levels > best.c.levels
        ? one
        : best
      : one.c.file.there
        ? one
        : best,
  );

function unidentified(
  clip: ClipInHand,
  candidates: readonly JudgedCandidate[],
  usable: readonly JudgedCandidate[],
  bits: RuleBits,
): Decision {
  const worthAsking = usable.filter((one) => isPlausible(one, clip.startIsCommon));
  // Of another reel is only asked about where nothing of the right one, or of none, is worth asking about.
  const ofReel = worthAsking.filter(({ seen }) => verdictIn(seen, 'reel') !== 'differs');
  const plausible = ofReel.length > 0 ? ofReel : worthAsking;
  const broken = candidates.find((one) => one.c.file.state === 'unusable' && one.c.file.there && isWhereItLay(one));
  if (broken && !plausible.some((one) => one.c.levels > broken.c.levels))
    return { kind: 'unusable', mediaFileId: broken.c.file.id };
  const isBeaten = (one: JudgedCandidate) =>
    plausible.some(
      (other) => other !== one && beats(other, one, true) && (isWhereTold(other) || beats(other, one, false)),
    );
  const all = plausible.filter((one) => !isBeaten(one));
  const leaders = all.length > 1 && isOneContent(all) ? [nearest(all)] : all;
  if (leaders.length === 1) {
    const leader = leaders[0]!;
    if (!leader.c.file.there) return ask('place-away', 'possible', leaders);
    const rivals = rivalsOfLeader(clip, leader, usable);
    if (rivals.length > 0) return ask('several', 'possible', [leader, ...rivals]);
    const second = plausible.find((one) => one !== leader);
    // What was not weighed because its timecode is elsewhere is a rival again where timecode is not asked for.
    const isUntold = clip.leftOut > 0 || (clip.outOfTime > 0 && bits.rules.weights.timecode !== 'must');
    return ask(
      isUntold ? 'too-many' : 'not-enough-known',
      isLikely(leader) && !isUntold ? 'likely' : 'possible',
      leaders,
      second ? margin(leader, second) : null,
    );
  }
  if (leaders.length > 1) {
    const here = leaders.filter(({ c }) => c.file.there);
    return here.length === 0 ? ask('place-away', 'possible', leaders) : ask('several', 'possible', leaders);
  }
  const refused = candidates.find(
    (one) => one.c.file.there && isRefusedUnder(bits, one.seen) && isNamesake(one) && isWhereItLay(one),
  );
  return refused
    ? { kind: 'refused', mediaFileId: refused.c.file.id, differs: refusedIn(bits, refused.seen) }
    : { kind: 'nothing' };
}

const ask = (
  reason: AskReason,
  certainty: 'likely' | 'possible',
  candidates: readonly Pick<JudgedCandidate, 'c'>[],
  second: Margin | null = null,
): Decision => ({ kind: 'ask', certainty, reason, mediaFileIds: candidates.map(({ c }) => c.file.id), second });

const margin = (first: JudgedCandidate, second: JudgedCandidate): Margin => ({
  mediaFileId: second.c.file.id,
  behindIn: attributes.filter((a) => difference(first, second, a) > 0),
});

/** Whether the rules look at this file at all. */
export function isSearched(
  file: Pick<FileInHand, 'placeId' | 'folder' | 'kind'>,
  { within, kinds }: MatchRules,
): boolean {
  if (kinds && file.kind !== null && !kinds.includes(file.kind)) return false;
  return (
    !within ||
    within.some(
      ({ placeId, folder }) =>
        placeId === file.placeId && (folder === '' || file.folder === folder || file.folder.startsWith(`${folder}/`)),
    )
  );
}

/** Its name is the clip's, but for case and extension. */
const isNamesake = ({ marks, seen }: Judged): boolean =>
  verdictIn(marks, 'name') === 'agrees' || verdictIn(seen, 'name') === 'agrees';

/** A lowest folder alone is called alike on every card. */
const isWhereTold = ({ c, seen }: JudgedCandidate): boolean =>
  c.levels >= tellingLevels || verdictIn(seen, 'folder') === 'agrees';

/** By its name, and by all folders that the edit knows below the volume. */
const isWhereItLay = (one: JudgedCandidate): boolean => isNamesake(one) && verdictIn(one.marks, 'folder') === 'agrees';

const refusedIn = (bits: RuleBits, seen: Marks): readonly Attribute[] =>
  !isRefusedUnder(bits, seen)
    ? []
    : attributes.filter((a) => isRefusedUnder({ ...bits, must: ruleBitOf(bits, a) }, seen));

const ruleBitOf = ({ must }: RuleBits, attribute: Attribute): number =>
  must & (1 << (attributes.indexOf(attribute) * 2));

/** The attributes that must agree and differ. */
export function refusedFor(marks: Marks, rules: MatchRules): readonly Attribute[] {
  const bits = ruleBits(rules);
  return refusedIn(bits, marksUnder(bits, marks));
}

/** What identifies the recording under these rules, or null when nothing does or something that counts speaks against it. */
export const groundsOf = (marks: Marks, rules: MatchRules, clip: Beginning): Grounds | null =>
  groundsIn({ marks, seen: marksUnder(ruleBits(rules), marks) }, clip);
