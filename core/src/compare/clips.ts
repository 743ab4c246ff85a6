import type { Clip } from '../model/edit.ts';
import { nameKey } from '../paths/names.ts';
import { parseRememberedPath } from '../paths/remembered.ts';

/**
 * Which clip of a newer version of a document is which of the older one: by everything that both say, then by the
 * remembered path, then by reel and name, then by name alone, the last three only where nothing else on either side
 * could be meant. A clip that now remembers another file name is another clip, whatever it is called: what was
 * decided of the old one must not go over to it. Returns old keys by new ones.
 */
export function sameClips(older: readonly Clip[], newer: readonly Clip[]): Map<string, string> {
  const same = new Map<string, string>();
  const taken = new Set<string>();
  const pair = (identityOf: (clip: Clip) => string | null, isUniqueOnly: boolean) => {
    const [left, right] = [
      group(older, identityOf, (c) => taken.has(c.key)),
      group(newer, identityOf, (c) => same.has(c.key)),
    ];
    for (const [identity, candidates] of right) {
      const olds = left.get(identity) ?? [];
      if (isUniqueOnly && (olds.length !== 1 || candidates.length !== 1)) continue;
      candidates.slice(0, olds.length).forEach((clip, i) => {
        const old = olds[i]!;
        if (!remembersSameFile(old, clip)) return;
        same.set(clip.key, old.key);
        taken.add(old.key);
      });
    }
  };
  const all = (c: Clip) => [c.remembered ?? '', c.reel ?? '', c.name, c.rate.num, c.rate.den].join('\u0000');
  pair((c) => `${all(c)}\u0000${c.available?.start ?? ''}`, false);
  pair(all, false);
  pair((c) => c.remembered, true);
  pair((c) => (c.reel === null ? null : `${nameKey(c.reel)}\u0000${nameKey(c.name)}`), true);
  pair((c) => nameKey(c.name), true);
  return same;
}

function group(
  clips: readonly Clip[],
  identityOf: (clip: Clip) => string | null,
  isDone: (clip: Clip) => boolean,
): Map<string, Clip[]> {
  const groups = new Map<string, Clip[]>();
  for (const clip of clips) {
    const identity = isDone(clip) ? null : identityOf(clip);
    if (identity === null) continue;
    const known = groups.get(identity);
    if (known) known.push(clip);
    else groups.set(identity, [clip]);
  }
  return groups;
}

function remembersSameFile(a: Clip, b: Clip): boolean {
  if (a.remembered === null || b.remembered === null || a.remembered === b.remembered) return true;
  return nameKey(parseRememberedPath(a.remembered).name) === nameKey(parseRememberedPath(b.remembered).name);
}
