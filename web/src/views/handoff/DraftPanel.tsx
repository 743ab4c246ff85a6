import { useState } from 'react';
import { useDebounce } from 'use-debounce';
import type { Handoff } from '@legame/core/contract';
import { bytes, count } from '@legame/words/numbers';
import { api } from '../../api/legame.ts';
import { useTimelines, type ShownTimeline } from '../../api/timelines.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { useAppSelector } from '../../app/store.ts';
import { askedOf, canBePlanned, draftOf, firstDraft, treatedOtherwise, type Brought, type Draft } from './draft.ts';
import { filesIn, PlanSum } from './PlanSum.tsx';
import { PlanTable } from './PlanTable.tsx';
import { Sentence } from './Sentence.tsx';
import { useBreakOff } from './useBreakOff.ts';

/** A plan in the making: the sentence that says it, and at every word what it comes to. */
export function DraftPanel({
  projectId,
  projectName,
  from,
  onKept,
}: {
  projectId: string;
  projectName: string;
  /** What somebody chose elsewhere to hand off, or a kept plan that is to be changed. */
  from: Brought | Handoff;
  onKept: (id: string) => void;
}) {
  const timelines = useTimelines(projectId);
  const handles = useAppSelector((state) => state.preferences.mine.handlesInFrames);
  if (!timelines) return <Waiting what="timelines" error={null} />;
  const named = `${projectName} ${new Date().toISOString().slice(0, 10)}`;
  const first = 'plan' in from ? draftOf(from, timelines) : firstDraft(named, from, handles);
  return <Drafting projectId={projectId} timelines={timelines} first={first} onKept={onKept} />;
}

function Drafting({
  projectId,
  timelines,
  first,
  onKept,
}: {
  projectId: string;
  timelines: readonly ShownTimeline[];
  first: Draft;
  onKept: (id: string) => void;
}) {
  const [draft, setDraft] = useState(first);
  const [plan, planned] = api.usePlanHandoffMutation();
  const [run, ran] = api.useRunHandoffMutation();
  // A word is shown as changed at once; what it comes to is asked for when somebody stops typing.
  const [settled] = useDebounce(draft, 200);
  const isPlannable = canBePlanned(draft, timelines);
  const asked = askedOf(projectId, settled, timelines);
  const preview = api.useHandoffPreviewQuery(asked, { skip: !canBePlanned(settled, timelines) });
  useBreakOff(asked);
  const { targetFolder } = draft;
  // What the plan below shows is what would be written: not while it is being worked out anew.
  const isReady =
    settled === draft &&
    preview.currentData !== undefined &&
    isPlannable &&
    targetFolder !== '' &&
    draft.name.trim() !== '' &&
    !planned.isLoading &&
    !ran.isLoading;
  const keep = () =>
    plan({ ...askedOf(projectId, draft, timelines), targetFolder, name: draft.name.trim(), layout: draft.layout })
      .unwrap()
      .catch(() => undefined);
  const shown = preview.currentData ?? preview.data;
  const files = shown ? filesIn(shown) : 0;
  return (
    <div className="flex h-full flex-col">
      <h1 className="sr-only">Plan a handoff</h1>
      <Sentence
        projectId={projectId}
        draft={draft}
        timelines={timelines}
        hasRefused={shown?.leftOut.some((l) => l.reason === 'not-accepted') ?? false}
        onChange={(change) => setDraft({ ...draft, ...change })}
      />
      <ProblemNote error={planned.error ?? ran.error ?? (preview.isError ? preview.error : null)} />
      {shown && (
        <>
          <PlanSum plan={shown} targets={shown.targets}>
            <button
              type="button"
              className="btn btn-plain btn-sm"
              disabled={!isReady || files === 0}
              onClick={() => void keep().then((kept) => kept && onKept(kept.id))}
            >
              Keep the plan
            </button>
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={!isReady || files === 0 || shown.targets.some((t) => !t.room.fits)}
              onClick={() =>
                void keep().then(async (kept) => {
                  if (!kept) return;
                  await run(kept.id);
                  onKept(kept.id);
                })
              }
            >
              Write {count(files, 'file')}, {bytes(shown.sizeInBytes)}
            </button>
          </PlanSum>
          <PlanTable
            plan={shown}
            copied={null}
            onTreat={(mediaFileId, treatment) => setDraft(treatedOtherwise(draft, mediaFileId, treatment))}
          />
        </>
      )}
      {!shown && preview.isFetching && <p className="text-quiet">Looking where the recordings can be cut…</p>}
    </div>
  );
}
