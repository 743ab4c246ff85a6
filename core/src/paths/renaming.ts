import { nameKey, splitExtension, standsAlone } from './names.ts';

/** How a stem became another, in a way that can be done to other stems too. Texts are as the new name writes them. */
export type StemChange =
  | { readonly kind: 'same' }
  | { readonly kind: 'added'; readonly before: string; readonly after: string }
  | { readonly kind: 'removed'; readonly before: string; readonly after: string }
  /** Put in before the last `wordsAfter` words. */
  | { readonly kind: 'inserted'; readonly text: string; readonly wordsAfter: number }
  | { readonly kind: 'replaced'; readonly from: string; readonly to: string; readonly at: 'front' | 'middle' | 'end' }
  /** One of its numbers, counted from the end, went up or down by a constant. */
  | { readonly kind: 'renumbered'; readonly by: number; readonly fromEnd: number };

/** How one file name became another. The extension is null where it stayed. */
export type Renaming = { readonly stem: StemChange; readonly extension: string | null };

export const isRenamed = ({ stem, extension }: Renaming): boolean => stem.kind !== 'same' || extension !== null;

/** The pattern by which one name became the other; null where nothing of it can be carried to another name. */
export function renamingOf(before: string, after: string): Renaming | null {
  const [a, b] = [splitExtension(before), splitExtension(after)];
  const stem = stemChangeOf(a.stem, b.stem);
  // A bare name in a list has no extension that could have changed.
  const extension = a.extension === '' || nameKey(a.extension) === nameKey(b.extension) ? null : b.extension;
  return stem && { stem, extension };
}

function stemChangeOf(before: string, after: string): StemChange | null {
  const [a, b] = [nameKey(before), nameKey(after)];
  if (a === b) return { kind: 'same' };
  const inB = b.indexOf(a);
  if (inB >= 0 && a.length >= 2 && standsAlone(b, inB, a.length))
    return { kind: 'added', before: after.slice(0, inB), after: after.slice(inB + a.length) };
  const inA = a.indexOf(b);
  if (inA >= 0 && b.length >= 2 && standsAlone(a, inA, b.length))
    return { kind: 'removed', before: before.slice(0, inA), after: before.slice(inA + b.length) };
  return renumberedOf(a, b) ?? replacedOf(before, after);
}

function renumberedOf(a: string, b: string): StemChange | null {
  const shape = (text: string) => text.replace(/\d+/g, '#');
  if (shape(a) !== shape(b)) return null;
  const [from, to] = [a.match(/\d+/g) ?? [], b.match(/\d+/g) ?? []];
  const changed = from.flatMap((digits, i) => (digits === to[i] ? [] : [i]));
  if (changed.length !== 1) return null;
  const at = changed[0]!;
  return { kind: 'renumbered', by: Number(to[at]) - Number(from[at]), fromEnd: from.length - 1 - at };
}

const isSeparator = (c: string | undefined): boolean => c === undefined || /[ ._-]/.test(c);

/** Whole words that were exchanged or put in, where what stands before and behind is the same. */
function replacedOf(before: string, after: string): StemChange | null {
  const [a, b] = [nameKey(before), nameKey(after)];
  if (a.length !== before.length || b.length !== after.length) return null;
  const shortest = Math.min(a.length, b.length);
  let head = 0;
  while (head < shortest && a[head] === b[head]) head += 1;
  while (head > 0 && !(isSeparator(a[head - 1]) || (isSeparator(a[head]) && isSeparator(b[head])))) head -= 1;
  let tail = 0;
  while (tail < shortest - head && a[a.length - 1 - tail] === b[b.length - 1 - tail]) tail += 1;
  const bounded = () =>
    isSeparator(a[a.length - tail]) || (isSeparator(a[a.length - tail - 1]) && isSeparator(b[b.length - tail - 1]));
  while (tail > 0 && !bounded()) tail -= 1;
  if (head + tail < 2) return null;
  const from = before.slice(head, before.length - tail);
  const to = after.slice(head, after.length - tail);
  if (from === '') return { kind: 'inserted', text: to, wordsAfter: wordsIn(a.slice(head)) };
  return { kind: 'replaced', from, to, at: head === 0 ? 'front' : tail === 0 ? 'end' : 'middle' };
}

const wordsIn = (text: string): number => text.split(/[ ._-]+/).filter((w) => w !== '').length;

/** The name that the same renaming makes of another one; null where it does not apply to it. */
export function rename(name: string, { stem: change, extension }: Renaming): string | null {
  const own = splitExtension(name);
  const stem = changeStem(own.stem, change);
  if (stem === null) return null;
  const ending = extension ?? own.extension;
  return ending ? `${stem}.${ending}` : stem;
}

function changeStem(stem: string, change: StemChange): string | null {
  const key = nameKey(stem);
  switch (change.kind) {
    case 'same':
      return stem;
    case 'added':
      return change.before + stem + change.after;
    case 'removed': {
      const [before, after] = [nameKey(change.before), nameKey(change.after)];
      const fits = key.startsWith(before) && key.endsWith(after) && stem.length > before.length + after.length;
      return fits ? stem.slice(before.length, stem.length - after.length) : null;
    }
    case 'inserted': {
      const starts = [...stem.matchAll(/[^ ._-]+/g)].map((m) => m.index);
      const at = starts[starts.length - change.wordsAfter];
      return at === undefined ? null : stem.slice(0, at) + change.text + stem.slice(at);
    }
    case 'replaced': {
      const from = nameKey(change.from);
      const at = change.at === 'end' ? key.length - from.length : change.at === 'front' ? 0 : key.indexOf(from);
      if (at < 0 || key.slice(at, at + from.length) !== from) return null;
      return stem.slice(0, at) + change.to + stem.slice(at + from.length);
    }
    case 'renumbered': {
      const numbers = [...stem.matchAll(/\d+/g)];
      const found = numbers[numbers.length - 1 - change.fromEnd];
      const number = found ? Number(found[0]) + change.by : -1;
      if (!found || number < 0) return null;
      return (
        stem.slice(0, found.index) +
        String(number).padStart(found[0].length, '0') +
        stem.slice(found.index + found[0].length)
      );
    }
  }
}

/** The same text for the same renaming, whatever the case of what was added. */
export function renamingKey({ stem, extension }: Renaming): string {
  return nameKey(`${Object.values(stem).join('\u0001')}\u0000${extension ?? ''}`);
}
