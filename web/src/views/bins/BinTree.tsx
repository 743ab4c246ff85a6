import { useDraggable, useDroppable } from '@dnd-kit/core';
import { FolderPlus, Pencil, Trash2 } from 'lucide-react';
import { useState, type KeyboardEvent } from 'react';
import { binKey, isSameBin, type BinNode, type BinPath } from '@legame/core/bins';
import { group } from '@legame/words/numbers';

type Hands = {
  readonly onOpen: (bin: BinPath) => void;
  readonly onMake: (within: BinPath) => void;
  readonly onRename: (bin: BinPath, name: string) => void;
  readonly onRemove: (bin: BinPath) => void;
};

/** The bins of a project as a tree: opened by a click or the keys, renamed in place, nested and filled by dragging. */
export function BinTree({ root, open, ...hands }: { root: BinNode; open: BinPath } & Hands) {
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [renamed, setRenamed] = useState<string | null>(null);
  const lines = linesOf(root, folded, 0);
  const at = Math.max(
    0,
    lines.findIndex(({ node }) => isSameBin(node.path, open)),
  );
  const fold = (node: BinNode, isFolded: boolean) =>
    setFolded((before) => {
      const next = new Set(before);
      if (isFolded) next.add(binKey(node.path));
      else next.delete(binKey(node.path));
      return next;
    });
  const move = (to: number) => {
    const line = lines[Math.max(0, Math.min(lines.length - 1, to))]!;
    hands.onOpen(line.node.path);
    document.getElementById(idOf(line.node.path))?.focus();
  };
  const key = (event: KeyboardEvent) => {
    const { node } = lines[at]!;
    const isFolded = folded.has(binKey(node.path));
    const steps: Readonly<Record<string, () => void>> = {
      ArrowDown: () => move(at + 1),
      ArrowUp: () => move(at - 1),
      Home: () => move(0),
      End: () => move(lines.length - 1),
      ArrowRight: () => (isFolded ? fold(node, false) : node.bins.length > 0 && move(at + 1)),
      ArrowLeft: () =>
        node.bins.length > 0 && !isFolded && node.path.length > 0
          ? fold(node, true)
          : move(lines.findIndex((l) => isSameBin(l.node.path, node.path.slice(0, -1)))),
      F2: () => node.path.length > 0 && setRenamed(binKey(node.path)),
      Delete: () => node.path.length > 0 && hands.onRemove(node.path),
    };
    const step = steps[event.key];
    if (!step || renamed !== null) return;
    event.preventDefault();
    event.stopPropagation();
    step();
  };
  return (
    <ul role="tree" aria-label="bins" className="min-h-0 flex-1 overflow-auto py-1" onKeyDown={key}>
      {lines.map(({ node, level }) => (
        <Line
          key={binKey(node.path)}
          node={node}
          level={level}
          isOpen={isSameBin(node.path, open)}
          isFolded={folded.has(binKey(node.path))}
          isRenamed={renamed === binKey(node.path)}
          onFold={(isFolded) => fold(node, isFolded)}
          onRenaming={(isOn) => setRenamed(isOn ? binKey(node.path) : null)}
          hands={hands}
        />
      ))}
    </ul>
  );
}

const idOf = (bin: BinPath) => `bin ${binKey(bin)}`;
type Line = { readonly node: BinNode; readonly level: number };
const linesOf = (node: BinNode, folded: ReadonlySet<string>, level: number): Line[] => [
  { node, level },
  ...(folded.has(binKey(node.path)) ? [] : node.bins.flatMap((bin) => linesOf(bin, folded, level + 1))),
];

function Line({
  node,
  level,
  isOpen,
  isFolded,
  isRenamed,
  onFold,
  onRenaming,
  hands,
}: Line & {
  isOpen: boolean;
  isFolded: boolean;
  isRenamed: boolean;
  onFold: (isFolded: boolean) => void;
  onRenaming: (isOn: boolean) => void;
  hands: Hands;
}) {
  const isProject = node.path.length === 0;
  const { setNodeRef: takesDrops, isOver } = useDroppable({
    id: `into ${binKey(node.path)}`,
    data: { bin: node.path },
  });
  const { setNodeRef: isDragged, listeners } = useDraggable({
    id: `bin ${binKey(node.path)}`,
    data: { bin: node.path },
    disabled: isProject,
  });
  const name = isProject ? 'All of the project' : node.name;
  return (
    <li
      ref={takesDrops}
      id={idOf(node.path)}
      role="treeitem"
      aria-level={level + 1}
      aria-selected={isOpen}
      aria-expanded={node.bins.length > 0 ? !isFolded : undefined}
      tabIndex={isOpen ? 0 : -1}
      className={`group flex h-7 cursor-default items-center gap-1 border-l-[3px] pr-1.5 ${isOpen ? 'border-primary bg-[var(--bond-wash)] font-semibold' : 'border-transparent hover:bg-base-200'} ${isOver ? 'outline-2 -outline-offset-2 outline-primary' : ''}`}
      style={{ paddingLeft: 4 + level * 14 }}
      onClick={() => hands.onOpen(node.path)}
      onDoubleClick={() => !isProject && onRenaming(true)}
    >
      <span
        aria-hidden
        className="w-3.5 shrink-0 text-center text-quiet"
        onClick={(event) => {
          event.stopPropagation();
          if (node.bins.length > 0 && !isProject) onFold(!isFolded);
        }}
      >
        {node.bins.length > 0 && !isProject ? (isFolded ? '▸' : '▾') : ''}
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
      {/* So that what is read out has two words. */}{' '}
      {/* For the pointer alone: the keys are F2, Delete and Shift B. */}
      <span aria-hidden className="hidden gap-0.5 group-hover:flex">
        <Tool label={`New bin in ${name}`} onClick={() => hands.onMake(node.path)}>
          <FolderPlus size={13} aria-hidden />
        </Tool>
        {!isProject && (
          <>
            <Tool label={`Rename ${name}`} onClick={() => onRenaming(true)}>
              <Pencil size={12} aria-hidden />
            </Tool>
            <Tool label={`Take ${name} away; its clips go up`} onClick={() => hands.onRemove(node.path)}>
              <Trash2 size={12} aria-hidden />
            </Tool>
          </>
        )}
      </span>
      <span className="font-mono font-normal text-quiet">{group(node.within)}</span>
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
