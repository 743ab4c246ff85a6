import type { ClipInHand, Decided } from './decision.ts';
import { marksUnder, verdictIn, type RuleBits } from './marks.ts';
import { isOfReel } from './prepare.ts';
import type { Candidate, FileInHand } from './weigh.ts';

/** So many independent recordings must lie in one folder before what each of them shows is more than a likelihood. */
const leastWitnesses = 3;

/** Of what lies in the folder that holds most of a reel, another that holds so much as one in so many is a card of it. */
const leastShare = 4;

type Standing = { readonly witnesses: Set<string>; against: number };

/**
 * Two grounds are not enough by themselves. A list states no length, so that name, reel and covered timecode are
 * coverage: another unit's card of the same reel covers some of it by chance. And where every camera restarts its
 * numbering, name, timecode and length without reel are those of the camera beside it, whose clock was set alike. Both
 * stand where others of the same folder (or reel) lie beside them in the same way, and no file there is another
 * recording under one of their names; else they are likely and no more. Several cards may bear one reel: then what was
 * found on one of them says nothing against another, unless that holds too little to be a card.
 */
export function bearOutByCompany<C extends ClipInHand, F extends FileInHand>(
  decided: readonly Decided<C, F>[],
  bits: RuleBits,
): Decided<C, F>[] {
  // Only what stands in question is gathered: mostly few folders of many.
  const asked = new Map<string | null, Map<string, Standing>>();
  const needy = decided.map((entry) => needsCompany(entry, bits));
  decided.forEach((entry, i) => {
    if (!needy[i]) return;
    const byFolder = asked.get(entry.clip.origin) ?? new Map<string, Standing>();
    asked.set(entry.clip.origin, byFolder);
    byFolder.set(folderOf(chosenOf(entry)!), { witnesses: new Set(), against: 0 });
  });
  if (asked.size === 0) return [...decided];
  for (const { clip, candidates, decision } of decided) {
    const byFolder = asked.get(clip.origin);
    if (!byFolder) continue;
    for (const candidate of candidates) {
      const standing = byFolder.get(folderOf(candidate));
      if (!standing) continue;
      const seen = marksUnder(bits, candidate.marks);
      if (verdictIn(seen, 'name') !== 'agrees' || verdictIn(seen, 'reel') === 'differs') continue;
      if (decision.kind === 'certain' && decision.mediaFileId === candidate.file.id)
        standing.witnesses.add(candidate.file.bytes ?? candidate.file.id);
      else if (verdictIn(seen, 'timecode') === 'differs' || verdictIn(seen, 'length') === 'differs')
        // Clips that nothing gathers are of many cards: a namesake of one is nothing to another.
        standing.against += clip.origin === null || (isOfReel(clip) && decision.kind === 'certain') ? 0 : 1;
    }
  }
  const mostOf = new Map<string | null, number>();
  for (const [origin, byFolder] of asked)
    for (const { witnesses } of byFolder.values())
      mostOf.set(origin, Math.max(mostOf.get(origin) ?? 0, witnesses.size));
  return decided.map((entry, i) => {
    const { clip, decision } = entry;
    if (decision.kind !== 'certain' || !needy[i]) return entry;
    const standing = asked.get(clip.origin)!.get(folderOf(chosenOf(entry)!))!;
    const isACard = !isOfReel(clip) || standing.witnesses.size * leastShare >= mostOf.get(clip.origin)!;
    if (standing.witnesses.size >= leastWitnesses && standing.against === 0 && isACard) return entry;
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

const folderOf = ({ file }: Candidate<FileInHand>): string => `${file.placeId}\u0000${file.folder}`;

const chosenOf = ({ candidates, decision }: Decided): Candidate<FileInHand> | undefined =>
  decision.kind === 'certain' ? candidates.find((c) => c.file.id === decision.mediaFileId) : undefined;

function needsCompany(entry: Decided, bits: RuleBits): boolean {
  const { clip, decision } = entry;
  if (decision.kind !== 'certain') return false;
  const isOfCard = decision.grounds === 'name-timecode-length' && clip.nameIsCommon;
  // What a log says of a list's clip was taken from it because it covers what is used: coverage still.
  const isCoverage = decision.grounds === 'name-reel-timecode' || (clip.enriched !== null && clip.nameIsCommon);
  if (!isCoverage && !isOfCard) return false;
  const seen = marksUnder(bits, chosenOf(entry)!.marks);
  // Where all folders that the edit knows agree, nothing changed but the name of the drive.
  if (verdictIn(seen, 'folder') === 'agrees') return false;
  return isCoverage || verdictIn(seen, 'reel') !== 'agrees';
}
