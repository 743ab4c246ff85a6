import { useDraggable, useDroppable } from '@dnd-kit/core';
import { defaultRangeExtractor, useVirtualizer, type Range } from '@tanstack/react-virtual';
import { FolderPlus, Pencil, Trash2 } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';

/** What has a name, lies in another of its kind and holds others; known by the names from the top down. */
export type Branch = {
  readonly path: Path;
  readonly name: string;
  readonly branches: readonly Branch[];
  /** What is told of it at the end of its line. */
  readonly note: ReactNode;
};
type Path = readonly string[];
type Words = {
  /** What the top is called, and what one of them. */
  readonly top: string;
  readonly one: string;
  readonly takenAway: (name: string) => string;
};
type Hands = {
  readonly onOpen: (branch: Path) => void;
  readonly onMake: (within: Path) => void;
  readonly onRename: (branch: Path, name: string) => void;
  readonly onRemove: (branch: Path) => void;
  /** Put into another by the keys. */
  readonly onMove?: (branch: Path, into: Path) => void;
};
const keyOf = (path: Path): string => JSON.stringify(path);
const lineHeight = 28;

/**
 * Named things that lie in one another, as a tree: opened by a click or the keys, renamed in place, nested by dragging or,
 * where that can be done, by Alt and an arrow. What is dragged or dropped onto says so in its data as `branch`. Only lines in
 * sight are drawn, and the open one, which the keys go to.
 */
export function NamedTree({
  name,
  root,
  open,
  words,
  ...hands
}: { name: string; root: Branch; open: Path; words: Words } & Hands) {
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [renamed, setRenamed] = useState<string | null>(null);
  const lines = useMemo(() => linesOf(root, folded), [root, folded]);
  const openKey = keyOf(open);
  const openAt = lines.findIndex((line) => line.key === openKey);
  const at = Math.max(0, openAt);
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => lineHeight,
    getItemKey: (i) => lines[i]!.key,
    rangeExtractor: (range: Range) => [...new Set([...defaultRangeExtractor(range), at])].sort((a, b) => a - b),
    overscan: 8,
    initialRect: { width: 240, height: 600 },
  });
  useEffect(() => {
    if (openAt >= 0) virtual.scrollToIndex(openAt);
  }, [virtual, openAt]);
  // A line that the keys go to may be drawn only by now.
  const goesTo = useRef<string | null>(null);
  useEffect(() => {
    if (goesTo.current !== openKey) return;
    document.getElementById(idOf(openKey))?.focus();
    goesTo.current = null;
  });
  const fold = (node: Branch, isFolded: boolean) =>
    setFolded((before) => {
      const next = new Set(before);
      if (isFolded) next.add(keyOf(node.path));
      else next.delete(keyOf(node.path));
      return next;
    });
  const move = (to: number) => {
    const next = Math.max(0, Math.min(lines.length - 1, to));
    hands.onOpen(lines[next]!.node.path);
    goesTo.current = lines[next]!.key;
  };
  const key = (event: KeyboardEvent) => {
    const { node, key: itsKey, above } = lines[at]!;
    const isFolded = folded.has(itsKey);
    if (event.altKey && hands.onMove && node.path.length > 0) {
      const before = lines.slice(0, at).findLast((line) => line.above === above);
      const into =
        event.key === 'ArrowRight' ? before?.node.path : event.key === 'ArrowLeft' ? node.path.slice(0, -2) : undefined;
      if (into === undefined) return;
      event.preventDefault();
      event.stopPropagation();
      if (event.key === 'ArrowRight' || node.path.length > 1) hands.onMove(node.path, into);
      return;
    }
    const steps: Readonly<Record<string, () => void>> = {
      ArrowDown: () => move(at + 1),
      ArrowUp: () => move(at - 1),
      Home: () => move(0),
      End: () => move(lines.length - 1),
      ArrowRight: () => (isFolded ? fold(node, false) : node.branches.length > 0 && move(at + 1)),
      ArrowLeft: () =>
        node.branches.length > 0 && !isFolded && node.path.length > 0
          ? fold(node, true)
          : move(lines.findIndex((line) => line.key === above)),
      F2: () => node.path.length > 0 && setRenamed(itsKey),
      Delete: () => node.path.length > 0 && hands.onRemove(node.path),
    };
    const step = steps[event.key];
    if (!step || renamed !== null) return;
    event.preventDefault();
    event.stopPropagation();
    step();
  };
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-auto py-1">
      <ul role="tree" aria-label={name} className="relative" style={{ height: virtual.getTotalSize() }} onKeyDown={key}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const { node, level, key: itsKey, position, ofSiblings } = lines[index]!;
          return (
            <Line
              key={itsKey}
              node={node}
              level={level}
              start={start}
              position={position}
              ofSiblings={ofSiblings}
              isOpen={itsKey === openKey}
              isFolded={folded.has(itsKey)}
              isRenamed={renamed === itsKey}
              onFold={(isFolded) => fold(node, isFolded)}
              onRenaming={(isOn) => setRenamed(isOn ? itsKey : null)}
              words={words}
              hands={hands}
            />
          );
        })}
      </ul>
    </div>
  );
}

const idOf = (key: string) => `branch ${key}`;

