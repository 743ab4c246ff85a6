import type { ClipId, MediaFileId } from '../model/ids.ts';
import type { ClipInHand, Decided } from './decision.ts';
import type { FileInHand } from './weigh.ts';

/** A tie that already stands, so that another recording is not given the same file. */
export type Claim = { readonly clip: Claimant; readonly mediaFileId: MediaFileId };
export type Claimant = Pick<ClipInHand, 'id' | 'reelKey' | 'parentKey' | 'stemKey' | 'start'>;

/** One file, one recording: where different recordings claim a file, the one whose folders agree more keeps it. */
export function settleClaims<C extends ClipInHand, F extends FileInHand>(
  decided: readonly Decided<C, F>[],
  claims: readonly Claim[],
): Decided<C, F>[] {
  type Entry = { clip: Claimant; levels: number; standing: boolean };
  const byFile = new Map<MediaFileId, Entry[]>();
  const note = (id: MediaFileId, entry: Entry) => {
    const list = byFile.get(id);
    if (list) list.push(entry);
    else byFile.set(id, [entry]);
  };
  for (const { clip, mediaFileId } of claims) note(mediaFileId, { clip, levels: Infinity, standing: true });
  for (const { clip, candidates, decision } of decided) {
    if (decision.kind !== 'certain') continue;
    const chosen = candidates.find((c) => c.file.id === decision.mediaFileId)!;
    note(decision.mediaFileId, { clip, levels: chosen.levels, standing: false });
  }
  const losers = new Set<ClipId>();
  for (const claimants of byFile.values()) {
    if (claimants.length < 2) continue;
    claimants.sort((a, b) => b.levels - a.levels);
    const first = claimants[0]!;
    const others = claimants.filter((c) => !sameRecording(first.clip, c.clip));
    for (const other of others) losers.add(other.clip.id);
    if (!first.standing && others.some((o) => o.levels === first.levels))
      for (const c of claimants) losers.add(c.clip.id);
  }
  // What is only likely gives way to whatever of another recording has the file, or is certain of it.
  for (const { clip, decision } of decided) {
    if (decision.kind !== 'ask' || decision.certainty !== 'likely') continue;
    if (byFile.get(decision.mediaFileIds[0]!)?.some((other) => !sameRecording(other.clip, clip))) losers.add(clip.id);
  }
  if (losers.size === 0) return [...decided];
  return decided.map((entry) => {
    const { decision, clip } = entry;
    // Who claims a file by a link that stands, and fits no file, has nothing to lose.
    if (!losers.has(clip.id) || (decision.kind !== 'certain' && decision.kind !== 'ask')) return entry;
    const ids = decision.kind === 'certain' ? [decision.mediaFileId] : decision.mediaFileIds;
    return {
      ...entry,
      decision: { kind: 'ask', certainty: 'possible', reason: 'contested', mediaFileIds: ids, second: null },
    };
  });
}

/**
 * Two clips may be one recording seen from two machines; different reels, equal names in different folders, or other
 * names that do not begin at the same address are not.
 */
export function sameRecording(a: Claimant, b: Claimant): boolean {
  const isNamedAlike =
    a.stemKey === b.stemKey || a.stemKey === a.reelKey.toLowerCase() || b.stemKey === b.reelKey.toLowerCase();
  if (!isNamedAlike && (a.start === null || b.start === null || a.start !== b.start)) return false;
  // Lists cut reels: one that begins like the other may be it.
  if (a.reelKey && b.reelKey) return a.reelKey.startsWith(b.reelKey) || b.reelKey.startsWith(a.reelKey);
  return a.parentKey === null || b.parentKey === null || a.parentKey === b.parentKey;
}
