/**
 * What is known of a clip's media beyond what the edit states: learned from the file when it was linked, or stated by
 * a log. Null where nobody said.
 */
export type Known = {
  readonly sizeInBytes: number | null;
  /** When the file was last written, in milliseconds since 1970. Logs state it to the day or the second. */
  readonly writtenMs: number | null;
  readonly fingerprint: string | null;
  /** A full xxh64 of the content. */
  readonly fullHash: string | null;
  readonly codec: string | null;
  readonly channels: number | null;
  readonly sampleRate: number | null;
};

export const nothingKnown: Known = {
  sizeInBytes: null,
  writtenMs: null,
  fingerprint: null,
  fullHash: null,
  codec: null,
  channels: null,
  sampleRate: null,
};

const plain = (text: string): string => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
/** A whole number, its thousands parted or not. "5.1" names a layout of loudspeakers and "1.5" no bytes: they are none. */
const wholeNumber = (text: string): number | null => {
  const match = /^(\d{1,3}(?:[ .,'\u00a0\u202f]\d{3})+|\d+)(?:\.0+)?\s*(?:b|bytes|ch|hz)?$/i.exec(text.trim());
  const digits = match?.[1]?.replace(/\D/g, '');
  return digits ? Number(digits) : null;
};
/** Nothing is zero bytes long or has no samples a second: a zero is an empty cell of somebody's table. */
const stated = (number: number | null): number | null => number || null;
/** "48 kHz", "44,1 kHz", "48000"; a number too small for samples a second is in thousands of them. */
const hertz = (text: string): number | null => {
  const kilo = /^(\d{1,3}(?:[.,]\d+)?)\s*(?:khz|k)?$/i.exec(text.trim());
  return stated(
    kilo && !/[.,]\d{3}$/.test(kilo[1]!) ? Math.round(Number(kilo[1]!.replace(',', '.')) * 1000) : wholeNumber(text),
  );
};
/** The digits of an xxh64; anything else in such a column says nothing of the content. */
const xxh64 = (text: string): string | null => /^[0-9a-f]{16}$/.exec(text.trim().toLowerCase())?.[0] ?? null;
const time = (text: string): number | null => {
  // Only the unmistakable form, ISO 8601: day and month change places elsewhere. A time without a zone is that of some
  // recorder's clock: only its day is taken.
  const [, day, zoned] =
    /^(\d{4}-\d\d-\d\d)(?:[T ]\d\d:\d\d(?::\d\d(?:\.\d+)?)?\s*(Z|[+-]\d\d:?\d\d)?)?$/i.exec(text.trim()) ?? [];
  const parsed = day ? Date.parse(zoned ? text.trim().replace(' ', 'T') : day) : Number.NaN;
  return Number.isNaN(parsed) ? null : parsed;
};

/** Column names, stripped of case and punctuation, that state a fact of the file itself. */
const facts: Readonly<Record<string, (text: string) => Partial<Known>>> = {
  size: (text) => ({ sizeInBytes: stated(wholeNumber(text)) }),
  filesize: (text) => ({ sizeInBytes: stated(wholeNumber(text)) }),
  sizeinbytes: (text) => ({ sizeInBytes: stated(wholeNumber(text)) }),
  xxh64: (text) => ({ fullHash: xxh64(text) }),
  xxhash64: (text) => ({ fullHash: xxh64(text) }),
  codec: (text) => ({ codec: text.trim() || null }),
  videocodec: (text) => ({ codec: text.trim() || null }),
  channels: (text) => ({ channels: wholeNumber(text) }),
  audiochannels: (text) => ({ channels: wholeNumber(text) }),
  samplerate: (text) => ({ sampleRate: hertz(text) }),
  audiosamplerate: (text) => ({ sampleRate: hertz(text) }),
  modified: (text) => ({ writtenMs: time(text) }),
  datemodified: (text) => ({ writtenMs: time(text) }),
  filedate: (text) => ({ writtenMs: time(text) }),
};

/** What the words of a log or a timeline (`Clip.metadata`) state of the file itself; null when they state nothing. */
export function knownFromMetadata(metadata: Readonly<Record<string, string>>): Known | null {
  let known: Known | null = null;
  for (const [header, text] of Object.entries(metadata)) {
    const read = facts[plain(header)];
    if (read) known = { ...(known ?? nothingKnown), ...read(text) };
  }
  return known;
}
