import { notPutBackText } from '@legame/words/problems';
import { useNavigate } from 'react-router';
import { isDark } from '@legame/core/state';
import type { ClipRow } from '@legame/core/contract';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { count, group } from '@legame/words/numbers';
import type { Preview } from './preview.ts';

/** All that can be done to the selected clips together; each is one act, and one undo. */
export function SelectionActs({
  projectId,
  chosen,
  hidden,
  onPreview,
  onSetAside,
  onReread,
  onTry,
}: {
  projectId: string;
  chosen: readonly ClipRow[];
  /** How many more are selected, and not shown by the filter: nothing is done to them. */
  hidden: number;
  onPreview: (preview: Preview) => void;
  onSetAside: (as: 'parked') => void;
  onReread: () => void;
  onTry: () => void;
}) {
  const [link, linked] = api.useLinkMutation();
  const [pin, pinned] = acts.usePinMutation();
  const [putBack, put] = acts.usePutBackMutation();
  const navigate = useNavigate();
  const clipIds = chosen.map((row) => row.id);
  const candidates = chosen.filter((r) => r.candidate !== null && r.decision !== 'refused' && isDark(r.status.status));
  const ties = chosen.filter((r) => r.tied);
  const links = chosen.filter((r) => r.tied && r.tied.by !== 'remembered');
  const isPinned = chosen.every((r) => r.pinned);
  const button = (label: string, title: string, onClick: () => void, isBusy = false) => (
    <button type="button" className="btn btn-plain btn-xs" title={title} disabled={isBusy} onClick={onClick}>
      {label}
    </button>
  );
  return (
    <div className="line-b bg-base-200 px-2.5 py-1.5" role="toolbar" aria-label="selection">
      <div className="flex flex-wrap items-center gap-1">
        <b className="mr-1">
          {group(chosen.length)} selected{hidden > 0 && `, ${group(hidden)} more hidden by the filter and left alone`}:
        </b>
        {candidates.length > 0 &&
          button(`Link ${candidates.length}…`, 'Each to its closest candidate, after you saw the evidence', () =>
            onPreview({ kind: 'first-candidates' }),
          )}
        {ties.length > 0 &&
          button(
            `Unlink ${ties.length}`,
            'Take them offline on purpose; they come back when they are linked, or by Undo',
            () =>
              void link({
                projectId,
                by: 'hand',
                links: ties.map((r) => ({ clipId: r.id, mediaFileId: null })),
              }),
            linked.isLoading,
          )}
        {button(
          isPinned ? 'Unpin' : 'Pin',
          'i: no rule, carry or cause may change a pinned link',
          () => void pin({ projectId, clipIds, pinned: !isPinned }),
          pinned.isLoading,
        )}
        {button('Change folder…', 'One folder of their remembered paths for another', () =>
          onPreview({ kind: 'folder' }),
        )}
        {button('Timecode…', 'g t: what the edit counts from beside what the files carry', () => {
          void navigate(`/projects/${projectId}/timecode`);
        })}
        {button(
          'Original or copy…',
          'Link them to the camera original, a small copy or an accepted copy of the same recording',
          () => onPreview({ kind: 'forms' }),
        )}
        {links.length > 0 &&
          button(
            `Put back ${links.length}`,
            'Copy their files to where the edit expects them; nothing is written over',
            () => void putBack({ projectId, clipIds: links.map((r) => r.id) }),
            put.isLoading,
          )}
        {button('Park', 'k: leave them for later', () => onSetAside('parked'))}
        {button('Waive…', 'w: they need no media', () => onPreview({ kind: 'waive' }))}
        {button('Read again', 'r: forget what is remembered of their files and measure them again', onReread)}
        {button('Trial read', 'Decode their files from end to end, in a fenced process', onTry)}
      </div>
      {put.data && (
        <p role="status" className="pt-1">
          Copying {count(put.data.started, 'file')} back.
          {put.data.skipped.length > 0 &&
            ` ${count(put.data.skipped.length, 'clip')} left: ${notPutBackText(put.data.skipped[0]!.why)}.`}
        </p>
      )}
      <ProblemNote
        error={linked.error ?? pinned.error ?? put.error}
        onClose={() => {
          linked.reset();
          pinned.reset();
          put.reset();
        }}
      />
    </div>
  );
}
