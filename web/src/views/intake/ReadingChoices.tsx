import type { Choices, Reading } from '@legame/core/formats';
import { formatRate } from '@legame/core/time';
import { groupingWords, proposalWords } from '@legame/words/remarks';
import { count } from '@legame/words/numbers';

const valueOf = (rate: { num: number; den: number }) => `${rate.num}/${rate.den}`;

/** What a person decides about how a document is read: each with what the answers would mean. */
export function ReadingChoices({
  name,
  choices,
  reading,
  onDecide,
}: {
  name: string;
  choices: Choices;
  reading: Reading;
  onDecide: (part: Reading) => void;
}) {
  const { rates, clipsBy, referenceKeys, outPoints } = choices;
  const rate = reading.rate;
  const isProposed = rates.some((r) => rate && valueOf(r.rate) === valueOf(rate));
  if (rates.length + clipsBy.length + referenceKeys.length + outPoints.length === 0) return null;
  return (
    <div className="flex flex-wrap items-end gap-3">
      {rates.length > 0 && (
        <label className="flex flex-col gap-0.5">
          <span className="text-quiet">Frame rate</span>
          <select
            className="select select-sm w-80"
            aria-label={`frame rate of ${name}`}
            value={rate ? valueOf(rate) : ''}
            onChange={(e) => {
              const chosen = rates.find((r) => valueOf(r.rate) === e.target.value);
              if (chosen) onDecide({ rate: chosen.rate });
            }}
          >
            {rate && !isProposed && <option value={valueOf(rate)}>{formatRate(rate)}</option>}
            {!rate && <option value="">choose…</option>}
            {rates.map((proposal) => (
              <option key={valueOf(proposal.rate)} value={valueOf(proposal.rate)}>
                {proposalWords(proposal)}
              </option>
            ))}
          </select>
        </label>
      )}
      {clipsBy.length > 0 && (
        <label className="flex flex-col gap-0.5">
          <span className="text-quiet">Events are one clip by</span>
          <select
            className="select select-sm w-56"
            aria-label={`clips of ${name} by`}
            value={reading.clipsBy ?? 'reel-and-name'}
            onChange={(e) => {
              const chosen = clipsBy.find((c) => c.grouping === e.target.value);
              if (chosen) onDecide({ clipsBy: chosen.grouping });
            }}
          >
            {clipsBy.map(({ grouping, clips }) => (
              <option key={grouping} value={grouping}>
                {groupingWords[grouping]} – {count(clips, 'clip')}
              </option>
            ))}
          </select>
        </label>
      )}
      {outPoints.length > 0 && (
        <label className="flex flex-col gap-0.5">
          <span className="text-quiet">Out points of the log name</span>
          <select
            className="select select-sm w-72"
            aria-label={`out points of ${name}`}
            value={String(reading.outIsLastFrame ?? outPoints[0]!.isLastFrame)}
            onChange={(e) => onDecide({ outIsLastFrame: e.target.value === 'true' })}
          >
            {[...outPoints]
              .sort((a, b) => Number(a.isLastFrame) - Number(b.isLastFrame))
              .map(({ isLastFrame, agree, of }) => (
                <option key={String(isLastFrame)} value={String(isLastFrame)}>
                  {isLastFrame ? 'the last frame' : 'the frame after the last'}
                  {of > 0 && ` – ${agree} of ${count(of, 'duration')} say so`}
                </option>
              ))}
          </select>
        </label>
      )}
      {referenceKeys.length > 0 && (
        <label className="flex flex-col gap-0.5">
          <span className="text-quiet">Media reference to relink</span>
          <select
            className="select select-sm w-64"
            aria-label={`media reference of ${name}`}
            value={reading.referenceKey ?? ''}
            onChange={(e) => onDecide({ referenceKey: e.target.value || undefined })}
          >
            <option value="">each clip’s active one</option>
            {referenceKeys.map(({ key, clips }) => (
              <option key={key} value={key}>
                {key} – of {count(clips, 'clip')}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
}
