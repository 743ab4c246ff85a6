import type { ClipRow } from '@legame/core/contract';
import { CommandButton } from '../../commands/CommandButton.tsx';
import type { CommandId } from '../../commands/definitions.ts';
import { group } from '@legame/words/numbers';
import { candidatesOf, linksOf, tiesOf } from './useLedgerCommands.ts';

/** All that can be done to the selected clips together; each is one act, and one undo. */
export function SelectionActs({
  chosen,
  hidden,
}: {
  chosen: readonly ClipRow[];
  /** How many more are selected, and not shown by the filter: nothing is done to them. */
  hidden: number;
}) {
  const [candidates, ties, links] = [candidatesOf(chosen).length, tiesOf(chosen).length, linksOf(chosen).length];
  const button = (id: CommandId, label: string) => (
    <CommandButton id={id} className="btn btn-plain btn-xs">
      {label}
    </CommandButton>
  );
  return (
    <div className="line-b bg-base-200 px-2.5 py-1.5" role="toolbar" aria-label="selection">
      <div className="flex flex-wrap items-center gap-1">
        <b className="mr-1">
          {group(chosen.length)} selected{hidden > 0 && `, ${group(hidden)} more hidden by the filter and left alone`}:
        </b>
        {candidates > 0 && button('link-many', `Link ${candidates}…`)}
        {ties > 0 && button('unlink', `Unlink ${ties}`)}
        {button('pin', chosen.every((r) => r.pinned) ? 'Unpin' : 'Pin')}
        {button('change-folder', 'Change folder…')}
        {button('go-timecode', 'Timecode…')}
        {button('show-in-cut', 'In the cut')}
        {button('forms', 'Original or copy…')}
        {ties > 0 && button('hand-off', 'Hand off…')}
        {links > 0 && button('put-back', `Put back ${links}`)}
        {button('park', 'Park')}
        {button('waive', 'Waive…')}
        {button('reread', 'Read again')}
        {button('trial-read', 'Trial read')}
      </div>
    </div>
  );
}
