import type { ByteReader } from '@legame/core/headers';
import type { OtherContent } from '@legame/core/model';
import type { Content } from './readerTalk.ts';

/** Kinds of files that end up among media, by what they begin with. What is media is a decoder's to say. */
const others: readonly (readonly [magic: string, what: OtherContent])[] = [
  ['504b0304', 'zip'],
  ['504b0506', 'empty-zip'],
  ['1f8b', 'gzip'],
  ['377abcaf271c', '7-zip'],
  ['526172211a07', 'rar'],
  ['255044462d', 'pdf'],
  ['7f454c46', 'program'],
  ['4d5a', 'program'],
  ['cffaedfe', 'program'],
  ['53514c69746520666f726d6174', 'database'],
  ['d0cf11e0a1b11ae1', 'office'],
];
const sampleInBytes = 4096;

/** What a file is when it is no media, from its first bytes. */
export function contentOf(source: ByteReader): Content {
  const head = Buffer.from(source.read(0, sampleInBytes));
  const hex = head.toString('hex');
  const known = others.find(([magic]) => hex.startsWith(magic));
  if (known) return { is: 'other', what: known[1] };
  if (head.every((byte) => byte === 0)) return { is: 'other', what: 'zeros' };
  return isText(head) ? { is: 'other', what: textKind(head.toString('utf8')) } : { is: 'unknown' };
}

function isText(head: Buffer): boolean {
  if (head.includes(0)) return false;
  const text = head.toString('utf8').slice(0, -1);
  const odd = [...text].filter((c) => c === '\ufffd' || (c < ' ' && !'\n\r\t\f'.includes(c))).length;
  return odd <= text.length / 100;
}

function textKind(text: string): OtherContent {
  const start = text.trimStart().toLowerCase();
  if (start.startsWith('<!doctype html') || start.startsWith('<html')) return 'web-page';
  if (start.startsWith('#extm3u') || start.startsWith('ffconcat')) return 'playlist';
  return start.startsWith('<?xml') ? 'xml' : 'text';
}
