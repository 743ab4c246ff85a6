import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { isDark } from '@legame/core/state';
import type { ClipRow } from '@legame/core/contract';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useCommand } from '../../commands/useCommand.ts';
import { binAddress } from '../../session/bin.ts';
import { pick, pickMany } from '../../session/selection.ts';
import { count } from '@legame/words/numbers';
import { notPutBackText } from '@legame/words/problems';
import type { Preview } from './preview.ts';
import { asText, nextNeedingHand } from './rows.ts';

/** What a selection is made of, as far as commands ask. */
export const candidatesOf = (rows: readonly ClipRow[]) =>
  rows.filter((r) => r.candidate !== null && r.decision !== 'refused' && isDark(r.status.status));
export const tiesOf = (rows: readonly ClipRow[]) => rows.filter((r) => r.tied);
export const linksOf = (rows: readonly ClipRow[]) => rows.filter((r) => r.tied && r.tied.by !== 'remembered');

/** What can be done to the selected clips; each is one act, and one undo. Gives what went wrong with the last of it. */
export function useLedgerCommands(
  projectId: string,
  rows: readonly ClipRow[],
  chosen: readonly ClipRow[],
  onPreview: (preview: Preview) => void,
) {
  const dispatch = useAppDispatch();
  const focus = useAppSelector((state) => state.selection.focus);
  const navigate = useNavigate();
  const [link, linked] = api.useLinkMutation();
  const [pin, pinned] = acts.usePinMutation();
  const [putBack, put] = acts.usePutBackMutation();
  const [setAside, aside] = api.useSetAsideMutation();
  const [reread, reading] = storage.useRereadMutation();
  const [startTrial, trial] = storage.useStartTrialMutation();
  const clipIds = chosen.map((row) => row.id);
  const nothing = chosen.length === 0 ? 'No clip is selected.' : null;
  const unless = (list: readonly ClipRow[], why: string) => nothing ?? (list.length === 0 ? why : null);

  useCommand(
    'select-all',
    () => dispatch(pickMany(rows.map((row) => row.id))),
    rows.length ? null : 'No clip is shown.',
  );
  useCommand(
    'copy-rows',
    () => {
      void navigator.clipboard.writeText(asText(chosen)).then(
        () => toast(`${count(chosen.length, 'row')} copied.`),
        () => toast('The browser does not let this page copy. Allow it the clipboard, and try again.'),
      );
    },
    nothing,
  );
  const next = nextNeedingHand(rows, focus);
  useCommand(
    'next-needing-hand',
    () => next && dispatch(pick(next.id)),
    next ? null : 'No clip that is shown needs a hand.',
  );
  useCommand(
    'link-many',
    () => onPreview({ kind: 'first-candidates' }),
    unless(candidatesOf(chosen), 'No selected clip is dark and has a candidate.'),
  );
  useCommand(
    'unlink',
    () => {
      const links = tiesOf(chosen).map((r) => ({ clipId: r.id, mediaFileId: null }));
      void link({ projectId, by: 'hand', links });
    },
    unless(tiesOf(chosen), 'No selected clip has a file.'),
  );
  useCommand('pin', () => void pin({ projectId, clipIds, pinned: !chosen.every((row) => row.pinned) }), nothing);
  const setChosenAside = (as: 'parked' | 'waived') => {
    const all = chosen.every((row) => row.status.status === as);
    void setAside({ projectId, clipIds, as: all ? null : as });
  };
  useCommand('park', () => setChosenAside('parked'), nothing);
  useCommand(
    'waive',
    () =>
      chosen.every((row) => row.status.status === 'waived') ? setChosenAside('waived') : onPreview({ kind: 'waive' }),
    nothing,
  );
  useCommand(
    'hand-off',
    () => void navigate(`/projects/${projectId}/handoff`, { state: { clips: clipIds } }),
    unless(tiesOf(chosen), 'No selected clip has a file.'),
  );
  useCommand(
    'rename-files',
    () => void navigate(`/projects/${projectId}/naming`, { state: { clips: clipIds } }),
    unless(tiesOf(chosen), 'No selected clip has a file.'),
  );
  useCommand(
    'show-in-cut',
    () => void navigate(`/projects/${projectId}/cut`),
    unless(
      chosen.filter((r) => r.uses > 0),
      'No timeline uses a selected clip.',
    ),
  );
  useCommand('show-in-bin', () => void navigate(`/projects/${projectId}/bins?${binAddress(chosen[0]!.bin)}`), nothing);
  useCommand('change-folder', () => onPreview({ kind: 'folder' }), nothing);
  useCommand('forms', () => onPreview({ kind: 'forms' }), nothing);
  useCommand('reread', () => void reread({ clipIds }), nothing);
  useCommand(
    'put-back',
    () => {
      void putBack({ projectId, clipIds: linksOf(chosen).map((r) => r.id) })
        .unwrap()
        .then(({ started, skipped }) =>
          toast(
            `Copying ${count(started, 'file')} back.${skipped[0] ? ` ${count(skipped.length, 'clip')} left: ${notPutBackText(skipped[0].why)}.` : ''}`,
          ),
        )
        // What went wrong is shown beside the rows.
        .catch(() => undefined);
    },
    unless(linksOf(chosen), 'No selected clip has a link of its own.'),
  );
  useCommand(
    'trial-read',
    () => {
      void startTrial({ projectId, scope: 'chosen', clipIds })
        .unwrap()
        .then(({ trial: { files } }) =>
          toast(`Decoding ${count(files.length, 'file')} from end to end.`, {
            action: { label: 'See what fails', onClick: () => void navigate(`/projects/${projectId}/read-log`) },
          }),
        )
        .catch(() => undefined);
    },
    nothing,
  );
  const failed = [linked, pinned, put, aside, reading, trial].find((one) => one.error);
  return { error: failed?.error, onClose: () => failed?.reset() };
}
