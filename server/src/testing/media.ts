import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';

/** Makes a small real film: 64 × 36, MJPEG, with timecode and reel. */
export function makeFilm(
  path: string,
  { frames = 50, timecode = '01:00:00:00', reel = 'A001', colour = 'red', rate = 25 } = {},
): void {
  mkdirSync(dirname(path), { recursive: true });
  const metadata = ['-metadata:s:v:0', `reel_name=${reel}`, '-timecode', timecode];
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-nostdin',
    '-y',
    '-f',
    'lavfi',
    '-i',
    `color=c=${colour}:s=64x36:r=${rate}`,
    '-c:v',
    'mjpeg',
    ...metadata,
    '-t',
    String(frames / rate),
    path,
  ]);
}

/** Makes a wave file that starts so many seconds after midnight. */
export function makeSound(path: string, { seconds = 2, startSeconds = 3600 } = {}): void {
  mkdirSync(dirname(path), { recursive: true });
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-nostdin',
    '-y',
    '-f',
    'lavfi',
    '-i',
    `sine=frequency=330:sample_rate=48000:duration=${seconds}`,
    '-write_bext',
    '1',
    '-metadata',
    `time_reference=${startSeconds * 48_000}`,
    path,
  ]);
}

/** An EDL of single cuts at 25 fps. */
export function makeList(
  events: readonly { reel: string; from: string; to: string; name: string; file: string }[],
): string {
  const lines = events.flatMap((e, i) => [
    `${String(i + 1).padStart(3, '0')}  ${e.reel} V C ${e.from} ${e.to} 10:00:${String(i).padStart(2, '0')}:00 10:00:${String(i + 1).padStart(2, '0')}:00`,
    `* FROM CLIP NAME: ${e.name}`,
    `* SOURCE FILE: ${e.file}`,
  ]);
  return ['TITLE: TEST', ...lines, ''].join('\n');
}
