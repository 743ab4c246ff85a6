import TinyQueue from 'tinyqueue';

/** Something to be explained, of some weight, with the explanations that would do, most general first. */
export type ToExplain = { readonly weight: number; readonly options: readonly string[] };

/**
 * Which explanation each item gets so that few explanations do for all: the one that accounts for most of what is
 * still unexplained is taken first, and so on (greedy set cover). Of equals the one met first. What has no option gets
 * null. Near linear: an explanation's worth only falls, so a queue of stale worths is enough.
 */
export function cover(items: readonly ToExplain[]): (string | null)[] {
  const options = new Map<
    string,
    { readonly key: string; readonly items: number[]; worth: number; readonly order: number }
  >();
  items.forEach(({ weight, options: keys }, i) => {
    for (const key of keys) {
      const option = options.get(key);
      if (option) {
        option.items.push(i);
        option.worth += weight;
      } else options.set(key, { key, items: [i], worth: weight, order: options.size });
    }
  });
  const taken: (string | null)[] = items.map(() => null);
  type Option = { readonly key: string; readonly items: number[]; worth: number; readonly order: number };
  const queue = new TinyQueue<Option>([...options.values()], (a, b) => b.worth - a.worth || a.order - b.order);
  for (let option = queue.pop(); option; option = queue.pop()) {
    const left = option.items.filter((i) => taken[i] === null);
    const worth = left.reduce((sum, i) => sum + items[i]!.weight, 0);
    if (worth === 0) continue;
    if (worth < option.worth) {
      option.worth = worth;
      queue.push(option);
      continue;
    }
    for (const i of left) taken[i] = option.key;
  }
  return taken;
}
