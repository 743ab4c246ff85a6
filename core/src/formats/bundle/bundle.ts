import type { ReadFault } from '../../remarks/remark.ts';
import { bytesSource, isZip, readEntry, TooLarge, withZip, type ByteSource } from './zip.ts';

// A face of core of its own: who only reads timelines need not carry a zip reader with them.
export type { ByteSource } from './zip.ts';

/** The parts of an OpenTimelineIO bundle: a zip (.otioz) or a folder (.otiod) of one document and its media. */
export const bundleParts = { content: 'content.otio', version: 'version.txt', media: 'media' } as const;
export const bundleVersion = '1.0.0';

/** Media that lies inside a bundle beside its document; paths use "/". */
export type BundledFile = { readonly path: string; readonly sizeInBytes: number };

export type Unpacked =
  | { readonly ok: true; readonly content: Uint8Array; readonly media: readonly BundledFile[] | null }
  | { readonly ok: false; readonly fault: ReadFault };

/**
 * The document in a file: of a zipped bundle its content.otio with a list of the media beside it, else the bytes as
 * they are. Only the document is unpacked, and never more of it than `limitInBytes`, whatever the zip says.
 */
export async function unpackDocument(source: ByteSource, limitInBytes: number): Promise<Unpacked> {
  if (!isZip(await source.read(0, 4))) {
    if (source.size > limitInBytes) return { ok: false, fault: { code: 'document-too-large', limitInBytes } };
    return { ok: true, content: await source.read(0, source.size), media: null };
  }
  try {
    return await withZip(source, async (entries): Promise<Unpacked> => {
      const files = entries.filter((e) => !e.directory);
      const content = files.find((e) => e.filename === bundleParts.content);
      if (!content) {
        return {
          ok: false,
          fault: { code: 'bundle-broken', detail: { code: 'zip-without', part: bundleParts.content } },
        };
      }
      if (content.encrypted) return { ok: false, fault: { code: 'bundle-broken', detail: { code: 'zip-locked' } } };
      const media = files
        .filter((e) => e.filename.startsWith(`${bundleParts.media}/`))
        .map((e) => ({ path: e.filename, sizeInBytes: e.uncompressedSize }));
      return { ok: true, content: await readEntry(content, limitInBytes), media };
    });
  } catch (error) {
    if (error instanceof TooLarge) return { ok: false, fault: { code: 'document-too-large', limitInBytes } };
    const said = (error instanceof Error ? error.message : String(error)).replace(/\.$/, '');
    return { ok: false, fault: { code: 'bundle-broken', detail: { code: 'zip-unread', said } } };
  }
}

export const unpackBytes = (bytes: Uint8Array, limitInBytes: number): Promise<Unpacked> =>
  unpackDocument(bytesSource(bytes), limitInBytes);
