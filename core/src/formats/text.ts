/** How a document's bytes stand for text; kept so that an export goes out the way the original came in. */
export const textEncodings = [
  'utf-8',
  'utf-8-bom',
  'utf-16le',
  'utf-16be',
  'utf-16le-bare',
  'utf-16be-bare',
  'windows-1252',
] as const;
export type TextEncoding = (typeof textEncodings)[number];

export type DecodedText = { readonly text: string; readonly encoding: TextEncoding };

/**
 * Bytes to text: by byte order mark, else UTF-16 where every other byte of the head is zero, else UTF-8, else
 * Windows-1252 (Latin-1 with the trade's quotes). Null for bytes that no text has, which is how a media file dropped
 * by mistake is told from a list.
 */
export function decodeText(bytes: Uint8Array): DecodedText | null {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf)
    return decodeAs(bytes.subarray(3), 'utf-8-bom', 'utf-8');
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return decodeAs(bytes.subarray(2), 'utf-16le', 'utf-16le');
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return decodeAs(bytes.subarray(2), 'utf-16be', 'utf-16be');
  const head = bytes.subarray(0, 4096);
  const bare = bareUtf16(head);
  if (bare) return decodeAs(bytes, bare, bare === 'utf-16le-bare' ? 'utf-16le' : 'utf-16be');
  const controls = head.filter((b) => b < 32 && b !== 9 && b !== 10 && b !== 13 && b !== 12 && b !== 26).length;
  if (head.includes(0) || controls * 50 > head.length) return null;
  return decodeAs(bytes, 'utf-8', 'utf-8') ?? { text: decodeWindows1252(bytes), encoding: 'windows-1252' };
}

/** UTF-16 without a byte order mark: Latin letters leave every other byte zero. */
function bareUtf16(head: Uint8Array): 'utf-16le-bare' | 'utf-16be-bare' | null {
  if (head.length < 4) return null;
  const zeros = [0, 0];
  head.forEach((byte, i) => (zeros[i % 2]! += byte === 0 ? 1 : 0));
  const [even, odd] = zeros as [number, number];
  const most = (head.length / 2) * 0.7;
  return odd > most && even === 0 ? 'utf-16le-bare' : even > most && odd === 0 ? 'utf-16be-bare' : null;
}

function decodeAs(bytes: Uint8Array, encoding: TextEncoding, label: string): DecodedText | null {
  try {
    return { text: new TextDecoder(label, { fatal: true, ignoreBOM: true }).decode(bytes), encoding };
  } catch {
    return null;
  }
}

/** Whether every character of the text has a place in the encoding. */
export const canEncode = ({ text, encoding }: DecodedText): boolean => {
  if (encoding !== 'windows-1252') return true;
  const table = windows1252();
  for (const character of text) if (!table.has(character)) return false;
  return true;
};

/** Text to bytes in the encoding it came in. What Windows-1252 cannot hold makes the whole document UTF-8 instead. */
export function encodeText({ text, encoding }: DecodedText): Uint8Array {
  switch (encoding) {
    case 'utf-16le':
    case 'utf-16be':
      return encodeUtf16(`\ufeff${text}`, encoding === 'utf-16le');
    case 'utf-16le-bare':
    case 'utf-16be-bare':
      return encodeUtf16(text, encoding === 'utf-16le-bare');
    case 'windows-1252': {
      if (!canEncode({ text, encoding })) return new TextEncoder().encode(text);
      const table = windows1252();
      return Uint8Array.from(text, (character) => table.get(character)!);
    }
    case 'utf-8-bom':
      return new TextEncoder().encode(`\ufeff${text}`);
    case 'utf-8':
      return new TextEncoder().encode(text);
  }
}

function encodeUtf16(text: string, little: boolean): Uint8Array {
  const bytes = new Uint8Array(text.length * 2);
  for (let i = 0; i < text.length; i += 1) {
    const unit = text.charCodeAt(i);
    bytes[i * 2 + (little ? 0 : 1)] = unit & 0xff;
    bytes[i * 2 + (little ? 1 : 0)] = unit >> 8;
  }
  return bytes;
}

/** Windows-1252 where it is not Latin-1. Spelt out, for not every runtime's own decoder tells the two apart. */
const upperControls =
  '\u20ac\u0081\u201a\u0192\u201e\u2026\u2020\u2021\u02c6\u2030\u0160\u2039\u0152\u008d\u017d\u008f' +
  '\u0090\u2018\u2019\u201c\u201d\u2022\u2013\u2014\u02dc\u2122\u0161\u203a\u0153\u009d\u017e\u0178';
const characterOf = (byte: number): string =>
  byte >= 0x80 && byte < 0xa0 ? upperControls[byte - 0x80]! : String.fromCharCode(byte);

function decodeWindows1252(bytes: Uint8Array): string {
  const characters = Array.from({ length: 256 }, (_, byte) => characterOf(byte));
  const parts: string[] = [];
  for (const byte of bytes) parts.push(characters[byte]!);
  return parts.join('');
}

const windows1252 = (): Map<string, number> =>
  new Map(Array.from({ length: 256 }, (_, byte) => [characterOf(byte), byte]));
