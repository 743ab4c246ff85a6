import type { ClipInHand, Decided, Decision } from './decide.ts';
import { marksUnder, verdictIn, type RuleBits } from './marks.ts';
import type { Candidate, FileInHand } from './weigh.ts';

/** So many independent recordings must lie in one folder before what each of them shows is more than a likelihood. */
const leastWitnesses = 3;

type Standing = { readonly witnesses: Set<string>; against: number };

/**
 * Two grounds are not enough by themselves. A list states no length, so that name, reel and covered timecode are
 * coverage: another unit's card of the same reel covers some of it by chance. And where every camera restarts its
 * numbering, name, timecode and length without reel are those of the camera beside it, whose clock was set alike. Both
 * stand where others of the same folder (or reel) lie beside them in the same way, and no file there is another
 * recording under one of their names; else they are likely and no more.
 */
export function bearOutByCompany<C extends ClipInHand, F extends FileInHand>(
  decided: readonly Decided<C, F>[],
  bits: RuleBits,
): Decided<C, F>[] {
  if (!decided.some((entry) => needsCompany(entry, bits))) return [...decided];
  const standings = new Map<string, Standing>();
  const keyOf = ({ origin }: ClipInHand, { file }: Candidate<FileInHand>) =>
    `${origin}\u0000${file.placeId}\u0000${file.folder}`;
  for (const { clip, candidates, decision } of decided) {
    for (const candidate of candidates) {
      const seen = marksUnder(bits, candidate.marks);
      if (verdictIn(seen, 'name') !== 'agrees' || verdictIn(seen, 'reel') === 'differs') continue;
      const key = keyOf(clip, candidate);
      const standing = standings.get(key) ?? { witnesses: new Set(), against: 0 };
      standings.set(key, standing);
      if (decision.kind === 'certain' && decision.mediaFileId === candidate.file.id)
        standing.witnesses.add(candidate.file.bytes ?? candidate.file.id);
      else if (verdictIn(seen, 'timecode') === 'differs' || verdictIn(seen, 'length') === 'differs')
        // Clips that nothing gathers are of many cards: a namesake of one is nothing to another.
        standing.against += clip.origin === null ? 0 : 1;
    }
  }
  return decided.map((entry) => {
    const { clip, decision } = entry;
    if (decision.kind !== 'certain' || !needsCompany(entry, bits)) return entry;
    const standing = standings.get(keyOf(clip, chosenOf(entry, decision)));
    if (standing && standing.witnesses.size >= leastWitnesses && standing.against === 0) return entry;
    return {
      ...entry,
      decision: {
        kind: 'ask',
        certainty: 'likely',
        reason: 'not-enough-known',
        mediaFileIds: [decision.mediaFileId],
        second: decision.second,
      },
    };
  });
}

type Certain = Extract<Decision, { kind: 'certain' }>;

const chosenOf = <F extends FileInHand>(
  { candidates }: { candidates: readonly Candidate<F>[] },
  { mediaFileId }: Certain,
) => candidates.find((c) => c.file.id === mediaFileId)!;

function needsCompany(entry: Decided, bits: RuleBits): boolean {
  const { clip, decision } = entry;
  if (decision.kind !== 'certain') return false;
  const isOfCard = decision.grounds === 'name-timecode-length' && clip.nameIsCommon;
  if (decision.grounds !== 'name-reel-timecode' && !isOfCard) return false;
  const seen = marksUnder(bits, chosenOf(entry, decision).marks);
  // Where all folders that the edit knows agree, nothing changed but the name of the drive.
  if (verdictIn(seen, 'folder') === 'agrees') return false;
  return !isOfCard || verdictIn(seen, 'reel') !== 'agrees';
}
