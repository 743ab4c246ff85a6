import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Facts } from '@legame/core/model';
import { readHeader, type HeaderReading } from '@legame/core/headers';
import { makeMedia } from '../../../demo/media.ts';
import { demoMedia } from '../../../demo/spec.ts';
import { useFence } from '../disk/held.ts';
import { walkPlace, type Walked } from '../disk/walk.ts';
import { makeFilm } from '../testing/media.ts';
import { askDecoder } from './decoder.ts';
import { withFile } from './openFile.ts';
import { pathInPlace } from './read.ts';

/** Two independent readers must say the same of every kind of file: the header reader here, and the prober. */
let folder: string;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'legame-headers-'));
  useFence([folder]);
  const kinds = new Map(
    demoMedia.map((m) => [`${m.kind} ${'codec' in m ? m.codec : ''} ${m.path.split('.').at(-1)}`, m]),
  );
  await makeMedia(join(folder, 'demo'), [...kinds.values()], () => undefined);
  mkdirSync(join(folder, 'more'));
  const film = ['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=30000/1001:d=1'];
  const tone = ['-f', 'lavfi', '-i', 'sine=sample_rate=48000:d=1'];
  const make = (name: string, ...args: string[]) =>
    execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...args, join(folder, 'more', name)]);
  const both = [...film, ...tone];
  make(
    'prores.mov',
    ...both,
    '-c:v',
    'prores_ks',
    '-profile:v',
    '2',
    '-c:a',
    'pcm_s24le',
    '-timecode',
    '10:00:00;00',
    '-metadata:s:v:0',
    'reel_name=P1',
  );
  make(
    'ten bits.mp4',
    ...both,
    '-c:v',
    'libx264',
    '-pix_fmt',
    'yuv422p10le',
    '-c:a',
    'aac',
    '-ac',
    '2',
    '-timecode',
    '01:00:00;02',
  );
  make('avc.mxf', ...both, '-c:v', 'libx264', '-c:a', 'pcm_s16le', '-timecode', '01:00:00;02');
  make(
    'vc3.mxf',
    ...film,
    ...tone,
    '-c:v',
    'dnxhd',
    '-b:v',
    '36M',
    '-s',
    '1920x1080',
    '-r',
    '25',
    '-pix_fmt',
    'yuv422p',
    '-c:a',
    'pcm_s16le',
    '-timecode',
    '01:00:00:02',
  );
  make(
    'mpeg2 with a reel.mxf',
    ...both,
    '-c:v',
    'mpeg2video',
    '-c:a',
    'pcm_s16le',
    '-timecode',
    '02:00:00;04',
    '-metadata:s:v:0',
    'reel_name=TAPE9',
  );
  make('without timecode.mxf', ...film, '-c:v', 'mpeg2video');
  make('hevc.mp4', ...both, '-c:v', 'libx265', '-x265-params', 'log-level=error', '-tag:v', 'hvc1', '-c:a', 'aac');
  make(
    '59.94.mov',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=320x180:r=60000/1001:d=1',
    '-c:v',
    'libx264',
    '-timecode',
    '01:00:00;15',
  );
  make(
    'reel in its tags.mp4',
    ...both,
    '-c:v',
    'libx264',
    '-pix_fmt',
    'yuv420p',
    '-c:a',
    'aac',
    '-movflags',
    '+faststart+use_metadata_tags',
    '-metadata',
    'reel_name=CAM1',
  );
  // Cut without being coded anew: pictures before the cut and after it stay in the file, and are not shown.
  make('long.mov', '-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=25:d=4', ...['-c:v', 'libx264', '-g', '24', '-bf', '2']);
  make('cut.mov', '-ss', '1.2', '-t', '2', '-i', join(folder, 'more/long.mov'), '-c', 'copy');
  make('fragments.mp4', ...both, '-c:v', 'libx264', '-movflags', '+frag_keyframe+empty_moov');
  make('24 bits.wav', ...tone, '-c:a', 'pcm_s24le', '-write_bext', '1', '-metadata', 'time_reference=172800000');
  make('float.wav', ...tone, '-c:a', 'pcm_f32le');
  make('long.wav', ...tone, '-c:a', 'pcm_s16le', '-rf64', 'always');
  make('a.aiff', ...tone, '-c:a', 'pcm_s16be');
  make('a.mkv', ...both, '-c:v', 'ffv1', '-c:a', 'flac');
}, 180_000);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

