import type { Edit } from '../model/edit.ts';
import type { Choices, ReadOptions } from '../formats/format.ts';
import { readDocument } from '../formats/documents.ts';
import { encodeText } from '../formats/text.ts';
import type { ReadFault, Remark } from '../remarks/remark.ts';
import { rate } from '../time/rate.ts';

/** Reading in tests: text in, edit out, and a thrown error where the other was expected. */
export const utf8 = (text: string): Uint8Array => encodeText({ text, encoding: 'utf-8' });
const pal = rate(25);

export function readText(
  content: string | Uint8Array,
  options: Partial<ReadOptions> = { rate: pal },
): { edit: Edit; remarks: readonly Remark[]; choices: Choices } {
  const bytes = typeof content === 'string' ? utf8(content) : content;
  const result = readDocument(bytes, { name: 'list.edl', ...options });
  if (result.format === null || !result.result.ok) throw new Error(`not read: ${JSON.stringify(result)}`);
  return result.result;
}

export function faultOf(content: string | Uint8Array, options: Partial<ReadOptions> = {}): ReadFault {
  const bytes = typeof content === 'string' ? utf8(content) : content;
  const result = readDocument(bytes, { name: 'x', ...options });
  if (result.format === null) return result.fault;
  if (result.result.ok) throw new Error('was read');
  return result.result.fault;
}
