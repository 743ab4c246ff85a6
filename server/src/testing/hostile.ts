import { execFileSync } from 'node:child_process';
import {
  appendFileSync,
  closeSync,
  ftruncateSync,
  mkdirSync,
  openSync,
  readFileSync,
  symlinkSync,
  truncateSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { deflateSync } from 'node:zlib';

/** What must be said of a file that was made to fool, hang or crash a reader: a reason, or facts with their doubts. */
export type Expected = { readonly unreadable: string } | { readonly doubts: readonly string[] };

const longAgo = new Date('2026-03-02T10:00:00Z');
const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...args]);
const picture = ['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=2'];
const sound = ['-f', 'lavfi', '-i', 'sine=sample_rate=48000:d=2'];

/**
 * Makes a folder of files that lie, and says what must be said of each. `canary` is a pipe outside the folder: whoever
 * opens it hangs, so that opening it shows.
 */
export function makeHostile(folder: string, canary: string): Map<string, Expected> {
  mkdirSync(folder, { recursive: true });
  const expected = new Map<string, Expected>();
  const at = (name: string) => join(folder, name);
  const no = (name: string, unreadable: string, content?: string | Uint8Array) => {
    if (content !== undefined) writeFileSync(at(name), content);
    expected.set(name, { unreadable });
  };
  const yes = (name: string, ...doubts: string[]) => expected.set(name, { doubts });

  // Not media at all, whatever they are called.
  no('empty.mov', 'file-empty', '');
  no('words.mov', 'not-media', 'the kiln was lit at dawn, and nobody filmed it. '.repeat(40));
  no('page.mp4', 'not-media', '<!doctype html><title>kiln</title>');
  no('archive.mov', 'not-media', Buffer.concat([Buffer.from('PK\u0003\u0004'), Buffer.alloc(900, 7)]));
  no('packed.wav', 'not-media', Buffer.concat([Buffer.from([0x1f, 0x8b, 8, 0]), Buffer.alloc(900, 9)]));
  no('paper.mxf', 'not-media', '%PDF-1.7\n%âãÏÓ\n1 0 obj');
  no(
    'program.mov',
    'not-media',
    Buffer.concat([Buffer.from([0x7f, 0x45, 0x4c, 0x46, 2, 1, 1, 0]), Buffer.alloc(400, 1)]),
  );
  no('subtitles.mov', 'not-media', '1\n00:00:01,000 --> 00:00:02,000\nsalt\n');
  no('noise.mov', 'not-media', noise(20_000));
  no('noise.mxf', 'not-media', noise(20_000));
  no('zeros.mov', 'not-media', Buffer.alloc(50_000));
  no('four gigabytes of zeros.mp3', 'not-media');
  sparse(at('four gigabytes of zeros.mp3'), 4 * 2 ** 30);

  // Playlists and references that would make a decoder open something else.
  no('list.mov', 'not-media', `ffconcat version 1.0\nfile '${canary}'\n`);
  no('stream.mov', 'not-media', `#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile://${canary}\n#EXT-X-ENDLIST\n`);
  no('stream.xml.mp4', 'not-media', `<?xml version="1.0"?><MPD><BaseURL>file://${canary}</BaseURL></MPD>`);

  // Cut off.
  ffmpeg(
    ...picture,
    ...sound,
    '-c:v',
    'mjpeg',
    '-c:a',
    'pcm_s16le',
    '-movflags',
    '+faststart',
    at('cut index first.mov'),
  );
  cut(at('cut index first.mov'), 0.6);
  no('cut index first.mov', 'truncated');
  ffmpeg(...picture, '-c:v', 'mjpeg', at('cut index last.mov'));
  cut(at('cut index last.mov'), 0.6);
  no('cut index last.mov', 'header-broken');
  ffmpeg(...picture, '-c:v', 'mjpeg', '-movflags', '+faststart', at('cut in its index.mov'));
  cut(at('cut in its index.mov'), 0.004);
  no('cut in its index.mov', 'header-broken');
  ffmpeg(...picture, ...sound, '-c:v', 'mpeg2video', '-c:a', 'pcm_s16le', at('cut.mxf'));
  cut(at('cut.mxf'), 0.6);
  no('cut.mxf', 'truncated');
  ffmpeg(...sound, '-c:a', 'pcm_s16le', at('cut.wav'));
  cut(at('cut.wav'), 0.5);
  no('cut.wav', 'truncated');
  ffmpeg(...sound, '-c:a', 'pcm_s16be', at('cut.aiff'));
  cut(at('cut.aiff'), 0.5);
  no('cut.aiff', 'truncated');
  ffmpeg(...picture, '-c:v', 'ffv1', at('cut.mkv'));
  cut(at('cut.mkv'), 0.5);
  no('cut.mkv', 'truncated');
  ffmpeg(...picture, '-c:v', 'mjpeg', at('cut.avi'));
  cut(at('cut.avi'), 0.5);
  no('cut.avi', 'truncated');
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=160x90', '-frames:v', '1', at('cut.png'));
  cut(at('cut.png'), 0.5);
  no('cut.png', 'truncated');

  // Headers that lie.
  const film = at('good.mov');
  ffmpeg(...picture, '-c:v', 'mjpeg', '-timecode', '01:00:00:00', film);
  yes('good.mov');
  const patched = (name: string, patch: (bytes: Buffer) => void) => {
    const bytes = Buffer.from(readFileSync(film));
    patch(bytes);
    writeFileSync(at(name), bytes);
  };
  patched('forged count of samples.mov', (b) => b.writeUInt32BE(268_435_455, b.indexOf('stsz') + 12));
  no('forged count of samples.mov', 'header-broken');
  patched('forged size of samples.mov', (b) => {
    b.writeUInt32BE(1_000_000, b.indexOf('stsz') + 8);
    b.writeUInt32BE(268_435_455, b.indexOf('stsz') + 12);
  });
  no('forged size of samples.mov', 'truncated');
  patched('media elsewhere.mov', (b) => b.writeUInt32BE(0, b.indexOf('dref') + 20));
  no('media elsewhere.mov', 'refers-elsewhere');
  patched('a box larger than all.mov', (b) => b.writeUInt32BE(0x7fffffff, b.indexOf('mdia') - 4));
  // A decoder gets over that, and what it says counts.
  yes('a box larger than all.mov');
  no('a box of an exabyte.mov', 'header-broken', Buffer.concat([box64('moov', 2n ** 60n), Buffer.alloc(100)]));
  no('boxes without end.mov', 'header-broken', nested(4000));
  no('sound of no channels.wav', 'decoder-gave-up', wave({ channels: 0, data: 4000, stated: 4000 }));
  writeFileSync(at('never closed.wav'), wave({ channels: 2, data: 4000, stated: 0xffffffff }));
  yes('never closed.wav', 'timecode-missing', 'length-estimated');
  no('a picture of four gigabytes.png', 'too-large-to-decode', hugePng(30_000));

  // Names that say one thing of a content that is another.
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=160x90', '-frames:v', '1', '-f', 'image2', '-c:v', 'png', at('still.mov'));
  no('still.mov', 'name-misleads');
  ffmpeg(...picture, '-c:v', 'mjpeg', '-f', 'mov', at('film.wav'));
  no('film.wav', 'name-misleads');
  ffmpeg(...sound, '-f', 'wav', at('sound.mov'));
  no('sound.mov', 'name-misleads');
  ffmpeg(...picture, '-c:v', 'ffv1', '-f', 'matroska', at('other container.mov'));
  yes('other container.mov', 'timecode-missing', 'length-estimated', 'name-misleads');

  // Names that a careless program takes for an option, a protocol, a pattern.
  for (const name of ['-v.mov', 'x:y.mov', 'concat:a|b.mov', 'new\nline.mov', 'quo\'te".mov', 'a%04d.mov']) {
    writeFileSync(at(name), readFileSync(film));
    yes(name);
  }

  for (const name of expected.keys()) utimesSync(at(name), longAgo, longAgo);
  ffmpeg(...picture, '-c:v', 'mjpeg', '-movflags', '+faststart', at('still being written.mov'));
  cut(at('still being written.mov'), 0.7);
  no('still being written.mov', 'growing');

  // These are no files, and no walk may take them for any.
  symlinkSync(folder, at('loop'));
  symlinkSync(canary, at('way out.mov'));
  execFileSync('mkfifo', [at('pipe.mov')]);
  return expected;
}

