import { timecode } from '@legame/words/numbers';
import type { ShownTimeline } from '../../api/timelines.ts';
import { placeOf } from './Tracks.tsx';
import { flagsIn, markerText } from './markers.ts';
import type { Sight } from './sight.ts';

/** Marks and comments of the document on the ruler: where one points, the playhead goes. */
export function MarkerFlags({
  timeline: { markers, rate, counting },
  sight,
  width,
  onFrame,
}: {
  timeline: Pick<ShownTimeline, 'markers' | 'rate' | 'counting'>;
  sight: Sight;
  width: number;
  onFrame: (frame: number) => void;
}) {
  return (
    <ul aria-label="markers" className="pointer-events-none absolute inset-x-0 top-0 h-6">
      {flagsIn(markers, sight, width).map((flag) => {
        const [first] = flag;
        const at = timecode(first.record.start, rate, counting);
        const text = flag.map(markerText).join('\n');
        return (
          <li key={`${first.record.start} ${first.track} ${first.name} ${first.comment}`}>
            <button
              type="button"
              className="pointer-events-auto absolute bottom-0 h-2.5 w-3 -translate-x-px cursor-pointer border-l-2 border-base-content"
              style={{ left: Math.max(0, placeOf(sight, width, first.record.start)) }}
              aria-label={`marker at ${at}: ${text.replaceAll('\n', '; ')}`}
              title={`${at}\n${text}`}
              onPointerDown={(event) => event.stopPropagation()}
              onClick={() => onFrame(first.record.start)}
            >
              <span
                className="absolute top-0 left-0 h-2 w-2.5 border border-base-content"
                style={{ background: cssColour(first.color) }}
              />
              {flag.length > 1 && (
                <span className="absolute -top-0.5 left-3 text-[10px] leading-none font-bold">{flag.length}</span>
              )}
            </button>
          </li>
        );
      })}
    </ul>
  );
}

/** The colours that the interchange standard names; another word is shown as no colour. */
const colours = 'pink red orange yellow green cyan blue purple magenta black white'.split(' ');
const cssColour = (color: string): string =>
  colours.includes(color.toLowerCase()) ? color.toLowerCase() : 'var(--color-base-100)';
