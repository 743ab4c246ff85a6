import { Film, Play } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import type { ClipDetail, KeptPicture, WeighedFile } from '@legame/core/contract';
import { pictureUrl, previewUrl } from '../../api/legame.ts';
import { timecode } from '@legame/words/numbers';
import { AsItWas } from './KeptPicture.tsx';

const framesInStrip = 6;
const longestPreview = 500;

/**
 * The found file as it looks or sounds: its picture (or wave) at the first frame that the edit uses, a strip of frames
 * over what is used, a short piece that plays. Made when asked for.
 */
export function Found({
  clip,
  weighed,
  kept,
}: {
  clip: ClipDetail;
  weighed: WeighedFile;
  /** How the clip looked while it was linked, where that is to be seen beside it. */
  kept: KeptPicture | null;
}) {
  const { file, holds } = weighed;
  const [failed, setFailed] = useState<string | null>(null);
  const [mode, setMode] = useState<'still' | 'strip' | 'play'>('still');
  const firstUsed = clip.used[0]?.start ?? clip.available?.start ?? holds?.start ?? 0;
  const lastUsed = clip.used.at(-1)?.end ?? firstUsed;
  const isUsed = holds !== null && firstUsed >= holds.start && firstUsed < holds.end;
  const from = holds && isUsed ? firstUsed - holds.start : 0;
  const length = Math.max(1, isUsed ? Math.min(lastUsed, holds.end) - firstUsed : holds ? holds.end - holds.start : 1);
  const source = pictureUrl(file, from);
  const canShow = file.facts !== null && file.placeThere && !file.quarantined && failed !== source;
  const plays = canShow && (file.facts?.kind === 'picture' || file.facts?.kind === 'sound');
  const moves = canShow && (file.facts?.kind === 'picture' || file.facts?.kind === 'sequence');
  const at = holds && file.facts?.kind === 'picture' ? timecode(holds.start + from, clip.rate, clip.counting) : null;
  const where = [file.placeName, file.folder].filter(Boolean).join('/');
  const isBesideKept = kept !== null && mode === 'still';
  const found = (
    <figure className="min-w-0" aria-label="found">
      <div
        className={`flex ${isBesideKept ? 'h-28' : 'h-36'} items-center justify-center overflow-hidden rounded-[3px] bg-base-300`}
      >
        {!canShow ? (
          <span className="px-6 text-center text-quiet">{whyNoPicture(file)}</span>
        ) : mode === 'play' ? (
          <video
            key={file.version}
            src={previewUrl(file, from, Math.min(length, longestPreview))}
            poster={source}
            controls
            autoPlay
            className="h-full w-full object-contain"
            aria-label={`preview of ${file.name}`}
          />
        ) : (
          <img
            src={source}
            alt={`${file.name}${at ? ` at ${at}` : ''}`}
            className="h-full w-full object-contain"
            onError={() => setFailed(source)}
          />
        )}
      </div>
      {mode === 'strip' && moves && (
        <div className="mt-1 grid grid-cols-6 gap-0.5" aria-label="strip of frames">
          {Array.from({ length: framesInStrip }, (_, i) => {
            const frame = from + Math.floor(((length - 1) * i) / (framesInStrip - 1));
            const shown = holds ? timecode(holds.start + frame, clip.rate, clip.counting) : String(frame);
            return (
              <img
                key={i}
                src={pictureUrl(file, frame, 160)}
                alt={shown}
                title={shown}
                className="w-full rounded-[2px]"
              />
            );
          })}
        </div>
      )}
      <figcaption className="mt-1 flex items-center justify-between gap-2 text-[12px] text-quiet">
        {/* Beside how it was there is no room for it; the evidence has it. */}
        {!isBesideKept && (
          <span className="min-w-0 truncate font-mono" title={`${where}/${file.name}`}>
            {where}
          </span>
        )}
        <span className={`flex items-center gap-1.5 ${isBesideKept ? 'flex-wrap' : 'shrink-0'}`}>
          {at && (
            <span className="font-mono">
              {isUsed && clip.used.length > 0 ? 'first used' : 'its first frame'} {at}
            </span>
          )}
          {moves && (
            <ModeButton
              name="strip"
              title="A strip of frames over what is used"
              isOn={mode === 'strip'}
              onSwitch={(isOn) => setMode(isOn ? 'strip' : 'still')}
            >
              <Film size={12} aria-hidden />
            </ModeButton>
          )}
          {plays && (
            <ModeButton
              name="play"
              title="Play what is used, 20 seconds at most"
              isOn={mode === 'play'}
              onSwitch={(isOn) => setMode(isOn ? 'play' : 'still')}
            >
              <Play size={12} aria-hidden />
            </ModeButton>
          )}
        </span>
      </figcaption>
    </figure>
  );
  return isBesideKept ? (
    <div className="mt-3 grid grid-cols-2 gap-2">
      <AsItWas key={kept.takenAt} clip={clip} kept={kept} />
      {found}
    </div>
  ) : (
    <div className="mt-3">{found}</div>
  );
}

function ModeButton({
  name,
  title,
  isOn,
  onSwitch,
  children,
}: {
  name: string;
  title: string;
  isOn: boolean;
  onSwitch: (isOn: boolean) => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className="btn btn-plain btn-xs px-1.5"
      aria-pressed={isOn}
      aria-label={name}
      title={title}
      onClick={() => onSwitch(!isOn)}
    >
      {children}
    </button>
  );
}

function whyNoPicture(file: WeighedFile['file']): string {
  if (!file.placeThere) return `${file.placeName} is not there`;
  if (file.quarantined) return 'set apart: it hung or failed a decoder, and is not opened until it is read again';
  return file.facts ? 'no picture could be made of it' : 'no picture: the file has not been read';
}
