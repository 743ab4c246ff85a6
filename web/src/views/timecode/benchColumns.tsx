import type { BenchRow } from '@legame/core/contract';
import { formatRate } from '@legame/core/time';
import { displacementWords, interpretationWords } from '@legame/words/causes';
import { timecode } from '@legame/words/numbers';
import { statusWords } from '@legame/words/statuses';
import type { ClipColumn } from '../../parts/table/columns.ts';
import { toldColumn } from '../../parts/table/toldColumn.tsx';
import { layoutOf } from '../../parts/table/useArranged.ts';
import { countedNow, draftFor, heldRange, rangeOf, uncoveredWhen, type Draft } from './drafts.ts';

/** What the edit counts from beside what the file carries; selected rows show what a draft would make of them. */
export function benchColumns(draft: Draft | null, chosen: ReadonlySet<string>): readonly ClipColumn<BenchRow>[] {
  const draftOf = (row: BenchRow) => (draft && chosen.has(row.clipId) ? draft : null);
  return [
    {
      id: 'clip',
      meta: { title: 'Clip', width: 'minmax(120px,1fr)' },
      enableHiding: false,
      text: (row) => row.clipName,
      cell: ({ row: { original } }) => <ClipName row={original} />,
    },
    {
      id: 'edit',
      meta: { title: 'The edit starts', width: '104px' },
      text: editStart,
      cell: ({ row: { original } }) => <EditStart row={original} />,
    },
    {
      id: 'counted',
      meta: { title: 'Counted as', width: '124px' },
      text: countedAs,
      cell: ({ row: { original } }) => <CountedAs row={original} draft={draftOf(original)} />,
    },
    {
      id: 'file',
      meta: { title: 'The file starts', width: '104px' },
      text: fileStart,
      cell: ({ row: { original } }) => <FileStart row={original} />,
    },
    {
      id: 'apart',
      meta: { title: 'Apart', width: '104px' },
      text: apartText,
      cell: ({ row: { original } }) => <Apart row={original} />,
    },
    {
      id: 'uncovered',
      meta: { title: 'Uncovered', width: '92px', right: true },
      text: (row) => String(row.uncoveredInFrames ?? ''),
      rank: (row) => row.uncoveredInFrames,
      cell: ({ row: { original } }) => <Uncovered row={original} draft={draftOf(original)} />,
    },
    toldColumn('reel', 'Reel', '76px', (row) => row.reel ?? ''),
    toldColumn('rate', 'Rate', '60px', (row) => formatRate(row.stated.rate)),
    toldColumn('folder', 'Folder of the file', 'minmax(100px,0.7fr)', ({ file }) =>
      file ? [file.placeName, file.folder].filter(Boolean).join('/') : '',
    ),
    toldColumn('status', 'Status', '84px', (row) => statusWords[row.status.status]),
  ];
}

/** Layouts that come with Legame. */
export const shippedLayouts = (columns: readonly ClipColumn<BenchRow>[]) => {
  const usual = ['clip', 'edit', 'counted', 'file', 'apart', 'uncovered'];
  return [
    layoutOf(columns, 'Side by side', usual),
    layoutOf(columns, 'By what is apart', usual, 'apart'),
    layoutOf(columns, 'By reel', usual, 'reel'),
    layoutOf(columns, 'By folder', usual, 'folder'),
  ];
};

function editStart({ stated }: BenchRow): string {
  const range = rangeOf(stated);
  return range ? timecode(range.start, stated.rate, stated.counting) : '';
}

const countedAs = ({ interpretation, stated }: BenchRow): string =>
  interpretation ? interpretationWords(interpretation, stated.rate) : 'as stated';

function fileStart(row: BenchRow): string {
  const now = countedNow(row);
  const held = heldRange(row, now);
  return held ? timecode(held.start, now.rate, now.counting) : '';
}

const apartText = (row: BenchRow): string =>
  row.apart ? displacementWords(row.apart, countedNow(row).rate) : row.file ? 'alike' : '';

const ClipName = ({ row }: { row: BenchRow }) => (
  <>
    <span className="block truncate font-mono" title={row.clipName}>
      {row.clipName}
    </span>
    <span className="block truncate text-[12px] text-quiet">{row.reel ?? 'no reel'}</span>
  </>
);

function EditStart({ row: { stated } }: { row: BenchRow }) {
  const range = rangeOf(stated);
  return (
    <span className="font-mono">
      {range ? timecode(range.start, stated.rate, stated.counting) : '–'}
      <span className="block text-[12px]! text-quiet">{formatRate(stated.rate)}</span>
    </span>
  );
}

type Drafted = { row: BenchRow; draft: Draft | null };

function CountedAs({ row, draft }: Drafted) {
  const drafted = draft ? draftFor(row, draft) : null;
  if (drafted && !drafted.ok)
    return (
      <span className="font-mono text-missing" title={drafted.why}>
        stays: {drafted.why}
      </span>
    );
  const next = drafted ? drafted.interpretation : row.interpretation;
  return (
    <span className={`font-mono ${drafted ? 'text-primary' : ''}`}>
      {next ? interpretationWords(next, row.stated.rate) : <span className="text-quiet">as stated</span>}
    </span>
  );
}

function FileStart({ row }: { row: BenchRow }) {
  const { file } = row;
  const now = countedNow(row);
  const held = heldRange(row, now);
  return (
    <span className="font-mono" title={file ? [file.placeName, file.folder, file.name].filter(Boolean).join('/') : ''}>
      {held ? (
        timecode(held.start, now.rate, now.counting)
      ) : (
        <span className="text-quiet">{file?.facts ? 'no timecode' : file ? 'not read yet' : 'no file'}</span>
      )}
      <span className="block text-[12px]! text-quiet">{file?.isTied ? 'linked' : file ? 'a candidate' : ''}</span>
    </span>
  );
}

const Apart = ({ row }: { row: BenchRow }) => (
  <span className={`font-mono text-[12px]! ${row.apart ? '' : 'text-quiet'}`}>{apartText(row)}</span>
);

function Uncovered({ row, draft }: Drafted) {
  const drafted = draft ? draftFor(row, draft) : null;
  const before = row.uncoveredInFrames;
  const after = drafted?.ok ? uncoveredWhen(row, drafted.interpretation) : before;
  return (
    <span className="font-mono">
      {before ?? ''}
      {after !== before && <b className={after ? 'text-missing' : 'text-linked'}> → {after}</b>}
    </span>
  );
}
