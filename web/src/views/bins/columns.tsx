import { circledValue, notedColumns, type Label } from '@legame/core/bins';
import type { Arrangement } from '@legame/core/contract';
import { formatRate, rangeLength } from '@legame/core/time';
import { binText } from '@legame/words/bins';
import { bytes, clock, timecode } from '@legame/words/numbers';
import { statusWords } from '@legame/words/statuses';
import type { ClipColumn, ColumnLook } from '../../parts/table/columns.ts';
import { layoutOf } from '../../parts/table/useArranged.ts';
import { StatusMark } from '../../parts/StatusMark.tsx';
import type { BinRow } from './binRows.ts';
import { LabelMark } from './LabelMark.tsx';

type Column = ClipColumn<BinRow>;
type Text = (row: BinRow) => string;
const mono = (text: Text) => (r: { row: { original: BinRow } }) => (
  <span className="block truncate font-mono">{text(r.row.original)}</span>
);
const plain = (text: Text) => (r: { row: { original: BinRow } }) => (
  <span className="block truncate">{text(r.row.original)}</span>
);
const told = (id: string, meta: ColumnLook, text: Text, more: Partial<Column> = {}): Column => ({
  id,
  meta,
  text,
  cell: mono(text),
  ...more,
});
const held = ({ clip }: BinRow) => clip.available ?? clip.used;
const counted = ({ clip }: BinRow, frames: number) => timecode(frames, clip.rate, clip.counting);
const fileOf = ({ row }: BinRow) => row.tied;

/** What the edit says, what the file holds, how it is used: columns that every project has. */
const columnsOfAll: readonly Column[] = [
  {
    id: 'status',
    meta: { title: 'Status', width: '100px' },
    text: ({ row }) => statusWords[row.status.status],
    cell: ({ row: { original } }) => <StatusMark status={original.row.status.status} />,
  },
  told('name', { title: 'Name', width: 'minmax(160px,1.4fr)' }, ({ row }) => row.name, { enableHiding: false }),
  told('reel', { title: 'Reel', width: '76px' }, ({ row }) => row.reel ?? ''),
  told('start', { title: 'Start', width: '92px' }, (r) => (held(r) ? counted(r, held(r)!.start) : ''), {
    rank: (r) => (held(r) ? (held(r)!.start * r.clip.rate.den) / r.clip.rate.num : null),
  }),
  told('end', { title: 'End', width: '92px', hidden: true }, (r) => (held(r) ? counted(r, held(r)!.end) : '')),
  told('length', { title: 'Length', width: '92px' }, (r) => (held(r) ? counted(r, rangeLength(held(r)!)) : ''), {
    rank: (r) => (held(r) ? (rangeLength(held(r)!) * r.clip.rate.den) / r.clip.rate.num : null),
  }),
  told('bin', { title: 'Bin', width: 'minmax(90px,0.6fr)' }, ({ row }) => (row.bin.length ? binText(row.bin) : ''), {
    cell: plain(({ row }) => (row.bin.length ? binText(row.bin) : '')),
  }),
  told('kind', { title: 'Kind', width: '70px', hidden: true }, ({ row }) => row.kind ?? ''),
  told('rate', { title: 'Rate', width: '58px', hidden: true }, ({ clip }) => formatRate(clip.rate)),
  told('raster', { title: 'Raster', width: '88px', hidden: true }, ({ clip: { facts } }) =>
    facts?.raster ? `${facts.raster.width} × ${facts.raster.height}` : '',
  ),
  told('codec', { title: 'Codec', width: '76px', hidden: true }, ({ clip }) => clip.facts?.codec ?? ''),
  told('container', { title: 'Container', width: '76px', hidden: true }, ({ clip }) => clip.facts?.container ?? ''),
  told('depth', { title: 'Depth', width: '56px', right: true, hidden: true }, ({ clip }) =>
    clip.facts?.bitDepth ? `${clip.facts.bitDepth} bit` : '',
  ),
  told('chroma', { title: 'Chroma', width: '60px', hidden: true }, ({ clip }) => clip.facts?.chroma ?? ''),
  told('channels', { title: 'Channels', width: '66px', right: true, hidden: true }, ({ clip }) =>
    String(clip.facts?.channels ?? ''),
  ),
  told('sample-rate', { title: 'Sample rate', width: '80px', right: true, hidden: true }, ({ clip: { facts } }) =>
    facts?.sampleRate ? `${facts.sampleRate} Hz` : '',
  ),
  told('file', { title: 'File', width: 'minmax(130px,0.8fr)', hidden: true }, (r) => fileOf(r)?.name ?? ''),
  told('place', { title: 'Where', width: 'minmax(130px,0.8fr)', hidden: true }, (r) =>
    [fileOf(r)?.placeName, fileOf(r)?.folder].filter(Boolean).join('/'),
  ),
  told(
    'remembered',
    { title: 'Remembered path', width: 'minmax(140px,1fr)', hidden: true },
    ({ row }) => row.remembered ?? '',
  ),
  told(
    'size',
    { title: 'Size', width: '70px', right: true, hidden: true },
    ({ clip }) => (clip.sizeInBytes === null ? '' : bytes(clip.sizeInBytes)),
    { rank: ({ clip }) => clip.sizeInBytes },
  ),
  told('uses', { title: 'uses', width: '44px', right: true }, (r) => String(r.uses), { rank: (r) => r.uses }),
  told('screen-time', { title: 'Screen time', width: '80px', right: true, hidden: true }, (r) => clock(r.seconds), {
    rank: (r) => r.seconds,
  }),
];

