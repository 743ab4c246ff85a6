import type { ClipRow } from '@legame/core/contract';
import type { CommandId } from '../../commands/definitions.ts';
import { runCommand } from '../../commands/useCommand.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { EvidenceStrip } from '../../parts/EvidenceStrip.tsx';
import { StatusMark } from '../../parts/StatusMark.tsx';
import { ClipTable } from '../../parts/table/ClipTable.tsx';
import { useTableSelection } from '../../parts/table/useTableSelection.ts';
import type { ClipColumn } from '../../parts/table/columns.ts';
import { sortBy, type SortKey } from '../../session/selection.ts';
import { clock } from '@legame/words/numbers';
import { statusSentence } from '@legame/words/statuses';
import { OnStorage, Remembered } from './cells.tsx';

const columns: readonly ClipColumn<ClipRow>[] = [
  {
    id: 'status',
    meta: { title: 'Status', width: '104px', narrow: '24px', sortKey: 'status' },
    cell: ({ row: { original } }) => (
      <span title={statusSentence(original.status)}>
        <StatusMark status={original.status.status} />
      </span>
    ),
  },
  {
    id: 'remembered',
    meta: { title: 'The edit remembers', width: 'minmax(140px,1fr)', narrow: 'minmax(100px,1fr)', sortKey: 'name' },
    enableHiding: false,
    cell: ({ row: { original } }) => <Remembered row={original} />,
  },
  {
    id: 'evidence',
    meta: { title: 'Evidence', width: '142px' },
    cell: ({ row: { original } }) => original.verdicts && <EvidenceStrip verdicts={original.verdicts} />,
  },
  {
    id: 'found',
    meta: { title: 'On the storage', width: 'minmax(140px,1.1fr)', narrow: 'minmax(100px,1.1fr)', sortKey: 'found' },
    cell: ({ row: { original } }) => <OnStorage row={original} />,
  },
  {
    id: 'uses',
    meta: { title: 'uses', width: '38px', narrow: '28px', right: true, sortKey: 'uses' },
    cell: ({ row: { original } }) => <span className="font-mono">{original.uses}</span>,
  },
  {
    id: 'screen-time',
    meta: { title: 'Screen time', width: '76px', right: true, hidden: true },
    cell: ({ row: { original } }) => <span className="font-mono">{clock(original.usedSeconds)}</span>,
  },
  {
    id: 'bin',
    meta: { title: 'Bin', width: 'minmax(80px,0.5fr)', hidden: true },
    cell: ({ row: { original } }) => <span className="block truncate">{original.bin.join(' › ')}</span>,
  },
  {
    id: 'clip-name',
    meta: { title: 'Clip name', width: 'minmax(90px,0.6fr)', hidden: true },
    cell: ({ row: { original } }) => <span className="block truncate font-mono">{original.name}</span>,
  },
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

/** The rows of the ledger. */
export function LedgerTable({ rows, order }: { rows: readonly ClipRow[]; order: readonly string[] }) {
  const { sort, descending } = useAppSelector((state) => state.selection);
  const dispatch = useAppDispatch();
  return (
    <ClipTable
      name="ledger"
      label="clips"
      rows={rows}
      idOf={(row) => row.id}
      nameOf={(row) => row.fileName}
      columns={columns}
      selection={useTableSelection(order)}
      sort={{ key: sort, descending, onSort: (key) => dispatch(sortBy(key as SortKey)) }}
      empty="No clip passes this filter."
      // What there is to decide of one clip is which file it is.
      onOpen={() => runCommand('point')}
      menu={menu}
    />
  );
}
