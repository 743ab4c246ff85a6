import { parse, type MemberNode, type ObjectNode, type ValueNode } from '@humanwhocodes/momoa';
import type { NewReference } from '../format.ts';
import { pointerKeys } from './json.ts';

type Splice = { readonly from: number; readonly to: number; readonly text: string };

/**
 * Changes the media references at these JSON pointers by replacing only the characters of their URL (for image
 * sequences: base, prefix, suffix). A MissingReference becomes an ExternalReference and keeps its name, range and
 * metadata. Every other character of the document, digits of numbers included, stays as it is.
 */
export function relinkOtio(text: string, changes: ReadonlyMap<string, NewReference>): string {
  const document = parse(text, { mode: 'json', ranges: true });
  const splices: Splice[] = [];
  for (const [pointer, change] of changes) {
    const node = nodeAt(document.body, pointerKeys(pointer));
    if (node?.type === 'Object') splices.push(...referenceSplices(node, change));
  }
  splices.sort((a, b) => b.from - a.from);
  let result = text;
  const parts: string[] = [];
  for (const { from, to, text: inserted } of splices) {
    parts.unshift(inserted, result.slice(to));
    result = result.slice(0, from);
  }
  return result + parts.join('');
}

function referenceSplices(reference: ObjectNode, { path, sequence }: NewReference): Splice[] {
  const schema = member(reference, 'OTIO_SCHEMA');
  const isSequence = schema?.value.type === 'String' && schema.value.value.startsWith('ImageSequenceReference.');
  if (isSequence && sequence) {
    return [
      ...setString(reference, 'target_url_base', fileUrl(path.replace(/[^/]*$/, ''))),
      ...setString(reference, 'name_prefix', sequence.prefix),
      ...setString(reference, 'name_suffix', sequence.suffix),
    ];
  }
  const splices = setString(reference, 'target_url', fileUrl(path));
  if (schema?.value.type === 'String' && schema.value.value.startsWith('MissingReference.')) {
    splices.push(replace(schema.value, '"ExternalReference.1"'));
  }
  return splices;
}

/** Sets a member to a text, or adds it after the first one, indented like it. */
function setString(object: ObjectNode, name: string, value: string): Splice[] {
  const found = member(object, name);
  if (found) return [replace(found.value, JSON.stringify(value))];
  const first = object.members[0];
  const end = first ? rangeOf(first)[1] : rangeOf(object)[0] + 1;
  const text = `${JSON.stringify(name)}: ${JSON.stringify(value)}`;
  const indent = first ? ' '.repeat(Math.max(0, first.loc.start.column - 1)) : '';
  const breaks = first && first.loc.start.line !== object.loc.start.line;
  return [{ from: end, to: end, text: first ? `,${breaks ? `\n${indent}` : ' '}${text}` : text }];
}

/** Absolute paths become file URLs, relative ones URL references: percent-encoded either way (RFC 8089, RFC 3986). */
export function fileUrl(path: string): string {
  const encoded = path.split('/').map(encodeURIComponent).join('/');
  if (path.startsWith('//')) return `file:${encoded}`;
  if (path.startsWith('/')) return `file://${encoded}`;
  const drive = /^([A-Za-z]:)(\/.*)$/.exec(path);
  return drive ? `file:///${drive[1]}${drive[2]!.split('/').map(encodeURIComponent).join('/')}` : encoded;
}

function nodeAt(root: ValueNode, keys: readonly string[]): ValueNode | null {
  let node: ValueNode | undefined = root;
  for (const key of keys) {
    if (node?.type === 'Object') node = member(node, key)?.value;
    else if (node?.type === 'Array') node = node.elements[Number(key)]?.value;
    else return null;
  }
  return node ?? null;
}

/** The last member of a name counts, as for JSON.parse. */
function member(object: ObjectNode, name: string): MemberNode | undefined {
  return object.members.findLast((m) => (m.name.type === 'String' ? m.name.value : m.name.name) === name);
}

const rangeOf = (node: { range?: [number, number] }): [number, number] => node.range ?? [0, 0];
const replace = (node: ValueNode, text: string): Splice => ({ from: rangeOf(node)[0], to: rangeOf(node)[1], text });
