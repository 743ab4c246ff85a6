import { largestDocumentInBytes, readDocument, type Choices, type FormatId, type Reading } from '@legame/core/formats';
import type { Clip } from '@legame/core/model';
import type { ReadFault, Remark } from '@legame/core/remarks';
import type { Rate } from '@legame/core/time';
import { unpackDocument, type BundledFile } from '@legame/core/bundle';

/** What a dropped file is, before anything of it is brought in. */
export type Preview =
  | {
      readonly ok: true;
      readonly format: FormatId;
      readonly title: string;
      readonly clips: number;
      readonly events: number;
      readonly timelines: readonly { readonly name: string; readonly top: boolean; readonly seconds: number }[];
      /** The first clips, for looking at what a mapping makes of a log. */
      readonly sample: readonly Pick<Clip, 'name' | 'reel' | 'rate' | 'counting' | 'available' | 'metadata'>[];
      readonly remarks: readonly Remark[];
      readonly choices: Choices;
      readonly mediaInside: readonly BundledFile[];
    }
  | { readonly ok: false; readonly fault: ReadFault };

const sampleClips = 5;

/**
 * Reads dropped files where they are, with core, so that a person sees what is in them before they go anywhere. Of a
 * zipped bundle only its document is kept, and only that is sent on, however large the media beside it is.
 */
export class DocumentReader {
  readonly #open = new Map<string, { readonly content: Uint8Array; readonly mediaInside: readonly BundledFile[] }>();

  /** Takes a file in under a token of the caller's; null when it was, else why it cannot be read. */
  async open(token: string, file: Blob): Promise<ReadFault | null> {
    const unpacked = await unpackDocument(
      {
        size: file.size,
        read: async (offset, length) => new Uint8Array(await file.slice(offset, offset + length).arrayBuffer()),
      },
      largestDocumentInBytes,
    );
    if (!unpacked.ok) return unpacked.fault;
    this.#open.set(token, { content: unpacked.content, mediaInside: unpacked.media ?? [] });
    return null;
  }

  preview(token: string, name: string, reading: Reading, otherRates: readonly Rate[]): Preview {
    const opened = this.#open.get(token);
    if (!opened) return { ok: false, fault: { code: 'document-empty' } };
    const read = readDocument(opened.content, { ...reading, name, otherRates });
    if (read.format === null) return { ok: false, fault: read.fault };
    if (!read.result.ok) return { ok: false, fault: read.result.fault };
    const { edit, remarks, choices } = read.result;
    return {
      ok: true,
      format: read.format,
      title: edit.title,
      clips: edit.clips.length,
      events: edit.timelines.reduce((sum, t) => sum + t.events.length, 0),
      timelines: edit.timelines.map(({ name: timeline, top, length, rate }) => {
        return { name: timeline, top, seconds: (length * rate.den) / rate.num };
      }),
      sample: edit.clips.slice(0, sampleClips),
      remarks,
      choices,
      mediaInside: opened.mediaInside,
    };
  }

  content(token: string): Uint8Array {
    return this.#open.get(token)?.content ?? new Uint8Array();
  }

  close(token: string): void {
    this.#open.delete(token);
  }
}
