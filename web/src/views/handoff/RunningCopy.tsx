import { Suspense, useState } from 'react';
import type { Job } from '@legame/core/contract';
import { SpeedChart } from '../../charts/index.ts';
import type { SpeedSample } from '../../charts/SpeedChart.tsx';
import { JobProgress } from '../../parts/JobProgress.tsx';

const mostSamples = 300;
type Point = { readonly atSeconds: number; readonly bytes: number };

/** A copy that runs: how far it is, and how fast it went while it was looked at. */
export function RunningCopy({ job }: { job: Job }) {
  const [seen, setSeen] = useState<{ last: Point | null; samples: readonly SpeedSample[] }>({
    last: null,
    samples: [],
  });
  const { progress } = job;
  const isBytes = progress?.unit === 'bytes';
  // Derived from what came before, so it is noted while drawing, once for each report.
  if (isBytes && progress.elapsedSeconds !== seen.last?.atSeconds) {
    const now = { atSeconds: progress.elapsedSeconds, bytes: progress.done };
    const { last } = seen;
    const seconds = last ? now.atSeconds - last.atSeconds : 0;
    const sample =
      last && seconds > 0 && now.bytes >= last.bytes
        ? [{ atSeconds: now.atSeconds, bytesPerSecond: (now.bytes - last.bytes) / seconds }]
        : [];
    setSeen({ last: now, samples: [...seen.samples, ...sample].slice(-mostSamples) });
  }
  return (
    <div className="flex flex-col gap-2">
      <JobProgress job={job} />
      {seen.samples.length > 1 && (
        <Suspense fallback={null}>
          <SpeedChart samples={seen.samples} />
        </Suspense>
      )}
    </div>
  );
}