/** Overwrites a stretch in the middle of a file, as a failing drive does. */
export function damage(path: string, share: number, bytes = 400): void {
  const content = Buffer.from(readFileSync(path));
  noise(bytes).copy(content, Math.floor(content.length * share));
  writeFileSync(path, content);
}

export function cut(path: string, share: number): void {
  truncateSync(path, Math.max(64, Math.floor(readFileSync(path).length * share)));
}

/** Bytes that look random and are the same every time. */
function noise(length: number): Buffer {
  const bytes = Buffer.alloc(length);
  let state = 12_345;
  for (let i = 0; i < length; i += 1) {
    state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0;
    bytes[i] = (state >>> 16) | 0x80;
  }
  return bytes;
}

function sparse(path: string, size: number): void {
  const file = openSync(path, 'w');
  ftruncateSync(file, size);
  closeSync(file);
}

function box64(type: string, size: bigint): Buffer {
  const head = Buffer.alloc(16);
  head.writeUInt32BE(1, 0);
  head.write(type, 4, 'latin1');
  head.writeBigUInt64BE(size, 8);
  return head;
}

/** "moov" in "trak" in "trak"…, so many levels deep. */
function nested(levels: number): Buffer {
  const parts: Buffer[] = [];
  for (let level = 0; level < levels; level += 1) {
    const head = Buffer.alloc(8);
    head.writeUInt32BE((levels - level) * 8, 0);
    head.write(level === 0 ? 'moov' : 'trak', 4, 'latin1');
    parts.push(head);
  }
  return Buffer.concat(parts);
}

