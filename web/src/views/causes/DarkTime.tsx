import { Suspense } from 'react';
import type { CauseView } from '@legame/core/contract';
import { useTimelines } from '../../api/timelines.ts';
import { DarkTimeChart } from '../../charts/index.ts';
import { causeName } from '@legame/words/causes';

/** How long the cut is dark, by cause and by timeline: where mending gives most back. */
export function DarkTime({
  projectId,
  causes,
  onChoose,
}: {
  projectId: string;
  causes: readonly CauseView[];
  onChoose: (key: string) => void;
}) {
  const tops = useTimelines(projectId)?.filter((t) => t.length > 0) ?? [];
  const seconds = (frames: number, { num, den }: { num: number; den: number }) => (frames * den) / num;
  return (
    <section className="flex h-full flex-col gap-2 overflow-auto p-3.5" aria-label="dark time">
      <h2 className="text-[15px] font-semibold">Dark time by cause</h2>
      <Suspense fallback={<p className="text-quiet">Drawing…</p>}>
        <DarkTimeChart
          label="dark time by cause"
          rows={causes.map((c) => ({
            key: c.key,
            name: causeName(c),
            darkSeconds: c.screenSeconds,
          }))}
          onChoose={onChoose}
        />
        <h2 className="mt-3 text-[15px] font-semibold">By timeline</h2>
        <DarkTimeChart
          label="dark time by timeline"
          rows={tops.map((t) => ({
            key: `${t.documentId}/${t.key}`,
            name: t.name,
            darkSeconds: seconds(t.darkInFrames, t.rate),
            shownSeconds: seconds(t.length - t.darkInFrames, t.rate),
          }))}
        />
      </Suspense>
      <p className="text-quiet">
        Each frame of a timeline counts once. What several causes darken at once counts with each of them.
      </p>
    </section>
  );
}
