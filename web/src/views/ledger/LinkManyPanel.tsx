import type { ClipRow } from '@legame/core/contract';
import { comesBack } from '@legame/core/state';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { ActPanel } from '../../parts/ActPanel.tsx';
import { MemberList } from '../../parts/MemberList.tsx';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { clock, count } from '@legame/words/numbers';

/** Before many clips are linked: what exactly would happen, and what is left out. Nothing has been done yet. */
export function LinkManyPanel({
  projectId,
  kind,
  rows,
  onClose,
}: {
  projectId: string;
  kind: 'certain' | 'first-candidates';
  rows: readonly ClipRow[];
  onClose: () => void;
}) {
  const onlyCertain = kind === 'certain';
  const preview = acts.useLinkPreviewQuery(
    { projectId, clipIds: rows.map((row) => row.id), onlyCertain },
    { refetchOnMountOrArgChange: true, skip: rows.length === 0 },
  );
  const [link, linked] = api.useLinkMutation();
  if (rows.length > 0 && !preview.currentData) return <Waiting what="what linking would do" error={preview.error} />;
  const { members, backSeconds } = preview.currentData ?? { members: [], backSeconds: 0 };
  const going = members.filter((m) => m.fits);
  const coming = going.filter(comesBack);
  const left = members.length - going.length;
  const go = () => {
    const links = going.map((m) => ({ clipId: m.clipId, mediaFileId: m.file!.mediaFileId }));
    return link({ projectId, by: onlyCertain ? 'rule' : 'hand', links }).unwrap();
  };
  return (
    <ActPanel
      label="preview of linking"
      title={`What “Link ${going.length}” will do`}
      verb={linked.isLoading ? 'Linking…' : `Link ${going.length}`}
      isPossible={going.length > 0}
      asked={linked}
      onAct={go}
      onClose={onClose}
    >
      <p className="mt-1 mb-2 text-quiet">
        {onlyCertain
          ? 'Each has one candidate that is identified and unrivalled. '
          : 'Each is linked to its one candidate, by your decision: not all of these are certain. Look at the evidence. '}
        No edit decision changes. {clock(backSeconds)} of screen time comes back, in {count(coming.length, 'clip')}.
        {coming.length < going.length &&
          ` ${count(going.length - coming.length, 'clip')} would be linked and stay dark.`}
        {left > 0 && ` Left out: ${count(left, 'clip')}, listed last.`} Undo is one step.
      </p>
      <MemberList members={members} label="clips to be linked" />
    </ActPanel>
  );
}
