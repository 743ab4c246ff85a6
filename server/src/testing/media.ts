import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';

/** Makes a small real film: 64 × 36, MJPEG if nothing else is said, with timecode and reel. `shows`: instead of one colour. */
export function makeFilm(
  path: string,
  { frames = 50, timecode = '01:00:00:00', reel = 'A001', colour = 'red', rate = 25, codec = 'mjpeg', shows = '' } = {},
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
    shows || `color=c=${colour}:s=64x36:r=${rate}`,
    '-c:v',
    codec,
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