function wave({ channels, data, stated }: { channels: number; data: number; stated: number }): Buffer {
  const head = Buffer.alloc(44);
  head.write('RIFF', 0, 'latin1');
  head.writeUInt32LE(36 + data, 4);
  head.write('WAVEfmt ', 8, 'latin1');
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(channels, 22);
  head.writeUInt32LE(48_000, 24);
  head.writeUInt32LE(48_000 * channels * 2, 28);
  head.writeUInt16LE(channels * 2, 32);
  head.writeUInt16LE(16, 34);
  head.write('data', 36, 'latin1');
  head.writeUInt32LE(stated, 40);
  return Buffer.concat([head, Buffer.alloc(data, 1)]);
}

/** A PNG of a few kilobytes that unpacks to side × side grey pixels. */
function hugePng(side: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const length = Buffer.alloc(4);
    length.writeUInt32BE(data.length);
    return Buffer.concat([length, Buffer.from(type, 'latin1'), data, Buffer.alloc(4)]);
  };
  const header = Buffer.alloc(13);
  header.writeUInt32BE(side, 0);
  header.writeUInt32BE(side, 4);
  header[8] = 8;
  const pixels = deflateSync(Buffer.alloc(1_000_000));
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  return Buffer.concat([signature, chunk('IHDR', header), chunk('IDAT', pixels), chunk('IEND', Buffer.alloc(0))]);
}

/** A pipe that nobody writes to. */
export function makeCanary(path: string): void {
  mkdirSync(dirname(path), { recursive: true });
  execFileSync('mkfifo', [path]);
}

/** Lets a file grow by so many bytes, as one that is being written does. */
export const grow = (path: string, bytes: number): void => appendFileSync(path, Buffer.alloc(bytes, 3));
