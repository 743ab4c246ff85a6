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

/** The part of `text` that is not in `other`, marked: equal beginnings and ends are left plain. Compared by folder, or by field. */
export function MarkedDifference({ text, other }: { text: string; other: string }) {
  const isStructured = /[/:]/.test(text + other);
  const pieces = (value: string) => (isStructured ? value.split(/(?<=[/:–])/) : [...value]);
  const [mine, theirs] = [pieces(text), pieces(other)];
  const bare = (piece: string | undefined) => piece?.replace(/[/:–]$/, '');
  let from = 0;
  while (from < mine.length && from < theirs.length && bare(mine[from]) === bare(theirs[from])) from += 1;
  let end = 0;
  while (
    end < mine.length - from &&
    end < theirs.length - from &&
    bare(mine.at(-1 - end)) === bare(theirs.at(-1 - end))
  )
    end += 1;
  const middle = mine.slice(from, mine.length - end);
  return (
    <span className="[overflow-wrap:anywhere]">
      <Breakable pieces={mine.slice(0, from)} />
      {middle.length > 0 && (
        <mark className="bg-mark text-inherit">
          <Breakable pieces={middle} />
        </mark>
      )}
      <Breakable pieces={mine.slice(mine.length - end)} />
    </span>
  );
}
