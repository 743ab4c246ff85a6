import type { ReactNode } from 'react';
import type { HandoffPlan, PlannedContent } from '@legame/core/contract';
import { isException } from '@legame/words/handoffs';
import { aboutSeconds, bytes, count } from '@legame/words/numbers';

/** How many files of media and sidecars are written. */
export const filesIn = ({ recordings }: Pick<PlannedContent, 'recordings'>): number =>
  recordings.reduce((sum, r) => sum + r.outs.reduce((of, o) => of + o.files, r.sidecars.length), 0);

/** What a plan comes to: bytes against whole, how many files of how many recordings, and whether there is room. */
export function PlanSum({
  plan,
  writtenInBytes = null,
  targets,
  children,
}: {
  plan: PlannedContent;
  /** What was written, once it is. */
  writtenInBytes?: number | null;
  /** Where it is to go, as long as it has to fit there. */
  targets: HandoffPlan['targets'];
  children?: ReactNode;
}) {
  const { recordings, leftOut, wholeInBytes } = plan;
  const sizeInBytes = writtenInBytes ?? plan.sizeInBytes;
  const files = filesIn(plan);
  const exceptions = recordings.filter(isException).length;
  const missing = leftOut.filter((l) => l.reason !== 'left-by-choice' && l.reason !== 'waived').length;
  const isGuessed = writtenInBytes === null && recordings.some((r) => r.coded !== null);
  const share = wholeInBytes > 0 ? (sizeInBytes / wholeInBytes) * 100 : 100;
  return (
    <div className="my-2 flex items-center gap-4">
      <div className="sheet flex flex-1 items-center gap-5 px-3 py-2">
        <p className="shrink-0">
          <b className="font-mono text-[16px]">
            {isGuessed && '≈ '}
            {bytes(sizeInBytes)}
          </b>
          {sizeInBytes !== wholeInBytes && (
            <span className="text-quiet">
              {' '}
              {sizeInBytes < wholeInBytes ? 'of' : 'for'} {bytes(wholeInBytes)} whole
            </span>
          )}
        </p>
        <div className="h-3 w-40 shrink-0 bg-[var(--bond-wash)]" aria-hidden>
          <div className="h-full bg-primary" style={{ width: `${Math.max(1, Math.min(100, share))}%` }} />
        </div>
        <p>
          {count(files, 'file')} of {count(recordings.length, 'recording')}
          {missing > 0 && (
            <>
              {' '}
              · <b className="text-missing">{missing} cannot come</b>
            </>
          )}
          {exceptions > 0 && <span className="text-changed"> · {exceptions} whole against the plan</span>}
          {targets.map((target) => (
            <RoomSaid key={target.folder} target={target} isOnly={targets.length === 1} />
          ))}
        </p>
      </div>
      {children}
    </div>
  );
}

function RoomSaid({
  target: { folder, room, seconds },
  isOnly,
}: {
  target: HandoffPlan['targets'][number];
  isOnly: boolean;
}) {
  const { fits, usableInBytes, headroomShare } = room;
  const there = isOnly ? 'there' : `on ${folder.split('/').at(-1)}`;
  return (
    <span className={fits ? 'block text-quiet' : 'block font-semibold text-missing'}>
      {fits
        ? `${bytes(usableInBytes)} can be used ${there} beside the headroom of ${headroomShare * 100} %${seconds === null ? '' : `; ${aboutSeconds(seconds)}, as it went there before`}`
        : `Does not fit ${there}: only ${bytes(usableInBytes)} can be used beside the headroom of ${headroomShare * 100} %. Choose another drive.`}
    </span>
  );
}
