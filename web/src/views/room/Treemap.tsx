import { hierarchy, treemap, treemapSquarify } from 'd3-hierarchy';
import { useCallback, useState } from 'react';
import type { MediaUse, RoomEntry, RoomMap, RoomShareView } from '@legame/core/contract';
import { bytes, count } from '@legame/words/numbers';
import { useWords } from '@legame/words/storage';
import { useFill, UsePatterns } from '../../parts/usePatterns.tsx';

type Leaf = { readonly use: MediaUse; readonly size: number };
type Node = { readonly entry?: RoomEntry; readonly leaf?: Leaf; readonly children?: Node[] };

/** Folders and files of one level as areas by size, each parted by use. Free room is drawn beside, not among them. */
export function Treemap({
  entries,
  free,
  headroomShare,
  marked,
  onOpen,
  onMark,
}: {
  entries: readonly RoomEntry[];
  free: RoomMap['room'];
  headroomShare: number;
  marked: ReadonlySet<string>;
  onOpen: (folder: string) => void;
  onMark: (mediaFileId: string) => void;
}) {
  const [size, setSize] = useState({ width: 0, height: 0 });
  const box = useCallback((element: HTMLDivElement) => {
    const measure = () => setSize({ width: element.clientWidth, height: element.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const fill = useFill();
  const freeWidth = free ? 74 : 0;
  const width = Math.max(0, size.width - freeWidth);
  const tiles = layout(entries, width, size.height);
  return (
    <div ref={box} className="h-full w-full">
      <svg width={size.width} height={size.height} role="group" aria-label="room map">
        <UsePatterns />
        {tiles.map(({ entry, x, y, w, h, parts }) => (
          <g
            key={`${entry.folder ?? ''}/${entry.name}`}
            role="button"
            aria-label={`${nameOf(entry)}, ${bytes(entry.sizeInBytes)}`}
            tabIndex={0}
            className="cursor-pointer"
            onClick={() =>
              entry.folder !== null ? onOpen(entry.folder) : entry.mediaFileId && onMark(entry.mediaFileId)
            }
            onKeyDown={(event) => {
              if (event.key !== 'Enter' && event.key !== ' ') return;
              event.preventDefault();
              if (entry.folder !== null) onOpen(entry.folder);
              else if (entry.mediaFileId) onMark(entry.mediaFileId);
            }}
          >
            <title>{tooltip(entry)}</title>
            {parts.map((part, i) => (
              <rect
                key={i}
                x={part.x}
                y={part.y}
                width={part.w}
                height={part.h}
                fill={fill(part.use)}
                stroke="var(--color-base-100)"
                strokeWidth={part.isEdge ? 1 : 0}
              />
            ))}
            <rect
              x={x}
              y={y}
              width={w}
              height={h}
              fill="none"
              stroke={
                entry.mediaFileId && marked.has(entry.mediaFileId) ? 'var(--color-error)' : 'var(--color-base-100)'
              }
              strokeWidth={3}
            />
            {w > 54 && h > 30 && (
              <foreignObject x={x + 4} y={y + 3} width={w - 8} height={h - 6} pointerEvents="none">
                <div className="inline-block max-w-full rounded-[2px] bg-base-100/85 px-1 leading-tight">
                  <div className={`truncate font-mono ${entry.folder === null ? '' : 'font-semibold'}`}>
                    {nameOf(entry)}
                  </div>
                  <div className="font-mono text-[11px] text-quiet">{bytes(entry.sizeInBytes)}</div>
                </div>
              </foreignObject>
            )}
          </g>
        ))}
        {free && <FreeRoom free={free} headroomShare={headroomShare} x={width + 14} height={size.height} />}
      </svg>
    </div>
  );
}

/** The rest, too small to be drawn one by one, has no name. */
function nameOf({ name, folder, files }: RoomEntry): string {
  if (name === '') return count(files, 'smaller one');
  return folder === null ? name : `${name}/`;
}

function tooltip(entry: RoomEntry): string {
  const uses = Object.entries(entry.byUse)
    .filter(([, size]) => size > 0)
    .map(([use, size]) => `${useWords[use as MediaUse]} ${bytes(size)}`);
  const what =
    entry.folder === null ? bytes(entry.sizeInBytes) : `${count(entry.files, 'file')}, ${bytes(entry.sizeInBytes)}`;
  return [`${nameOf(entry)}: ${what}`, ...uses].join('\n');
}

/** The whole drive as a column: what is taken, what is free, and the line below which it should not be filled. */
function FreeRoom({
  free,
  headroomShare,
  x,
  height,
}: {
  free: NonNullable<RoomMap['room']>;
  headroomShare: number;
  x: number;
  height: number;
}) {
  if (free.totalInBytes === 0 || height === 0) return null;
  const bottom = height - 18;
  const freeHeight = (free.freeInBytes / free.totalInBytes) * bottom;
  const line = headroomShare * bottom;
  return (
    <g role="img" aria-label="free room">
      <title>{`${bytes(free.freeInBytes)} free of ${bytes(free.totalInBytes)}`}</title>
      <rect x={x} y={0} width={34} height={bottom} fill="var(--color-base-100)" stroke="var(--color-base-300)" />
      <rect
        x={x}
        y={freeHeight}
        width={34}
        height={Math.max(0, bottom - freeHeight)}
        fill="var(--color-base-content)"
        opacity={0.35}
      />
      <line x1={x - 3} x2={x + 37} y1={line} y2={line} stroke="var(--status-changed)" strokeDasharray="4 2" />
      <text x={x + 17} y={height - 4} textAnchor="middle" fontSize={11} fill="var(--quiet-text)">
        drive
      </text>
    </g>
  );
}

type Area = { readonly x: number; readonly y: number; readonly w: number; readonly h: number };
type Part = Area & { readonly use: MediaUse; readonly isEdge: boolean };
type Tile = Area & { readonly entry: RoomEntry; readonly parts: readonly Part[] };

/** Entries as areas, what lies inside each as smaller ones, and these parted by use. */
function layout(entries: readonly RoomEntry[], width: number, height: number): Tile[] {
  if (width <= 0 || height <= 0) return [];
  const byUse = (share: RoomShareView): Node[] =>
    Object.entries(share.byUse)
      .filter(([, size]) => size > 0)
      .map(([use, size]) => ({ leaf: { use: use as MediaUse, size } }));
  const children = entries.map((entry): Node => ({
    entry,
    children: entry.inside.length > 0 ? entry.inside.map((share) => ({ children: byUse(share) })) : byUse(entry),
  }));
  const root = treemap<Node>().tile(treemapSquarify.ratio(1.2)).size([width, height])(
    hierarchy<Node>({ children }).sum((node) => node.leaf?.size ?? 0),
  );
  const area = ({ x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number }): Area => ({
    x: x0,
    y: y0,
    w: x1 - x0,
    h: y1 - y0,
  });
  return (root.children ?? []).map((node) => ({
    ...area(node),
    entry: node.data.entry!,
    parts: node
      .leaves()
      .flatMap((leaf) => (leaf.data.leaf ? [{ ...area(leaf), use: leaf.data.leaf.use, isEdge: leaf.depth > 2 }] : [])),
  }));
}