const titles: Readonly<Record<string, string>> = { scene: 'Scene', take: 'Take', circled: 'Circled', notes: 'Notes' };
const widths: Readonly<Record<string, string>> = {
  scene: '62px',
  take: '50px',
  circled: '58px',
  notes: 'minmax(110px,1fr)',
};
/** Columns of logs and of people's own stand under this, so that none is taken for one that every project has. */
const noted = 'noted ';
export const notedId = (column: string): string => `${noted}${column}`;
export const notedOf = (column: string): string | null =>
  column.startsWith(noted) ? column.slice(noted.length) : null;

function notedColumn(name: string): Column {
  const text: Text = ({ clip }) => clip.values[name] ?? '';
  return {
    id: notedId(name),
    meta: {
      title: titles[name] ?? name,
      width: widths[name] ?? 'minmax(70px,0.5fr)',
      hidden: !(notedColumns as readonly string[]).includes(name),
    },
    text,
    canWrite: true,
    cell: ({ row: { original } }) => (
      <span
        className={`block truncate ${original.clip.written.includes(name) ? 'font-semibold' : ''}`}
        title={original.clip.written.includes(name) ? 'Written here, over what documents say' : undefined}
      >
        {name === 'circled' && text(original) === circledValue ? <Circled /> : text(original)}
      </span>
    ),
  };
}
const Circled = () => (
  <span role="img" aria-label="circled" className="inline-block size-3 rounded-full border-2 border-primary" />
);

/** All columns of a project's bins: labels, what every project has, and what its logs and people write into. */
export function binColumns(labels: readonly Label[], written: readonly string[]): Column[] {
  const labelOf = (r: BinRow) => labels.find((l) => l.id === r.row.label);
  const label: Column = {
    id: 'label',
    meta: { title: 'Label', width: '58px' },
    text: (r) => labelOf(r)?.name ?? '',
    cell: ({ row: { original } }) => {
      const found = labelOf(original);
      return found ? <LabelMark label={found} /> : null;
    },
  };
  const [before, after] = [columnsOfAll.slice(0, 6), columnsOfAll.slice(6)];
  return [label, ...before, ...written.map(notedColumn), ...after];
}

/** Arrangements that come with Legame. */
export function shippedLayouts(columns: readonly Column[]): { name: string; arrangement: Arrangement }[] {
  const of = (name: string, ...shown: string[]) => layoutOf(columns, name, shown);
  const [scene, take, circled, notes] = notedColumns.map(notedId) as [string, string, string, string];
  return [
    of('Identity', 'label', 'name', 'reel', 'start', 'end', 'length', scene, take, circled, notes, 'bin'),
    of('Camera check', 'name', 'reel', 'start', 'rate', 'raster', 'codec', 'container', 'depth', 'chroma', 'file'),
    of('Sound check', 'name', scene, take, 'channels', 'sample-rate', 'depth', 'start', 'length', 'file'),
    of('Delivery', 'status', 'name', 'reel', 'codec', 'raster', 'rate', 'size', 'uses', 'screen-time', 'file', 'place'),
  ];
}
