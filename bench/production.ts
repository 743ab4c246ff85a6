import { copyFileSync, linkSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { makeSound } from '../server/src/testing/media.ts';
import { span, time } from '../server/src/testing/edits.ts';

/** A production of one drive full of sound rolls and one edit of all of them, as large as is asked for. */
const perFolder = 100;
const name = (i: number) => `T${String(i).padStart(6, '0')}.wav`;
const folder = (i: number) => `roll${String(Math.floor(i / perFolder)).padStart(4, '0')}`;

/** Files of 48 kHz, each a second long, one after another in timecode; real ones, with real headers. */
export function makeFiles(root: string, count: number, { drive = 'KILN', from = 0 } = {}): void {
  const template = join(root, 'template.wav');
  makeSound(template, { seconds: 1, startSeconds: 0 });
  const bytes = readFileSync(template);
  const bext = bytes.indexOf('bext');
  if (bext < 0) throw new Error('The template has no bext chunk.');
  // Chunk head, then description, originator, its reference, date and time (EBU Tech 3285).
  const timeReference = bext + 8 + 256 + 32 + 32 + 10 + 8;
  for (let i = from; i < from + count; i += 1) {
    if (i % perFolder === 0) mkdirSync(join(root, drive, folder(i)), { recursive: true });
    bytes.writeBigUInt64LE(BigInt(i * 2) * 48_000n, timeReference);
    // Sound that differs, so that no two files are one recording.
    bytes.writeUInt32LE(i + 1, bytes.length - 8);
    writeFileSync(join(root, drive, folder(i), name(i)), bytes);
  }
}

/** Beside them, files that nobody uses, all of one content. A file can have some tens of thousands of names, and no more. */
export function makeBeside(root: string, count: number): void {
  const beside = (i: number) => join(root, 'KILN', 'beside', folder(i), `b${name(i)}`);
  for (let i = 0; i < count; i += 1) {
    if (i % perFolder > 0) linkSync(beside(i - 1), beside(i));
    else {
      mkdirSync(join(root, 'KILN', 'beside', folder(i)), { recursive: true });
      copyFileSync(join(root, 'template.wav'), beside(i));
    }
  }
}

/**
 * An edit at 25 fps whose clips remember these files, counted from `from`; `known` says where, so that they are tied, or
 * dark.
 */
export function makeEdit(count: number, known: string, from = 0): string {
  const tracks = Array.from({ length: 4 }, (_, track) => ({
    OTIO_SCHEMA: 'Track.1',
    kind: 'Audio',
    children: Array.from({ length: Math.ceil((count - track) / 4) }, (_none, n) => {
      const i = from + n * 4 + track;
      return {
        OTIO_SCHEMA: 'Clip.2',
        name: name(i),
        source_range: span(i * 50 + 2, 10),
        media_references: {
          DEFAULT_MEDIA: {
            OTIO_SCHEMA: 'ExternalReference.1',
            target_url: `${known}/${folder(i)}/${name(i)}`,
            available_range: span(i * 50, 25),
          },
        },
        active_media_reference_key: 'DEFAULT_MEDIA',
      };
    }),
  }));
  return JSON.stringify({
    OTIO_SCHEMA: 'Timeline.1',
    name: 'all rolls',
    global_start_time: time(90_000),
    tracks: { OTIO_SCHEMA: 'Stack.1', children: tracks },
  });
}