/** A branch as a line; which of its siblings it is, for those lines are not all drawn. */
type Line = {
  readonly node: Branch;
  readonly level: number;
  readonly key: string;
  /** The key of the branch that it lies in; null for the top. */
  readonly above: string | null;
  readonly position: number;
  readonly ofSiblings: number;
};

function linesOf(root: Branch, folded: ReadonlySet<string>): Line[] {
  const lines: Line[] = [];
  const add = (node: Branch, level: number, above: string | null, position: number, ofSiblings: number) => {
    const key = keyOf(node.path);
    lines.push({ node, level, key, above, position, ofSiblings });
    if (!folded.has(key)) node.branches.forEach((one, i) => add(one, level + 1, key, i + 1, node.branches.length));
  };
  add(root, 0, null, 1, 1);
  return lines;
}

function Line({
  node,
  level,
  position,
  ofSiblings,
  start,
  isOpen,
  isFolded,
  isRenamed,
  onFold,
  onRenaming,
  words,
  hands,
}: Omit<Line, 'key' | 'above'> & {
  /** Dots from the top of the tree. */
  start: number;
  isOpen: boolean;
  isFolded: boolean;
  isRenamed: boolean;
  onFold: (isFolded: boolean) => void;
  onRenaming: (isOn: boolean) => void;
  words: Words;
  hands: Hands;
}) {
  const isTop = node.path.length === 0;
  const { setNodeRef: takesDrops, isOver } = useDroppable({
    id: `into ${keyOf(node.path)}`,
    data: { branch: node.path },
  });
  const { setNodeRef: isDragged, listeners } = useDraggable({
    id: `branch ${keyOf(node.path)}`,
    data: { branch: node.path },
    disabled: isTop,
  });
  const name = isTop ? words.top : node.name;
  return (
    <li
      ref={takesDrops}
      id={idOf(keyOf(node.path))}
      role="treeitem"
      aria-level={level + 1}
      aria-posinset={position}
      aria-setsize={ofSiblings}
      aria-selected={isOpen}
      aria-expanded={node.branches.length > 0 ? !isFolded : undefined}
      tabIndex={isOpen ? 0 : -1}
      className={`group absolute inset-x-0 flex h-7 cursor-default items-center gap-1 border-l-[3px] pr-1.5 ${isOpen ? 'border-primary bg-[var(--bond-wash)] font-semibold' : 'border-transparent hover:bg-base-200'} ${isOver ? 'outline-2 -outline-offset-2 outline-primary' : ''}`}
      style={{ top: start, paddingLeft: 4 + level * 14 }}
      onClick={() => hands.onOpen(node.path)}
      onDoubleClick={() => !isTop && onRenaming(true)}
    >
      <span
        aria-hidden
        className="w-3.5 shrink-0 text-center text-quiet"
        onClick={(event) => {
          event.stopPropagation();
          if (node.branches.length > 0 && !isTop) onFold(!isFolded);
        }}
      >
        {node.branches.length > 0 && !isTop ? (isFolded ? '▸' : '▾') : ''}
      </span>
      {isRenamed ? (
        <NameField
          name={node.name}
          onDone={(next) => {
            onRenaming(false);
            if (next !== null && next !== node.name) hands.onRename(node.path, next);
          }}
        />
      ) : (
        <span
          ref={isDragged}
          onPointerDown={listeners?.onPointerDown as React.PointerEventHandler | undefined}
          className="min-w-0 flex-1 truncate"
          title={name}
        >
          {name}
        </span>
      )}
      {/* So that what is read out has two words. */} {/* For the pointer alone: the keys are F2 and Delete. */}
      <span aria-hidden className="absolute right-1 hidden gap-0.5 rounded bg-base-100 px-0.5 group-hover:flex">
        <Tool label={`New ${words.one} in ${name}`} onClick={() => hands.onMake(node.path)}>
          <FolderPlus size={13} aria-hidden />
        </Tool>
        {!isTop && (
          <>
            <Tool label={`Rename ${name}`} onClick={() => onRenaming(true)}>
              <Pencil size={12} aria-hidden />
            </Tool>
            <Tool label={words.takenAway(name)} onClick={() => hands.onRemove(node.path)}>
              <Trash2 size={12} aria-hidden />
            </Tool>
          </>
        )}
      </span>
      <span className="max-w-[55%] shrink-0 truncate font-mono font-normal text-quiet">{node.note}</span>
    </li>
  );
}

const Tool = ({ label, onClick, children }: { label: string; onClick: () => void; children: React.ReactNode }) => (
  <button
    type="button"
    tabIndex={-1}
    className="rounded p-0.5 text-quiet hover:text-base-content"
    title={label}
    onClick={(event) => {
      event.stopPropagation();
      onClick();
    }}
  >
    {children}
  </button>
);

function NameField({ name, onDone }: { name: string; onDone: (name: string | null) => void }) {
  const [now, setNow] = useState(name);
  const done = () => onDone(now.trim() === '' ? null : now.trim());
  return (
    <input
      autoFocus
      className="input input-xs min-w-0 flex-1"
      aria-label={`new name of ${name}`}
      value={now}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setNow(event.target.value)}
      onClick={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === 'Enter') done();
        else if (event.key === 'Escape') onDone(null);
        event.stopPropagation();
      }}
    />
  );
}
