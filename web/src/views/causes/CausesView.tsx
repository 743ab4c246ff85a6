import { ListAndPanel } from '../../parts/ListAndPanel.tsx';
import { skippedText } from '@legame/words/problems';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { isQuestion } from '@legame/core/match';
import type { CauseView } from '@legame/core/contract';
import { useCommand } from '../../commands/useCommand.ts';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { useAppDispatch } from '../../app/store.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { filterStatus, pick, pickMany } from '../../session/selection.ts';
import { count } from '@legame/words/numbers';
import { CauseCard } from './CauseCard.tsx';
import { CausePanel } from './CausePanel.tsx';
import { DarkTime } from './DarkTime.tsx';

/** Why the cut is dark, in two or three causes instead of three hundred clips; each is mended by one decision. */
export function CausesView() {
  const { projectId = '' } = useParams();
  const causes = acts.useCausesQuery(projectId);
  const project = api.useProjectQuery(projectId);
  const jobs = api.useJobsQuery();
  const [mend, mended] = acts.useMendMutation();
  const [setAside, aside] = api.useSetAsideMutation();
  const [shownKey, setShownKey] = useState<string | null>(null);
  const [isDrawn, setIsDrawn] = useState(false);
  const show = (key: string) => {
    setIsDrawn(false);
    setShownKey(key);
  };
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const list = causes.data?.causes ?? [];
  const together = list.filter((c) => !isQuestion(c));
  const alone = list.filter(isQuestion);
  const shown = list.find((c) => c.key === shownKey) ?? together[0] ?? alone[0];
  const move = (by: number) => {
    const at = list.findIndex((c) => c === shown);
    const next = list[Math.max(0, Math.min(list.length - 1, at + by))];
    if (next) show(next.key);
  };
  useCommand('next-cause', () => move(1));
  useCommand('former-cause', () => move(-1));
  if (!causes.data) return <Waiting what="why clips are dark" error={causes.error} />;

  const showInLedger = (cause: CauseView) => {
    dispatch(filterStatus('all'));
    const [first] = cause.clipIds;
    if (cause.clipIds.length === 1 && first) dispatch(pick(first));
    else dispatch(pickMany(cause.clipIds));
    void navigate(`/projects/${projectId}/ledger`);
  };
  const { dark, parked } = causes.data;
  const isMatching = jobs.data?.some(
    (job) =>
      job.kind === 'match-project' &&
      job.payload.projectId === projectId &&
      (job.state === 'queued' || job.state === 'running'),
  );
  return (
    <ListAndPanel
      name="causes"
      listClass="min-w-0 overflow-auto! p-3.5"
      panelSize="400px"
      panelAtMost="60%"
      panel={
        <>
          {isDrawn ? (
            <DarkTime projectId={projectId} causes={together} onChoose={show} />
          ) : shown ? (
            <CausePanel
              key={shown.key}
              projectId={projectId}
              cause={shown}
              isBusy={mended.isLoading}
              onMend={(how) => void mend({ projectId, key: shown.key, ...how })}
              onLedger={() => showInLedger(shown)}
            />
          ) : (
            <p className="p-4 text-quiet">Choose a cause to see, clip by clip, what mending it would do.</p>
          )}
        </>
      }
    >
      <Summary
        causes={list}
        dark={dark}
        parked={parked}
        hasClips={(project.data?.clips ?? 0) > 0}
        isMatching={isMatching === true}
        isDrawn={isDrawn}
        onDraw={() => setIsDrawn(!isDrawn)}
      />
      {dark === 0 && (
        <p className="text-quiet">
          {project.data?.clips
            ? 'What comes in next, or goes away, shows here with its reason.'
            : 'Bring in an edit at Intake (g i), say at Places (g p) where media may be, and come back: here it says why clips are dark.'}
        </p>
      )}
      <ProblemNote error={mended.error ?? aside.error} onClose={mended.error ? mended.reset : aside.reset} />
      {mended.data && mended.data.skipped.length > 0 && (
        <p role="status" className="pb-2">
          Linked {count(mended.data.count, 'clip')}; {count(mended.data.skipped.length, 'clip')} left alone:{' '}
          {skippedText[mended.data.skipped[0]!.why]}.
        </p>
      )}
      <ol className="flex flex-col gap-2.5" aria-label="causes">
        {together.map((cause) => (
          <CauseCard
            key={cause.key}
            cause={cause}
            isShown={!isDrawn && cause === shown}
            isBusy={mended.isLoading}
            onShow={() => show(cause.key)}
            onMend={() => void mend({ projectId, key: cause.key })}
            onPark={() => void setAside({ projectId, clipIds: cause.clipIds, as: 'parked' })}
            onLedger={() => showInLedger(cause)}
            projectId={projectId}
          />
        ))}
      </ol>
      <OnlyYouCanSay causes={alone} onChoose={showInLedger} />
      {dark > 0 && (
        <p className="mt-3 text-quiet">
          What no decision here mends goes on a{' '}
          <Link className="underline underline-offset-2" to={`/projects/${projectId}/pull-list`}>
            pull list
          </Link>
          : by reel, with in and out.
        </p>
      )}
    </ListAndPanel>
  );
}

/** How many causes account for how many dark clips. */
function Summary({
  causes,
  dark,
  parked,
  hasClips,
  isMatching,
  isDrawn,
  onDraw,
}: {
  causes: readonly CauseView[];
  dark: number;
  parked: number;
  hasClips: boolean;
  isMatching: boolean;
  isDrawn: boolean;
  onDraw: () => void;
}) {
  const together = causes.filter((c) => !isQuestion(c));
  const alone = causes.filter(isQuestion);
  const accounted = together.reduce((sum, c) => sum + c.clipIds.length, 0);
  return (
    <h1 className="mb-2.5 text-[15px]">
      {dark === 0 ? (
        <b>{hasClips ? 'No clip is dark for a reason that can be mended.' : 'No clips yet.'}</b>
      ) : (
        <>
          <b>
            {count(together.length, 'cause')} account{together.length === 1 ? 's' : ''} for {accounted} of{' '}
            {count(dark, 'dark clip')}.
          </b>{' '}
          <span className="text-quiet">
            {alone.length > 0 && `For ${count(alone.length, 'clip')} only you can say.`}
          </span>
        </>
      )}
      {parked > 0 && <span className="text-quiet"> {count(parked, 'clip')} parked for later.</span>}
      {isMatching && <span className="text-quiet"> Looking again…</span>}
      {dark > 0 && (
        <>
          {' '}
          <button type="button" className="underline underline-offset-2" aria-pressed={isDrawn} onClick={onDraw}>
            Dark time drawn
          </button>
        </>
      )}
    </h1>
  );
}

/** What is asked about one clip each. */
function OnlyYouCanSay({ causes, onChoose }: { causes: readonly CauseView[]; onChoose: (cause: CauseView) => void }) {
  if (causes.length === 0) return null;
  return (
    <ul className="mt-3 flex flex-col gap-1" aria-label="only you can say">
      {causes.map((cause) => (
        <li key={cause.key} className="text-quiet">
          <span className="font-mono text-base-content">{cause.samples[0]}</span>: {choiceWords(cause.kind)}{' '}
          <button type="button" className="underline underline-offset-2" onClick={() => onChoose(cause)}>
            Choose
          </button>
        </li>
      ))}
    </ul>
  );
}

/** What is asked about one clip. */
const choiceWords = (kind: CauseView['kind']): string =>
  kind.code === 'choice' && kind.alternatives.length > 1
    ? `files in ${kind.alternatives.length} folders are equally good.`
    : 'not enough is known to be sure.';
