import { joinBytes } from './bytes.ts';

export type Chunk = { readonly id: string; readonly body: Uint8Array };

/** Larger than this a file says its sizes in a `ds64` chunk (EBU Tech 3306). */
const mostInShortForm = 0xffff_fff0;
/** Version 1 of the broadcast extension without a coding history (EBU Tech 3285). */
const plainBextInBytes = 602;
/** Where the broadcast extension says which sample since midnight its first is. */
export const timeReferenceAt = 338;

/**
 * What a WAVE file has before and behind its sound, where that is so many samples of so many bytes (of all channels).
 * `BW64` stays that; a RIFF file that grew too large for its sizes becomes RF64.
 */
export function framed({
  form,
  before,
  after,
  sound: { samples, bytesPerSample },
}: {
  readonly form: 'RIFF' | 'BW64';
  readonly before: readonly Chunk[];
  readonly after: readonly Chunk[];
  readonly sound: { readonly samples: number; readonly bytesPerSample: number };
}): { readonly head: Uint8Array; readonly tail: Uint8Array } {
  const length = samples * bytesPerSample;
  const [front, rest] = [joinBytes(before.map(written)), joinBytes(after.map(written))];
  const tail = joinBytes([new Uint8Array(length % 2), rest]);
  const isLong = form === 'BW64' || 12 + 36 + front.length + 8 + length + tail.length > mostInShortForm;
  const total = 4 + (isLong ? 36 : 0) + front.length + 8 + length + tail.length;
  // Form, then `ds64` where it is needed, and the head of the sound itself.
  const head = joinBytes([
    latin(isLong ? (form === 'BW64' ? 'BW64' : 'RF64') : 'RIFF'),
    u32(isLong ? 0xffff_ffff : total),
    latin('WAVE'),
    ...(isLong ? [written({ id: 'ds64', body: sizes(total, length, samples) })] : []),
    front,
    latin('data'),
    u32(isLong ? 0xffff_ffff : length),
  ]);
  return { head, tail };
}

/** How the samples of a WAVE file are numbered. `codec` as decoders call it: `pcm_s24le`, `pcm_f32le`. */
export type WaveFormat = { readonly codec: string; readonly channels: number; readonly sampleRate: number };

/**
 * What a new WAVE file has before and behind so many samples (of all channels). `startsAt`, in samples since midnight,
 * becomes its time reference (`bext`, EBU Tech 3285), `reel` the tape of an iXML chunk; either may be absent.
 */
export function waveAround(
  { codec, channels, sampleRate }: WaveFormat,
  samples: number,
  { startsAt, reel }: { readonly startsAt: number | null; readonly reel: string | null },
): { readonly head: Uint8Array; readonly tail: Uint8Array; readonly bytesPerSample: number } {
  const isFloat = codec.startsWith('pcm_f');
  const bits = Number(/\d+/.exec(codec)![0]);
  const bytesPerSample = (channels * bits) / 8;
  const tag = isFloat ? 3 : 1;
  // Of more than two channels a plain format does not say how they lie.
  const isMany = channels > 2;
  const format = joinBytes([
    u16(isMany ? 0xfffe : tag),
    u16(channels),
    u32(sampleRate),
    u32(sampleRate * bytesPerSample),
    u16(bytesPerSample),
    u16(bits),
    ...(isMany ? [u16(22), u16(bits), u32(0), u16(tag), restOfSubtype] : isFloat ? [u16(0)] : []),
  ]);
  const before: Chunk[] = [
    ...(startsAt === null ? [] : [{ id: 'bext', body: plainBext(BigInt(startsAt)) }]),
    ...(reel === null ? [] : [{ id: 'iXML', body: new TextEncoder().encode(ixmlOf(reel)) }]),
    { id: 'fmt ', body: format },
    ...(isFloat ? [{ id: 'fact', body: u32(Math.min(samples, 0xffff_ffff)) }] : []),
  ];
  return { ...framed({ form: 'RIFF', before, after: [], sound: { samples, bytesPerSample } }), bytesPerSample };
}

/** What every subtype of the extensible format has behind its number. */
const restOfSubtype = Uint8Array.from([0, 0, 0, 0, 16, 0, 0x80, 0, 0, 0xaa, 0, 0x38, 0x9b, 0x71]);

const ixmlOf = (reel: string): string => {
  const text = reel.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
  return `<?xml version="1.0" encoding="UTF-8"?><BWFXML><IXML_VERSION>1.5</IXML_VERSION><TAPE>${text}</TAPE></BWFXML>`;
};

export function plainBext(timeReference: bigint): Uint8Array {
  const body = new Uint8Array(plainBextInBytes);
  const view = new DataView(body.buffer);
  view.setBigUint64(timeReferenceAt, timeReference, true);
  view.setUint16(timeReferenceAt + 8, 1, true);
  return body;
}

function sizes(total: number, data: number, samples: number): Uint8Array {
  const body = new Uint8Array(28);
  const view = new DataView(body.buffer);
  view.setBigUint64(0, BigInt(total), true);
  view.setBigUint64(8, BigInt(data), true);
  view.setBigUint64(16, BigInt(samples), true);
  return body;
}

const written = ({ id, body }: Chunk): Uint8Array =>
  joinBytes([latin(id), u32(body.length), body, new Uint8Array(body.length % 2)]);
export const latin = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));
const u16 = (value: number): Uint8Array => Uint8Array.of(value & 255, value >> 8);
export const u32 = (value: number): Uint8Array => {
  const bytes = new Uint8Array(4);
  new DataView(bytes.buffer).setUint32(0, value, true);
  return bytes;
};
