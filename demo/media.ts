import { execFile } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { promisify } from 'node:util';
import { formatTimecode } from '../core/src/time/timecode.ts';
import { picturesOf } from './looks.ts';
import type { DemoMedia, DemoPicture, DemoSequence, DemoSound, DemoStill } from './spec.ts';

const run = promisify(execFile);
const font = '/usr/share/fonts/truetype/dejavu/DejaVuSansMono.ttf';

/** Makes what is absent of the demo's media under `bay`, two files at a time. Each is made aside and moved into place whole. */
export async function makeMedia(
  bay: string,
  media: readonly DemoMedia[],
  report: (made: number, of: number) => void,
): Promise<void> {
  const absent = media.filter(
    (m) => !existsSync(join(bay, m.kind === 'sequence' ? sequenceFrame(m, m.frames - 1) : m.path)),
  );
  const queue = [...absent];
  let made = 0;
  const work = async () => {
    for (let item = queue.shift(); item; item = queue.shift()) {
      await make(bay, item);
      made += 1;
      report(made, absent.length);
    }
  };
  await Promise.all([work(), work()]);
}

async function make(bay: string, item: DemoMedia): Promise<void> {
  const target = join(bay, item.path);
  await mkdir(dirname(target), { recursive: true });
  const aside = join(dirname(target), `.making-${basename(target).replaceAll('#', '')}`);
  switch (item.kind) {
    case 'picture':
      await ffmpeg([...picture(item), aside]);
      break;
    case 'sound':
      await ffmpeg([...sound(item), aside]);
      break;
    case 'still':
      await ffmpeg([...still(item), aside]);
      break;
    case 'sequence':
      await ffmpeg([
        ...sequence(item),
        '-start_number',
        String(item.first),
        join(bay, item.path.replace('####', '%04d')),
      ]);
      return;
    default:
      return item satisfies never;
  }
  await rename(aside, target);
}

async function ffmpeg(args: readonly string[]): Promise<void> {
  try {
    await run('ffmpeg', ['-hide_banner', '-v', 'error', '-nostdin', '-threads', '1', '-y', ...args]);
  } catch (error) {
    await rm(args.at(-1)!, { force: true });
    throw error;
  }
}

const escaped = (text: string) => text.replaceAll('\\', '\\\\').replaceAll(':', '\\:').replaceAll("'", '');
const text = (what: string, y: string, size: number) =>
  `drawtext=fontfile=${font}:fontcolor=white:fontsize=${size}:x=40:y=${y}:${what}`;
/** Readable before whatever lies behind. */
const label = (what: string, y: string, size: number) => `${text(what, y, size)}:box=1:boxcolor=black@0.5:boxborderw=8`;

function picture(item: DemoPicture): string[] {
  const fps = `${item.rate.num}/${item.rate.den}`;
  const seconds = item.frames / (item.rate.num / item.rate.den);
  const start = formatTimecode(item.start ?? 0, item.rate, item.drop ? 'drop' : 'non-drop');
  const burned = `timecode='${start.replaceAll(':', '\\:').replaceAll(';', '\\;')}':rate=${fps}`;
  const filters = [
    label(`text='${escaped(basename(item.path))}'`, 'h-150', 34),
    label(`text='${escaped(item.reel ?? 'no reel')}'`, '40', 30),
    label(burned, 'h-90', 46),
  ];
  const video = {
    h264: ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '30', '-g', '50', '-pix_fmt', 'yuv420p'],
    mpeg2: ['-c:v', 'mpeg2video', '-q:v', '12', '-g', '12', '-pix_fmt', 'yuv420p'],
    mjpeg: ['-c:v', 'mjpeg', '-q:v', '10', '-pix_fmt', 'yuvj420p'],
  }[item.codec];
  const isMxf = item.path.endsWith('.mxf');
  return [
    '-f',
    'lavfi',
    '-i',
    picturesOf(item.look, basename(item.path), item.raster, fps),
    '-f',
    'lavfi',
    '-i',
    `sine=frequency=${200 + (item.frames % 300)}:sample_rate=48000`,
    '-vf',
    filters.join(','),
    ...video,
    '-c:a',
    isMxf ? 'pcm_s16le' : item.path.endsWith('.mp4') ? 'aac' : 'pcm_s16le',
    ...(item.start === null ? [] : ['-timecode', start]),
    ...(item.reel ? ['-metadata', `reel_name=${item.reel}`, '-metadata:s:v:0', `reel_name=${item.reel}`] : []),
    ...(item.path.endsWith('.mp4') ? ['-movflags', 'use_metadata_tags'] : []),
    '-t',
    seconds.toFixed(6),
    '-f',
    isMxf ? 'mxf' : item.path.endsWith('.mp4') ? 'mp4' : 'mov',
  ];
}

function sound(item: DemoSound): string[] {
  const reference =
    item.startSeconds === null
      ? []
      : [
          '-write_bext',
          '1',
          '-metadata',
          `time_reference=${item.startSeconds * 48_000}`,
          '-metadata',
          `description=${item.reel ?? ''}`,
        ];
  return [
    '-f',
    'lavfi',
    '-i',
    // It swells and fades, so that its wave has a shape.
    `sine=frequency=${item.hertz}:sample_rate=48000:duration=${item.seconds},tremolo=f=${0.2 + (item.hertz % 7) / 10}:d=0.85,volume=5`,
    '-ac',
    '2',
    '-c:a',
    'pcm_s16le',
    ...reference,
    '-f',
    'wav',
  ];
}

function still(item: DemoStill): string[] {
  return [
    '-f',
    'lavfi',
    '-i',
    picturesOf(item.look, basename(item.path), item.raster, '25'),
    '-vf',
    text(`text='${escaped(basename(item.path))}':fontcolor=black`, 'h/2', 40),
    '-frames:v',
    '1',
    '-update',
    '1',
    '-f',
    'image2',
  ];
}

function sequence(item: DemoSequence): string[] {
  return [
    '-f',
    'lavfi',
    '-i',
    picturesOf(item.look, 'titles', { width: 640, height: 360 }, '25'),
    '-vf',
    [text("text='SALTGLASS'", 'h/2', 60), text(`text='%{eif\\:n+${item.first}\\:d}'`, 'h-50', 24)].join(','),
    '-frames:v',
    String(item.frames),
  ];
}

const sequenceFrame = (item: DemoSequence, n: number): string =>
  item.path.replace('####', String(item.first + n).padStart(item.padding, '0'));
