import { keptUnits } from '@legame/core/consolidate';
import type { PlannedRecording } from '@legame/core/contract';
import type { FrameRange } from '@legame/core/time';
import { group } from '@legame/words/numbers';

/** A recording from end to end: what is used, the handles that go along, and what is left behind. */
export function SpanRuler({ recording }: { recording: Pick<PlannedRecording, 'length' | 'used' | 'outs' | 'kind'> }) {
  const { length, used, outs, kind } = recording;
  const isWhole = outs.some((o) => o.range === null);
  if (length === null || length === 0)
    return <div className="h-3.5 border border-primary bg-primary" title="it goes whole" />;
  const share = (r: FrameRange) => ({
    left: `${(Math.max(0, r.start) / length) * 100}%`,
    width: `${((Math.min(length, r.end) - Math.max(0, r.start)) / length) * 100}%`,
  });
  const unit = kind === 'sound' ? 'samples' : 'frames';
  const kept = outs.flatMap((o) => (o.range ? [o.range] : []));
  const title = `${group(keptUnits(recording))} of ${group(length)} ${unit} go`;
  return (
    <div
      className="relative h-3.5 border border-base-content/40 bg-base-100"
      role="img"
      aria-label={title}
      title={title}
    >
      {isWhole && <div className="absolute inset-0 bg-primary/35" />}
      {kept.map((r) => (
        <div key={r.start} className="absolute h-full min-w-[2px] bg-primary/35" style={share(r)} />
      ))}
      {used.map((r) => (
        <div key={r.start} className="absolute h-full min-w-[2px] bg-primary" style={share(r)} />
      ))}
    </div>
  );
}
