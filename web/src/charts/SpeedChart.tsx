import { Line, LineChart, ReferenceLine, XAxis, YAxis } from 'recharts';
import { bytes, clock } from '@legame/words/numbers';

export type SpeedSample = { readonly atSeconds: number; readonly bytesPerSecond: number };

/** How fast a copy went while it was looked at, with the mean of it. */
export function SpeedChart({ samples }: { samples: readonly SpeedSample[] }) {
  if (samples.length < 2) return null;
  const mean = samples.reduce((sum, s) => sum + s.bytesPerSecond, 0) / samples.length;
  return (
    <div role="figure" aria-label={`speed: ${bytes(Math.round(mean))} a second on average`}>
      <LineChart
        responsive
        style={{ width: '100%', height: 92 }}
        data={[...samples]}
        margin={{ left: 0, right: 8, top: 6, bottom: 0 }}
      >
        <XAxis
          dataKey="atSeconds"
          type="number"
          domain={['dataMin', 'dataMax']}
          tickFormatter={(seconds: number) => clock(seconds)}
          tick={{ fontSize: 11, fill: 'var(--quiet-text)' }}
          stroke="var(--color-base-300)"
          height={20}
        />
        <YAxis
          width={62}
          tickFormatter={(n: number) => `${bytes(n)}/s`}
          tick={{ fontSize: 11, fill: 'var(--quiet-text)' }}
          stroke="var(--color-base-300)"
          tickCount={3}
        />
        <ReferenceLine y={mean} stroke="var(--quiet-text)" strokeDasharray="4 3" />
        <Line
          dataKey="bytesPerSecond"
          stroke="var(--color-primary)"
          strokeWidth={1.5}
          dot={false}
          isAnimationActive={false}
        />
      </LineChart>
    </div>
  );
}
