import { Fragment } from 'react';

/** A path shortened in the middle: its end, which tells most, always stays; the whole is in the tooltip. */
export function PathText({ path, className = '' }: { path: string; className?: string }) {
  const at = path.lastIndexOf('/');
  const cut = Math.max(at, path.length - 18);
  const [head, tail] = at < 0 ? ['', path] : [path.slice(0, Math.min(at, cut)), path.slice(Math.min(at, cut))];
  return (
    <span className={`flex min-w-0 font-mono ${className}`} title={path}>
      <span className="min-w-0 truncate">{head}</span>
      <span className="shrink-0 whitespace-pre">{tail.length > 26 ? `…${tail.slice(-25)}` : tail}</span>
    </span>
  );
}

/** Text that may break after its separators, and where it must, anywhere. */
function Breakable({ pieces }: { pieces: readonly string[] }) {
  return pieces.map((piece, i) => (
    <Fragment key={i}>
      {piece}
      {/[/–]$/.test(piece) && <wbr />}
    </Fragment>
  ));
}

/** Pieces of `mine`, each with whether `theirs` has it too at its turn (longest common subsequence). */
function shared(mine: readonly string[], theirs: readonly string[]): boolean[] {
  const bare = (piece: string | undefined) => piece?.replace(/[/:–]$/, '').toLowerCase();
  const longest = mine.map(() => theirs.map(() => 0));
  const at = (i: number, j: number) => longest[i]?.[j] ?? 0;
  for (let i = mine.length - 1; i >= 0; i -= 1)
    for (let j = theirs.length - 1; j >= 0; j -= 1)
      longest[i]![j] = bare(mine[i]) === bare(theirs[j]) ? at(i + 1, j + 1) + 1 : Math.max(at(i + 1, j), at(i, j + 1));
  const kept = mine.map(() => false);
  for (let i = 0, j = 0; i < mine.length && j < theirs.length;) {
    if (bare(mine[i]) === bare(theirs[j])) {
      kept[i] = true;
      i += 1;
      j += 1;
    } else if (at(i + 1, j) >= at(i, j + 1)) i += 1;
    else j += 1;
  }
  return kept;
}

/** Pieces of `mine` that stand at the same place in `theirs`, counted from either end: fields of a timecode, letters. */
function sharedEnds(mine: readonly string[], theirs: readonly string[]): boolean[] {
  const bare = (piece: string | undefined) => piece?.replace(/[/:–]$/, '');
  let [head, tail] = [0, 0];
  const shortest = Math.min(mine.length, theirs.length);
  while (head < shortest && bare(mine[head]) === bare(theirs[head])) head += 1;
  while (tail < shortest - head && bare(mine.at(-1 - tail)) === bare(theirs.at(-1 - tail))) tail += 1;
  return mine.map((_, i) => i < head || i >= mine.length - tail);
}

/** The parts of `text` that are not in `other`, marked. Compared by folder, or by field; plain words by letter. */
export function MarkedDifference({ text, other }: { text: string; other: string }) {
  const isStructured = /[/:]/.test(text + other);
  const pieces = (value: string) => (isStructured ? value.split(/(?<=[/:–])/) : [...value]);
  const mine = pieces(text);
  const kept = (text + other).includes('/') ? shared(mine, pieces(other)) : sharedEnds(mine, pieces(other));
  const runs: { isKept: boolean; pieces: string[] }[] = [];
  mine.forEach((piece, i) => {
    const last = runs.at(-1);
    if (last && last.isKept === kept[i]) last.pieces.push(piece);
    else runs.push({ isKept: kept[i]!, pieces: [piece] });
  });
  return (
    <span className="[overflow-wrap:anywhere]">
      {runs.map((run, i) =>
        run.isKept ? (
          <Breakable key={i} pieces={run.pieces} />
        ) : (
          <mark key={i} className="bg-mark text-inherit">
            <Breakable pieces={run.pieces} />
          </mark>
        ),
      )}
    </span>
  );
}
