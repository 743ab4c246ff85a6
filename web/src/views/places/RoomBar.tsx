import { defaultHeadroomShare } from '@legame/core/consolidate';
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
  if (totalInBytes === 0) return null;
  const used = ((totalInBytes - freeInBytes) / totalInBytes) * 100;
  const planned = (plannedInBytes / totalInBytes) * 100;
  const isTight = freeInBytes / totalInBytes < defaultHeadroomShare;
  return (
    <div className="mt-1.5">
      <div className="relative h-2 overflow-hidden rounded-[2px] border border-base-300 bg-base-100">
        <div className="absolute h-full bg-base-content/35" style={{ width: `${used}%` }} />
        <div
          className="absolute h-full bg-primary"
          style={{ left: `${used}%`, width: `${plannedInBytes > 0 ? Math.max(planned, 0.5) : 0}%` }}
        />
        <div
          className="absolute h-full w-px bg-changed"
          style={{ left: `${(1 - defaultHeadroomShare) * 100}%` }}
          title={`${defaultHeadroomShare * 100} % headroom is kept free`}
        />
      </div>
      <span className="text-[12px] text-quiet">
        {bytes(freeInBytes)} free of {bytes(totalInBytes)}
        {isTight && <span className="text-changed"> · into the {defaultHeadroomShare * 100} % headroom</span>}
      </span>
    </div>
  );
}
