import type { Bin } from '../model/edit.ts';
import type { BinPath } from './noted.ts';

/** A bin with what lies in it. `clips` lie in itself, `within` in it and in all bins inside it. */
export type BinNode = {
  readonly path: BinPath;
  readonly name: string;
  readonly clips: number;
  readonly within: number;
  readonly bins: readonly BinNode[];
};

const longestName = 120;
const deepest = 12;

/** Why a bin cannot be called so, or stand there. */
export type BinFault = 'no-name' | 'name-too-long' | 'too-deep' | 'into-itself' | 'is-there';

export const binKey = (path: BinPath): string => JSON.stringify(path);
export const isWithin = (path: BinPath, bin: BinPath): boolean => bin.every((name, i) => path[i] === name);
export const isSameBin = (a: BinPath, b: BinPath): boolean => a.length === b.length && isWithin(a, b);

/** Null where a bin can have this path. */
export function faultOf(path: BinPath): BinFault | null {
  if (path.length === 0 || path.some((name) => name.trim() === '')) return 'no-name';
  if (path.some((name) => name.length > longestName)) return 'name-too-long';
  return path.length > deepest ? 'too-deep' : null;
}

/** Null where a bin can become that path; onto one that is there, the two are merged. */
export function faultOfMove(from: BinPath, to: BinPath): BinFault | null {
  if (isSameBin(from, to)) return 'is-there';
  if (isWithin(to, from)) return 'into-itself';
  return faultOf(to);
}

/** Where a path leads after a bin became another one: itself where it is not of that bin. */
export const movedPath = (path: BinPath, from: BinPath, to: BinPath): BinPath =>
  isWithin(path, from) ? [...to, ...path.slice(from.length)] : path;

/** The bins people made, with those that come to stand inside others named on the way, each once. */
export function uniteBins(bins: readonly BinPath[]): BinPath[] {
  const known = new Map<string, BinPath>();
  for (const bin of bins) for (let i = 1; i <= bin.length; i += 1) known.set(binKey(bin.slice(0, i)), bin.slice(0, i));
  return [...known.values()];
}

/** The paths of a document's bins, by their keys. */
export function pathsOfBins(bins: readonly Bin[]): ReadonlyMap<string, BinPath> {
  const known = new Map(bins.map((bin) => [bin.key, bin]));
  const pathOf = ({ name, parentKey }: Bin, depth: number): BinPath => {
    const parent = parentKey === null || depth >= deepest ? undefined : known.get(parentKey);
    return [...(parent ? pathOf(parent, depth + 1) : []), name];
  };
  return new Map(bins.map((bin) => [bin.key, pathOf(bin, 1)]));
}

/** The bins of a document that hold nothing, in themselves or in what they hold; those that no bin can be called are left out. */
export function emptyBins(bins: readonly Bin[], clips: readonly { readonly binKey: string | null }[]): BinPath[] {
  const paths = pathsOfBins(bins);
  const holding = new Set(
    clips.flatMap(({ binKey: key }) => {
      const path = paths.get(key ?? '') ?? [];
      return path.map((_, i) => binKey(path.slice(0, i + 1)));
    }),
  );
  return [...paths.values()].filter((path) => faultOf(path) === null && !holding.has(binKey(path)));
}

/**
 * A list of bins after an act that made `from` into `to` is done, or undone: what it did to the list, and nothing of what
 * others did to it meanwhile.
 */
export function binsAfter(now: readonly BinPath[], from: readonly BinPath[], to: readonly BinPath[]): BinPath[] {
  const keys = (bins: readonly BinPath[]) => new Set(bins.map(binKey));
  const [had, has] = [keys(from), keys(to)];
  // As it was left: in the order in which it is wanted.
  if (now.length === from.length && now.every((bin, i) => binKey(bin) === binKey(from[i]!))) return [...to];
  const kept = now.filter((bin) => !had.has(binKey(bin)) || has.has(binKey(bin)));
  const there = keys(kept);
  return [...kept, ...to.filter((bin) => !had.has(binKey(bin)) && !there.has(binKey(bin)))];
}

/** All bins of a project as a tree in the order of their names, counted by number and not by digit. */
export function binTree(own: readonly BinPath[], clips: readonly BinPath[]): BinNode {
  type Making = { path: BinPath; clips: number; bins: Map<string, Making> };
  const root: Making = { path: [], clips: 0, bins: new Map() };
  const at = (path: BinPath): Making =>
    path.reduce((node, name, i) => {
      const known = node.bins.get(name) ?? { path: path.slice(0, i + 1), clips: 0, bins: new Map() };
      node.bins.set(name, known);
      return known;
    }, root);
  for (const bin of own) at(bin);
  for (const bin of clips) at(bin).clips += 1;
  const finish = ({ path, clips: direct, bins }: Making): BinNode => {
    const inside = [...bins.values()].map(finish).sort((a, b) => byName.compare(a.name, b.name));
    const within = direct + inside.reduce((sum, bin) => sum + bin.within, 0);
    return { path, name: path.at(-1) ?? '', clips: direct, within, bins: inside };
  };
  return finish(root);
}
const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
