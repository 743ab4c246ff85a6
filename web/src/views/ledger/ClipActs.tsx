import { isDark } from '@legame/core/state';
import type { ClipDetail } from '@legame/core/contract';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { CommandButton } from '../../commands/CommandButton.tsx';
import { tipOf, type CommandId } from '../../commands/definitions.ts';
import { useCommand } from '../../commands/useCommand.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import type { Mode } from './mode.ts';
import type { ShownFile } from './useShownFile.ts';

type Props = { projectId: string; clip: ClipDetail; file: ShownFile; onMode: (mode: Mode) => void };

/** What can be done to the one clip that is shown, whatever else is selected. */
export function ClipActs({ projectId, clip, file, onMode }: Props) {
  const does = useClipActs(projectId, clip, file, onMode);
  const { shown, isShownTied } = file;
  const status = clip.status.status;
  const hasLink = clip.tied !== null && clip.tied.by !== 'remembered';
  const act = (id: CommandId, label: string, go: () => void) => (
    <button type="button" className="btn btn-plain btn-sm" title={tipOf(id)} disabled={does.isBusy} onClick={go}>
      {label}
    </button>
  );
  const plain = (label: string, go: () => void) => (
    <button type="button" className="btn btn-plain btn-sm" disabled={does.isBusy} onClick={go}>
      {label}
    </button>
  );
  return (
    <>
      <div className="line-t flex flex-wrap gap-1.5 px-3.5 py-2">
        {shown && !isShownTied && (
          <>
            <CommandButton
              id="link-shown"
              className={`btn btn-sm ${shown.refusedFor.length ? 'btn-plain' : 'btn-primary'}`}
              busy={does.isBusy}
            >
              {shown.refusedFor.length ? 'Swap to this…' : 'Link'}
            </CommandButton>
            <CommandButton id="carry" className="btn btn-plain btn-sm" busy={does.isBusy}>
              Link and carry…
            </CommandButton>
            {!file.isPointed && plain('Not this one', does.decline)}
          </>
        )}
        {isShownTied && act('unlink', 'Unlink', does.unlink)}
        {isShownTied && hasLink && (
          <>
            <CommandButton id="carry" className="btn btn-plain btn-sm">
              Carry to others…
            </CommandButton>
            {act('pin', clip.pinned ? 'Unpin' : 'Pin', does.pin)}
            {clip.canPutBack && act('put-back', 'Put back', does.putBack)}
          </>
        )}
        {file.isTied &&
          file.candidates.length > 0 &&
          !file.isPointed &&
          isDark(status) &&
          plain(file.lookAround ? 'Show the linked file' : 'Other candidates', () =>
            file.setLookAround(!file.lookAround),
          )}
        {file.isPointed && plain('Back to the candidates', () => file.setPointed(null))}
        <CommandButton id="point" className="btn btn-plain btn-sm">
          Point by hand…
        </CommandButton>
        {shown && act('reread', 'Read again', does.reread)}
        {isShownTied &&
          shown !== null &&
          shown.file.facts?.kind === 'picture' &&
          !shown.file.sequence &&
          plain('Make an accepted copy…', () => onMode({ kind: 'copy', weighed: shown }))}
        {(isDark(status) || status === 'waived') && (
          <>
            {act('park', status === 'parked' ? 'Take up again' : 'Park', () => does.setAside('parked'))}
            {act('waive', status === 'waived' ? 'Needs media after all' : 'Waive…', () =>
              status === 'waived' ? does.setAside('waived') : onMode({ kind: 'waive' }),
            )}
          </>
        )}
      </div>
      <div className="px-3.5">
        <ProblemNote error={does.error} onClose={does.onClose} />
      </div>
    </>
  );
}

/** Asks the server for what is done to one clip. */
function useClipActs(projectId: string, clip: ClipDetail, file: ShownFile, onMode: (mode: Mode) => void) {
  const clipId: string = clip.id;
  const [link, linked] = api.useLinkMutation();
  const [decline, declined] = api.useDeclineMutation();
  const [setAside, aside] = api.useSetAsideMutation();
  const [reread, reading] = storage.useRereadMutation();
  const [putBack, put] = acts.usePutBackMutation();
  const [pin, pinned] = acts.usePinMutation();
  const { shown } = file;
  useCommand(
    'link-shown',
    () => {
      // What differs in what must agree is never linked by a key alone.
      if (shown?.refusedFor.length) onMode({ kind: 'swap', weighed: shown });
      else if (shown)
        void link({ projectId, by: 'hand', links: [{ clipId, mediaFileId: shown.file.id }] })
          .unwrap()
          .then(file.settle)
          // What went wrong is shown below the buttons.
          .catch(() => undefined);
    },
    !shown ? 'There is no candidate to link.' : file.isShownTied ? 'The clip is linked to this file already.' : null,
  );
  const all = [linked, declined, aside, reading, put, pinned];
  const failed = all.find((one) => one.error);
  return {
    isBusy: all.some((one) => one.isLoading),
    error: failed?.error,
    onClose: () => failed?.reset(),
    decline: () => {
      if (shown) void decline({ clipId, mediaFileId: shown.file.id }).then(() => file.setCandidateAt(0));
    },
    unlink: () => void link({ projectId, by: 'hand', links: [{ clipId, mediaFileId: null }] }),
    pin: () => void pin({ projectId, clipIds: [clipId], pinned: !clip.pinned }),
    putBack: () => void putBack({ projectId, clipIds: [clipId] }),
    reread: () => void reread({ clipIds: [clipId] }),
    setAside: (as: 'parked' | 'waived') =>
      void setAside({ projectId, clipIds: [clipId], as: clip.status.status === as ? null : as }),
  };
}
