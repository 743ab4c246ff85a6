import { Bar, BarChart, Tooltip, XAxis, YAxis } from 'recharts';
import { mediaUses, type RoomByPlace } from '@legame/core/contract';
import { UsePatterns, useFill } from '../parts/usePatterns.tsx';
import { bytes } from '@legame/words/numbers';
import { useWords } from '@legame/words/storage';
import { Tip } from './Tip.tsx';

const rowHeight = 38;

/** What takes up each place, parted by use, all at one scale. */
export function RoomByUseChart({ places, onChoose }: { places: RoomByPlace; onChoose: (placeId: string) => void }) {
  const fill = useFill();
  const uses = mediaUses.filter((use) => places.some((p) => p.byUse[use] > 0));
  return (
    <div role="figure" aria-label="room by use">
      <BarChart
        layout="vertical"
        responsive
        style={{ width: '100%', height: places.length * rowHeight + 26 }}
        data={[...places]}
        margin={{ left: 0, right: 16, top: 0, bottom: 0 }}
      >
        <UsePatterns />
        <YAxis
          type="category"
          dataKey="placeName"
          width={92}
          interval={0}
          tick={{ fontSize: 12, fill: 'var(--color-base-content)' }}
          axisLine={false}
          tickLine={false}
        />
        <XAxis
          type="number"
          tickFormatter={bytes}
          tick={{ fontSize: 11, fill: 'var(--quiet-text)' }}
          stroke="var(--color-base-300)"
          tickCount={4}
          height={20}
        />
        <Tooltip
          cursor={{ fill: 'var(--bond-wash)' }}
          content={({ payload }) => {
            const place = payload[0]?.payload as RoomByPlace[number] | undefined;
            if (!place) return null;
            const lines = uses
              .filter((use) => place.byUse[use] > 0)
              .map((use) => `${useWords[use]} ${bytes(place.byUse[use])}`);
            return <Tip title={place.placeName} lines={lines} />;
          }}
        />
        {uses.map((use) => (
          <Bar
            key={use}
            dataKey={(place: RoomByPlace[number]) => place.byUse[use]}
            name={useWords[use]}
            stackId="room"
            fill={fill(use)}
            className="cursor-pointer"
            isAnimationActive={false}
            onClick={({ payload }: { payload?: RoomByPlace[number] }) => payload && onChoose(payload.placeId)}
          />
        ))}
      </BarChart>
      <ul className="mt-2 flex flex-wrap gap-x-3 gap-y-1 text-[12px]" aria-label="uses">
        {uses.map((use) => (
          <li key={use} className="flex items-center gap-1.5">
            <svg width="14" height="10" aria-hidden>
              <rect width="14" height="10" fill={fill(use)} stroke="var(--color-base-300)" />
            </svg>
            {useWords[use]} {bytes(places.reduce((sum, p) => sum + p.byUse[use], 0))}
          </li>
        ))}
      </ul>
    </div>
  );
}
