import { Bar, BarChart, LabelList, Tooltip, XAxis, YAxis } from 'recharts';
import { clock } from '@legame/words/numbers';
import { Tip } from './Tip.tsx';

export type DarkTime = {
  readonly key: string;
  readonly name: string;
  readonly darkSeconds: number;
  /** What of the same is not dark; none where there is nothing to hold it against. */
  readonly shownSeconds?: number;
};
const rowHeight = 30;
const nameWidth = 170;
const shortened = (name: string) => (name.length > 22 ? `${name.slice(0, 9)}…${name.slice(-12)}` : name);

/** Dark time of several things, the longest first. A click shows the one. */
export function DarkTimeChart({
  label,
  rows,
  onChoose,
}: {
  label: string;
  rows: readonly DarkTime[];
  onChoose?: (key: string) => void;
}) {
  const sorted = rows.toSorted((a, b) => b.darkSeconds - a.darkSeconds);
  return (
    <div role="figure" aria-label={label}>
      <BarChart
        layout="vertical"
        responsive
        style={{ width: '100%', height: sorted.length * rowHeight + 26 }}
        data={sorted}
        margin={{ left: 0, right: 46, top: 0, bottom: 0 }}
      >
        <YAxis
          type="category"
          dataKey="name"
          width={nameWidth}
          interval={0}
          tickFormatter={shortened}
          tick={{ fontSize: 12, fill: 'var(--color-base-content)' }}
          axisLine={false}
          tickLine={false}
        />
        <XAxis
          type="number"
          tickFormatter={(seconds: number) => clock(seconds)}
          tick={{ fontSize: 11, fill: 'var(--quiet-text)' }}
          stroke="var(--color-base-300)"
          tickCount={4}
          height={20}
        />
        <Tooltip
          cursor={{ fill: 'var(--bond-wash)' }}
          content={({ payload }) => {
            const row = payload[0]?.payload as DarkTime | undefined;
            return row ? <Tip title={row.name} lines={[`${clock(row.darkSeconds)} dark`]} /> : null;
          }}
        />
        <Bar
          dataKey="darkSeconds"
          stackId="time"
          fill="var(--status-missing)"
          isAnimationActive={false}
          {...(onChoose
            ? {
                className: 'cursor-pointer',
                onClick: ({ payload }: { payload?: DarkTime }) => payload && onChoose(payload.key),
              }
            : {})}
        >
          <LabelList
            dataKey="darkSeconds"
            position="right"
            formatter={(seconds: unknown) => clock(Number(seconds))}
            style={{ fontSize: 11, fill: 'var(--color-base-content)' }}
          />
        </Bar>
        <Bar dataKey="shownSeconds" stackId="time" fill="var(--linked-block)" isAnimationActive={false} />
      </BarChart>
      <ul className="sr-only">
        {sorted.map((row) => (
          <li key={row.key}>
            {row.name}: {clock(row.darkSeconds)} dark
          </li>
        ))}
      </ul>
    </div>
  );
}
