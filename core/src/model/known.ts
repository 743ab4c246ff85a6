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
const wholeNumber = (text: string): number | null => {
  const match = /^([\d .,']+)\s*(?:b|bytes|ch|hz)?$/i.exec(text.trim());
  const digits = match?.[1]?.replace(/[ .,']/g, '');
  return digits ? Number(digits) : null;
};
const hertz = (text: string): number | null => {
  const kilo = /^(\d+(?:\.\d+)?)\s*khz$/i.exec(text.trim());
  return kilo ? Math.round(Number(kilo[1]) * 1000) : wholeNumber(text);
};
const time = (text: string): number | null => {
  // Only the unmistakable form, ISO 8601: day and month change places elsewhere.
  const parsed = /^\d{4}-\d\d-\d\d/.test(text.trim()) ? Date.parse(text.trim()) : Number.NaN;
  return Number.isNaN(parsed) ? null : parsed;
};

/** Column names, stripped of case and punctuation, that state a fact of the file itself. */
const facts: Readonly<Record<string, (text: string) => Partial<Known>>> = {
  size: (text) => ({ sizeInBytes: wholeNumber(text) }),
  filesize: (text) => ({ sizeInBytes: wholeNumber(text) }),
  sizeinbytes: (text) => ({ sizeInBytes: wholeNumber(text) }),
  xxh64: (text) => ({ fullHash: text.trim().toLowerCase() || null }),
  xxhash64: (text) => ({ fullHash: text.trim().toLowerCase() || null }),
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
