import type { CutRecording } from '@legame/core/contract';
import { group, timecode } from '@legame/words/numbers';
import { statusWords } from '@legame/words/statuses';
import { keptPictureUrl, pictureUrl } from '../../api/legame.ts';
import type { ShownTimeline } from '../../api/timelines.ts';
import { markersAt, markerText } from './markers.ts';
import { tipOf } from '../../commands/definitions.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { Player } from './playing/Player.tsx';
import type { Playing } from './playing/usePlaying.ts';
import { frameShown } from './beneath.ts';

/** The picture of the linked file at the playhead, or why there is none; while the cut plays, what is played. */
export function AtPlayhead({
  recording,
  timeline,
  playhead,
  playing,
}: {
  /** The uppermost picture there; null where nothing lies. */
  recording: CutRecording | null;
  timeline: ShownTimeline;
  playhead: number;
  playing: Playing;
}) {
  const use = recording?.uses.find(
    (u) => u.timeline === timeline.id && u.record.start <= playhead && playhead < u.record.end,
  );
  const frame = recording && use ? frameShown(use, playhead, timeline.rate, recording) : null;
  const isStill = recording?.kind === 'still';
  const shown = isStill ? 0 : (frame?.inFile ?? null);
  const isSeen = recording?.media && shown !== null;
  return (
    <figure className="w-[230px] text-[12px]" aria-label="at the playhead">
      <div className="relative grid aspect-video place-items-center overflow-hidden rounded-[2px] border border-base-300 bg-base-100">
        {playing.run ? (
          <Player
            key={playing.run.start}
            pieces={playing.run.pieces}
            from={playing.run.start}
            to={playing.run.end}
            rate={timeline.rate}
            onFrame={playing.onFrame}
            onEnd={playing.onEnd}
          />
        ) : isSeen ? (
          <img
            alt={`${recording.fileName} at the playhead`}
            className="h-full w-full object-contain"
            src={pictureUrl(recording.media!, shown, 460)}
          />
        ) : recording?.keptAt ? (
          <AsItWas recording={recording} takenAt={recording.keptAt} />
        ) : (
          <span className="px-3 text-center text-quiet">
            {recording
              ? `${recording.fileName}: ${statusWords[recording.status.status]}, no picture here`
              : 'Nothing lies under the playhead.'}
          </span>
        )}
      </div>
      <div className="float-right pt-1">
        <button type="button" className="btn btn-plain btn-xs" title={tipOf('play')} onClick={playing.toggle}>
          {playing.isOn ? 'Stop' : 'Play'}
        </button>
      </div>
      <ProblemNote error={playing.error} />
      {recording && (
        <figcaption className="mt-1 text-quiet">
          <span className="block truncate font-mono text-base-content">{recording.fileName}</span>
          {frame !== null && !isStill && (
            <>
              frame {group(frame.inFile + 1)}
              {recording.lengthInFile !== null && ` of ${group(recording.lengthInFile)}`}
              {recording.holds &&
                ` · ${timecode(recording.holds.start + frame.inEdit, recording.rate, recording.counting)}`}
            </>
          )}
        </figcaption>
      )}
      {markersAt(timeline.markers, playhead).map((marker, i) => (
        <p key={i} className="mt-1 border-l-2 border-base-content pl-1.5 [overflow-wrap:anywhere]">
          {markerText(marker)}
        </p>
      ))}
    </figure>
  );
}

/** What is dark now, as it looked at its first frame while it was linked. */
const AsItWas = ({ recording, takenAt }: { recording: CutRecording; takenAt: string }) => (
  <>
    <img
      alt={`${recording.fileName} as it was`}
      className="h-full w-full object-contain opacity-60"
      src={keptPictureUrl(recording.clipId, { takenAt })}
    />
    <span className="absolute inset-x-0 bottom-0 bg-base-100/85 px-2 py-0.5 text-center">
      {statusWords[recording.status.status]}; as it was
    </span>
  </>
);
