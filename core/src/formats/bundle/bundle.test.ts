import { describe, expect, test } from '@jest/globals';
import { Uint8ArrayReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js';
import { utf8 } from '../../testing/reading.ts';
import { unpackBytes } from './bundle.ts';

const limit = 1_000_000;

async function zipOf(files: Record<string, Uint8Array>, level = 0): Promise<Uint8Array> {
  const zip = new ZipWriter(new Uint8ArrayWriter(), { level, useWebWorkers: false });
  for (const [name, content] of Object.entries(files)) await zip.add(name, new Uint8ArrayReader(content));
  return zip.close();
}

describe('bundles', () => {
  test('the document of a zipped bundle comes out, with a list of the media beside it', async () => {
    const zip = await zipOf({
      'version.txt': utf8('1.0.0'),
      'content.otio': utf8('{"OTIO_SCHEMA": "Timeline.1"}'),
      'media/bowl.mov': new Uint8Array(5000),
      'notes/readme.txt': utf8('not media'),
    });
    const unpacked = await unpackBytes(zip, limit);
    if (!unpacked.ok) throw new Error(JSON.stringify(unpacked.fault));
    expect(new TextDecoder().decode(unpacked.content)).toBe('{"OTIO_SCHEMA": "Timeline.1"}');
    expect(unpacked.media).toEqual([{ path: 'media/bowl.mov', sizeInBytes: 5000 }]);
  });

  test('anything else comes out as it is', async () => {
    const content = utf8('TITLE: A LIST');
    expect(await unpackBytes(content, limit)).toEqual({ ok: true, content, media: null });
  });

  test('a gigabyte of repetition is refused before it is unpacked, whatever the zip says of its size', async () => {
    const bomb = await zipOf({ 'content.otio': new Uint8Array(30_000_000) }, 9);
    expect(bomb.length).toBeLessThan(100_000);
    const tooLarge = { ok: false, fault: { code: 'document-too-large', limitInBytes: limit } };
    expect(await unpackBytes(bomb, limit)).toEqual(tooLarge);
    // The size stands in the central directory, 24 bytes after its mark: make it a lie.
    const at = Buffer.from(bomb).indexOf(Buffer.from([0x50, 0x4b, 1, 2]));
    const lying = bomb.slice();
    new DataView(lying.buffer, lying.byteOffset).setUint32(at + 24, 1000, true);
    expect(await unpackBytes(lying, limit)).toMatchObject({ ok: false });
  });

  test.each([
    ['a zip without a document', () => zipOf({ 'media/a.mov': new Uint8Array(3) })],
    ['a zip cut off', async () => (await zipOf({ 'content.otio': utf8('{}') })).slice(0, 40)],
    [
      'a zip with its middle overwritten',
      async () => (await zipOf({ 'content.otio': new Uint8Array(9000) }, 9)).fill(7, 30, 60),
    ],
  ])('%s is called broken', async (_, make) => {
    expect(await unpackBytes(await make(), limit)).toMatchObject({ ok: false, fault: { code: 'bundle-broken' } });
  });
});