test('the header reader and the prober agree on every kind of file', async () => {
  const files: Walked[] = [];
  await walkPlace({ path: folder }, { onFiles: (found) => files.push(...found) });
  const told: Record<string, string> = {};
  const differ: unknown[] = [];
  for (const file of files) {
    const path = pathInPlace(file);
    let header: HeaderReading | null = null;
    withFile({ root: folder, path }, ({ source }) => (header = readHeader(source)));
    const read = header as HeaderReading | null;
    told[file.name] = read?.kind ?? 'nothing';
    if (read?.kind !== 'facts') continue;
    const decoded = await askDecoder({ path: folder }, path);
    if (decoded === 'aborted' || !decoded.facts) throw new Error(`the prober did not read ${path}`);
    differ.push(...differences(file.name, read.facts, decoded.facts));
  }
  expect(differ).toEqual([]);
  // What the fast way leaves to the prober, and nothing else.
  const passed = Object.entries(told).filter(([, kind]) => kind !== 'facts');
  expect(new Set(passed.map(([, kind]) => kind))).toEqual(new Set(['pass']));
  expect(passed.map(([name]) => name.split('.').at(-1)).sort()).toEqual(['aiff', 'mkv', 'mp4']);
}, 120_000);

function differences(name: string, header: Facts, decoded: Facts): unknown[] {
  return (
    (Object.keys(header) as (keyof Facts)[])
      .filter((key) => key !== 'readBy')
      // The chroma of some codecs stands in their frames, which a header reader does not open.
      .filter((key) => !(key === 'chroma' && header.chroma === null))
      .filter((key) => JSON.stringify(header[key]) !== JSON.stringify(decoded[key]))
      .map((key) => ({ name, key, header: header[key], decoded: decoded[key] }))
  );
}

test('of a film that was cut without being coded anew, as many frames are told as are shown', () => {
  let read: HeaderReading | null = null;
  withFile({ root: folder, path: 'more/cut.mov' }, ({ source }) => (read = readHeader(source)));
  const shown = execFileSync('ffmpeg', [
    ...['-v', 'error', '-i', join(folder, 'more/cut.mov'), '-map', '0:v', '-fps_mode', 'passthrough'],
    ...['-f', 'framemd5', '-'],
  ]);
  const frames = shown.toString().match(/^0,/gm)!.length;
  expect((read as HeaderReading | null)?.kind).toBe('facts');
  expect(read).toMatchObject({ facts: { length: frames } });
  expect(frames).toBe(52);
});

test('frames that take no time are left to the prober: no rate is made of them', () => {
  const bytes = Buffer.from(readFileSync(join(folder, 'more/59.94.mov')));
  const tables = [...bytes.toString('latin1').matchAll(/stts/g)];
  expect(tables.length).toBeGreaterThan(0);
  // Its version, how many entries it has, and of the first one how many samples it is about.
  for (const { index } of tables) bytes.writeUInt32BE(0, index + 4 + 4 + 4 + 4);
  const source = { size: bytes.length, read: (at: number, length: number) => bytes.subarray(at, at + length) };
  expect(readHeader(source).kind).toBe('pass');
});

test('a start that no file could have is none, and a length that is not stated is left to the prober', () => {
  const path = join(folder, 'clock.mxf');
  makeFilm(path, { frames: 30, codec: 'mpeg2video', timecode: '01:00:00:00' });
  const whole = readFileSync(path);
  const read = (tag: string, units: bigint) => {
    const bytes = Buffer.from(whole);
    const pattern = Buffer.from(`${tag}0008`, 'hex').toString('latin1');
    const text = bytes.toString('latin1');
    let found = 0;
    for (let at = text.indexOf(pattern); at >= 0; at = text.indexOf(pattern, at + 1), found += 1)
      bytes.writeBigInt64BE(units, at + 4);
    expect(found).toBeGreaterThan(0);
    return readHeader({ size: bytes.length, read: (at, length) => bytes.subarray(at, at + length) });
  };
  expect(read('1501', 90_000n)).toMatchObject({ kind: 'facts', facts: { start: 90_000, timecodeSource: 'timecode' } });
  expect(read('1501', 2n ** 56n)).toMatchObject({ kind: 'facts', facts: { start: 0, timecodeSource: 'none' } });
  expect(read('0202', -1n).kind).toBe('pass');
  rmSync(path);
});

test('a 59.94 file whose timecode counts at 29.97 has two frames to a number', () => {
  const path = join(folder, 'more/59.94.mov');
  const startOf = () => {
    let read: HeaderReading | null = null;
    withFile({ root: folder, path: 'more/59.94.mov' }, ({ source }) => (read = readHeader(source)));
    const header = read as HeaderReading | null;
    return header?.kind === 'facts' ? header.facts.start : null;
  };
  // 01:00:00;15 at 59.94.
  expect(startOf()).toBe(215_784 + 15);
  const bytes = Buffer.from(readFileSync(path));
  const entry = [...bytes.toString('latin1').matchAll(/stsd.{12}tmcd/gs)].at(-1)!.index + 16;
  // The description says 60 numbers a second; as cameras write it, it would be 30.
  expect(bytes[entry + 28]).toBe(60);
  bytes[entry + 28] = 30;
  writeFileSync(path, bytes);
  expect(startOf()).toBe((215_784 + 15) * 2);
});
