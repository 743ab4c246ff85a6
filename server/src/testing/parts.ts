import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Coded, Cutting } from '@legame/core/consolidate';
import { readHeader } from '@legame/core/headers';
import type { Facts } from '@legame/core/model';
import { useFence } from '../disk/held.ts';
import { FencedFolder } from '../disk/writing.ts';
import type { NextPart } from '../media/ahead.ts';
import type { Copied } from '../media/copying.ts';
import { cuttingOf } from '../media/cutting.ts';
import { askDecoder } from '../media/decoder.ts';
import { readerOf } from '../media/openFile.ts';
import { readStreams } from '../media/packets.ts';
import type { Streams } from '../media/trim.ts';
import { trimAside } from '../media/trimming.ts';

export const ffmpeg = (...args: string[]) =>
  execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', '-threads', '1', ...args], { maxBuffer: 1e9 });

export type HowMade = { rate: string; start: string; picture: string; sound: string; seconds?: number; more?: string };

type Made = Copied & { readonly name: string };

const day = 24 * 3600;
/** Timecode begins again at midnight. */
export const startOf = ({ kind, start, rate, sampleRate }: Facts, at: number) =>
  (start + at) % (day * (kind === 'sound' ? sampleRate! : Math.ceil(rate!.num / rate!.den)));

/** A folder of films and sound, and parts that are made of them with all that the product itself proves. */
export class Cuttings {
  readonly folder = mkdtempSync(join(tmpdir(), 'legame-trim-'));
  #made = 0;

  constructor() {
    mkdirSync(join(this.folder, 'out'));
    useFence([this.folder]);
  }

  remove(): void {
    rmSync(this.folder, { recursive: true, force: true });
  }

  path = (name: string): string => join(this.folder, name);

  make(name: string, { rate, start, picture, sound, seconds = 5, more = '' }: HowMade): string {
    ffmpeg(
      ...['-f', 'lavfi', '-i', `testsrc2=s=256x144:r=${rate}:d=${seconds}`],
      ...['-f', 'lavfi', '-i', `aevalsrc=random(0)*0.3:s=48000:d=${seconds}`],
      ...['-map', '0:v', '-map', '1:a', ...picture.split(' '), ...sound.split(' ')],
      ...['-timecode', start, '-metadata', 'reel_name=A007', '-metadata:s:v:0', 'reel_name=A007'],
      ...(name.endsWith('.mp4') ? ['-movflags', 'use_metadata_tags'] : []),
      ...more.split(' ').filter(Boolean),
      this.path(name),
    );
    return name;
  }

  async #opened<T>(name: string, use: (file: FileHandle) => Promise<T>): Promise<T> {
    const file = await open(this.path(name));
    try {
      return await use(file);
    } finally {
      await file.close();
    }
  }

  streamsOf = (name: string): Promise<Streams> => this.#opened(name, async (file) => (await readStreams(file))!);

  cutsOf = (name: string, facts: Facts): Promise<Cutting> =>
    this.#opened(name, async (file) => (await cuttingOf(file, { facts, extension: name.split('.').at(-1)! })).cutting);

  async factsOf(name: string): Promise<Facts> {
    const header = await this.#opened(name, async (file) => readHeader(readerOf(file.fd, (await file.stat()).size)));
    if (header.kind === 'facts') return header.facts;
    const asked = await askDecoder({ path: this.folder }, name);
    if (asked === 'aborted' || !asked.facts) throw new Error(`${name} was not read`);
    return asked.facts;
  }

  /** Makes a part of these frames or samples, as they are or coded anew, and says what came out. */
  async part(
    name: string,
    range: { start: number; end: number },
    facts: Facts,
    { streams = null, coded = null }: { streams?: Streams | null; coded?: Coded | null } = {},
  ): Promise<Made> {
    const aside = `${(this.#made += 1)}-${coded ? name.replace(/[^.]*$/, coded.extension) : name}`;
    return this.made(name, { aside, trim: { range, startsAt: startOf(facts, range.start), facts, coded, streams } });
  }

  /** The same as it is asked for, `next` along with it. */
  async made(name: string, { aside, trim }: NextPart, next: readonly NextPart[] = []): Promise<Made> {
    const out = await FencedFolder.of({ path: this.path('out') });
    const copied = await trimAside(
      {
        source: { path: this.folder, file: name },
        expected: { sizeInBytes: null, modifiedMs: null, isFrame: false, fingerprint: null },
        into: [{ folder: out.ground, aside }],
        trim,
        next,
      },
      { signal: new AbortController().signal, onBytes: () => undefined },
    );
    return { ...copied, name: `out/${aside}` };
  }

  /** Checksums of decoded frames, by another way than the product's: everything decoded from the first frame on. */
  decoded = (name: string, pixels?: string): string[] =>
    ffmpeg(
      ...['-i', this.path(name), '-map', '0:v:0', '-fps_mode', 'passthrough'],
      ...[...(pixels ? ['-pix_fmt', pixels] : []), '-f', 'framemd5', '-'],
    )
      .toString()
      .split('\n')
      .filter((line) => line && !line.startsWith('#'))
      .map((line) => line.split(',').at(-1)!.trim());

  samples = (name: string): Buffer => ffmpeg('-i', this.path(name), '-map', '0:a:0', '-f', 's16le', '-ac', '1', '-');
}
