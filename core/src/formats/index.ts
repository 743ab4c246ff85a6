import type { ReadFault } from '../remarks/remark.ts';
import { edl } from './edl/index.ts';
import type { Format, FormatId, NewReference, ReadOptions, ReadResult } from './format.ts';
import { otio } from './otio/index.ts';
import { decodeText, encodeText } from './text.ts';

/** Every format that Legame reads, in the order in which they are tried. Adding one is adding a folder and a line. */
export const formats: readonly Format[] = [otio, edl];

export const formatOf = (id: FormatId): Format => formats.find((f) => f.id === id)!;

export type DocumentRead =
  { readonly format: FormatId; readonly result: ReadResult } | { readonly format: null; readonly fault: ReadFault };

/** Bytes of a document to its edit and remarks, or to one fault that says why not. Never throws for bad input. */
export function readDocument(bytes: Uint8Array, options: ReadOptions): DocumentRead {
  if (bytes.length === 0) return { format: null, fault: { code: 'document-empty' } };
  const decoded = decodeText(bytes);
  if (!decoded) return { format: null, fault: { code: 'document-not-text' } };
  if (decoded.text.trim() === '') return { format: null, fault: { code: 'document-empty' } };
  const format = formats.find((f) => f.detect(decoded.text));
  if (!format) return { format: null, fault: { code: 'format-unknown', known: formats.map((f) => f.title) } };
  return { format: format.id, result: format.read(decoded.text, options) };
}

/** The document with the references at these addresses changed: same encoding, same line ends, same everything else. */
export function relinkDocument(
  bytes: Uint8Array,
  id: FormatId,
  changes: ReadonlyMap<string, NewReference>,
): Uint8Array {
  const decoded = decodeText(bytes);
  if (!decoded) throw new TypeError('Only a document that was read before can be relinked.');
  return encodeText({ text: formatOf(id).relink(decoded.text, changes), encoding: decoded.encoding });
}
