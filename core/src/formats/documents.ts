import { bounded, type ReadFault } from '../remarks/remark.ts';
import { edl } from './edl/index.ts';
import type { Format, FormatId, NewReference, Reading, ReadOptions, ReadResult } from './format.ts';
import { keepable } from './keepable.ts';
import { log } from './log/index.ts';
import { otio } from './otio/index.ts';
import { canEncode, decodeText, encodeText } from './text.ts';

/** Every format that Legame reads, in the order in which they are tried. Adding one is adding a folder and a line. */
export const formats: readonly Format[] = [otio, edl, log];

export const formatOf = (id: FormatId): Format => formats.find((f) => f.id === id)!;

/** Counts the readers' versions: documents read by an older one are read again, their links kept. */
export const readerVersion = 5;

export type DocumentRead =
  { readonly format: FormatId; readonly result: ReadResult } | { readonly format: null; readonly fault: ReadFault };

/** Larger documents than this are refused: no edit is, and reading one would take all the memory there is. */
export const largestDocumentInBytes = 256 * 1024 * 1024;

/** Bytes of a document to its edit and remarks, or to one fault that says why not. Never throws for bad input. */
export function readDocument(bytes: Uint8Array, options: ReadOptions): DocumentRead {
  if (bytes.length === 0) return { format: null, fault: { code: 'document-empty' } };
  if (bytes.length > largestDocumentInBytes)
    return { format: null, fault: { code: 'document-too-large', limitInBytes: largestDocumentInBytes } };
  const decoded = decodeText(bytes);
  if (!decoded) return { format: null, fault: { code: 'document-not-text' } };
  if (decoded.text.trim() === '') return { format: null, fault: { code: 'document-empty' } };
  const format = formats.find((f) => f.detect(decoded.text));
  if (!format) return { format: null, fault: { code: 'format-unknown', known: formats.map((f) => f.title) } };
  const result = format.read(decoded.text, options);
  return { format: format.id, result: result.ok ? keepable({ ...result, remarks: bounded(result.remarks) }) : result };
}

/** A document with its references changed. `reencoded`: its old encoding cannot hold a new name, so it is UTF-8 now. */
export type Relinked = { readonly bytes: Uint8Array; readonly reencoded: boolean };

/** The document with the references at these addresses changed: same encoding, same line ends, same everything else. */
export function relinkDocument(
  bytes: Uint8Array,
  id: FormatId,
  changes: ReadonlyMap<string, NewReference>,
  reading: Reading = {},
): Relinked {
  const decoded = decodeText(bytes);
  if (!decoded) throw new TypeError('Only a document that was read before can be relinked.');
  const text = formatOf(id).relink(decoded.text, changes, reading);
  return {
    bytes: encodeText({ text, encoding: decoded.encoding }),
    reencoded: !canEncode({ text, encoding: decoded.encoding }),
  };
}
