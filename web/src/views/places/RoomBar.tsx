import { settings } from '../../api/settings.ts';
import { bytes } from '@legame/words/numbers';

/** Free room of a drive, with the line below which it should not be filled. */
export function RoomBar({
  freeInBytes,
  totalInBytes,
  plannedInBytes = 0,
}: {
  freeInBytes: number;
  totalInBytes: number;
  plannedInBytes?: number;
}) {
  const headroom = settings.useSettingsQuery(undefined).data?.headroomPercent ?? null;
  if (totalInBytes === 0) return null;
  const used = ((totalInBytes - freeInBytes) / totalInBytes) * 100;
  const planned = (plannedInBytes / totalInBytes) * 100;
  const isTight = headroom !== null && freeInBytes / totalInBytes < headroom / 100;
  return (
    <div className="mt-1.5">
      <div className="relative h-2 overflow-hidden rounded-[2px] border border-base-300 bg-base-100">
        <div className="absolute h-full bg-base-content/35" style={{ width: `${used}%` }} />
        <div
          className="absolute h-full bg-primary"
          style={{ left: `${used}%`, width: `${plannedInBytes > 0 ? Math.max(planned, 0.5) : 0}%` }}
        />
        {headroom !== null && (
          <div
            className="absolute h-full w-px bg-changed"
            style={{ left: `${100 - headroom}%` }}
            title={`${headroom} % headroom is kept free`}
          />
        )}
      </div>
      <span className="text-[12px] text-quiet">
        {bytes(freeInBytes)} free of {bytes(totalInBytes)}
        {isTight && <span className="text-changed"> · into the {headroom} % headroom</span>}
      </span>
    </div>
  );
}
