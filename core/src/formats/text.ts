/** How a document's bytes stand for text; kept so that an export goes out the way the original came in. */
export type TextEncoding = 'utf-8' | 'utf-8-bom' | 'utf-16le' | 'utf-16be' | 'windows-1252';

export type DecodedText = { readonly text: string; readonly encoding: TextEncoding };

/**
 * Bytes to text: by byte order mark, else UTF-8, else Windows-1252 (Latin-1 with the trade's quotes). Null for bytes
 * that no text has, which is how a media file dropped by mistake is told from a list.
 */
export function decodeText(bytes: Uint8Array): DecodedText | null {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf)
    return decodeAs(bytes.subarray(3), 'utf-8-bom', 'utf-8');
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return decodeAs(bytes.subarray(2), 'utf-16le', 'utf-16le');
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return decodeAs(bytes.subarray(2), 'utf-16be', 'utf-16be');
  const head = bytes.subarray(0, 4096);
  const controls = head.filter((b) => b < 32 && b !== 9 && b !== 10 && b !== 13 && b !== 12 && b !== 26).length;
  if (head.includes(0) || controls * 50 > head.length) return null;
  return decodeAs(bytes, 'utf-8', 'utf-8') ?? decodeAs(bytes, 'windows-1252', 'windows-1252');
}

function decodeAs(bytes: Uint8Array, encoding: TextEncoding, label: string): DecodedText | null {
  try {
    return { text: new TextDecoder(label, { fatal: true, ignoreBOM: true }).decode(bytes), encoding };
  } catch {
    return null;
  }
}

/** Text to bytes in the encoding it came in. What Windows-1252 cannot hold makes the whole document UTF-8 instead. */
export function encodeText({ text, encoding }: DecodedText): Uint8Array {
  if (encoding === 'utf-16le' || encoding === 'utf-16be') {
    const bytes = new Uint8Array(2 + text.length * 2);
    const little = encoding === 'utf-16le';
    const put = (at: number, unit: number) => {
      bytes[at + (little ? 0 : 1)] = unit & 0xff;
      bytes[at + (little ? 1 : 0)] = unit >> 8;
    };
    put(0, 0xfeff);
    for (let i = 0; i < text.length; i += 1) put(2 + i * 2, text.charCodeAt(i));
    return bytes;
  }
  if (encoding === 'windows-1252') {
    const table = windows1252();
    const bytes = Array.from(text, (character) => table.get(character));
    if (bytes.every((b) => b !== undefined)) return Uint8Array.from(bytes);
  }
  const body = new TextEncoder().encode(text);
  if (encoding !== 'utf-8-bom') return body;
  const marked = new Uint8Array(body.length + 3);
  marked.set([0xef, 0xbb, 0xbf]);
  marked.set(body, 3);
  return marked;
}

function windows1252(): Map<string, number> {
  const decoder = new TextDecoder('windows-1252');
  return new Map(Array.from({ length: 256 }, (_, byte) => [decoder.decode(Uint8Array.of(byte)), byte]));
}
