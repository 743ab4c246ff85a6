import type { ClipRow } from '@legame/core/contract';
import type { CommandId } from '../../commands/definitions.ts';
import { runCommand } from '../../commands/useCommand.ts';
import { EvidenceStrip } from '../../parts/EvidenceStrip.tsx';
import { StatusMark } from '../../parts/StatusMark.tsx';
import { ClipTable } from '../../parts/table/ClipTable.tsx';
import { toldColumn } from '../../parts/table/toldColumn.tsx';
import { layoutOf, useArranged, type ArrangedRows } from '../../parts/table/useArranged.ts';
import { useTableSelection } from '../../parts/table/useTableSelection.ts';
import type { ClipColumn } from '../../parts/table/columns.ts';
import { clock } from '@legame/words/numbers';
import { reasonText, statusSentence, statusWords } from '@legame/words/statuses';
import { OnStorage, Remembered } from './cells.tsx';
import { foundPath, statusRank } from './rows.ts';

const columns: readonly ClipColumn<ClipRow>[] = [
  {
    id: 'status',
    meta: { title: 'Status', width: '104px', narrow: '24px' },
    text: ({ status }) => statusWords[status.status],
    rank: statusRank,
    cell: ({ row: { original } }) => (
      <span title={statusSentence(original.status)}>
        <StatusMark status={original.status.status} />
      </span>
    ),
  },
  {
    id: 'remembered',
    meta: { title: 'The edit remembers', width: 'minmax(140px,1fr)', narrow: 'minmax(100px,1fr)' },
    enableHiding: false,
    text: (row) => row.fileName,
    cell: ({ row: { original } }) => <Remembered row={original} />,
  },
  {
    id: 'evidence',
    meta: { title: 'Evidence', width: '142px' },
    cell: ({ row: { original } }) => original.verdicts && <EvidenceStrip verdicts={original.verdicts} />,
  },
  {
    id: 'found',
    meta: { title: 'On the storage', width: 'minmax(140px,1.1fr)', narrow: 'minmax(100px,1.1fr)' },
    text: foundPath,
    cell: ({ row: { original } }) => <OnStorage row={original} />,
  },
  {
    id: 'uses',
    meta: { title: 'uses', width: '54px', narrow: '44px', right: true },
    text: (row) => String(row.uses),
    rank: (row) => row.uses,
    cell: ({ row: { original } }) => <span className="font-mono">{original.uses}</span>,
  },
  {
    id: 'screen-time',
    meta: { title: 'Screen time', width: '98px', right: true, hidden: true },
    text: (row) => clock(row.usedSeconds),
    rank: (row) => row.usedSeconds,
    cell: ({ row: { original } }) => <span className="font-mono">{clock(original.usedSeconds)}</span>,
  },
  {
    id: 'bin',
    meta: { title: 'Bin', width: 'minmax(80px,0.5fr)', hidden: true },
    text: (row) => row.bin.join(' › '),
    cell: ({ row: { original } }) => <span className="block truncate">{original.bin.join(' › ')}</span>,
  },
  {
    id: 'clip-name',
    meta: { title: 'Clip name', width: 'minmax(90px,0.6fr)', hidden: true },
    text: (row) => row.name,
    cell: ({ row: { original } }) => <span className="block truncate font-mono">{original.name}</span>,
  },
  toldColumn('reel', 'Reel', '76px', (row) => row.reel ?? ''),
  toldColumn('folder', 'Remembered folder', 'minmax(90px,0.6fr)', (row) => row.folder),
  toldColumn('why', 'Reason', 'minmax(120px,0.8fr)', (row) => (row.why ? reasonText(row.why) : '')),
  toldColumn('certainty', 'Certainty', '76px', (row) => row.certainty ?? ''),
  toldColumn('kind', 'Kind', '64px', (row) => row.kind ?? ''),
];
/** Layouts that come with Legame. */
const shipped = [
  layoutOf(columns, 'Evidence', ['status', 'remembered', 'evidence', 'found', 'uses']),
  layoutOf(columns, 'By reason', ['status', 'remembered', 'found', 'screen-time'], 'why'),
  layoutOf(columns, 'By storage folder', ['status', 'remembered', 'evidence', 'uses'], 'found'),
  layoutOf(columns, 'By reel', ['status', 'remembered', 'found', 'uses'], 'reel'),
];
const menu: readonly CommandId[] = [
  'link-shown',
  'carry',
  'point',
  'link-many',
  'unlink',
  'pin',
  'park',
  'waive',
  'change-folder',
  'forms',
  'put-back',
  'reread',
  'trial-read',
  'show-in-cut',
  'show-in-bin',
  'copy-rows',
];

/** Clips as the ledger shows them: through the filters of its columns, sorted and grouped. */
export const useLedgerRows = (among: readonly ClipRow[]): ArrangedRows<ClipRow> =>
  useArranged('ledger', columns, among);

/** The rows of the ledger. */
export function LedgerTable({
  projectId,
  arranged,
  order,
}: {
  projectId: string;
  arranged: ArrangedRows<ClipRow>;
  order: readonly string[];
}) {
  return (
    <ClipTable
      label="clips"
      arranged={arranged}
      idOf={(row) => row.id}
      nameOf={(row) => row.fileName}
      columns={columns}
      selection={useTableSelection(order)}
      layouts={{ projectId, table: 'ledger', shipped: shipped }}
      empty="No clip passes this filter."
      // What there is to decide of one clip is which file it is.
      onOpen={() => runCommand('point')}
      menu={menu}
    />
  );
}
