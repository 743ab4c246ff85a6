import type { Facts } from '../model/media.ts';

/** Ways in which a WAVE file numbers its samples, by the names that decoders give them. */
export const waveCodecs = ['pcm_u8', 'pcm_s16le', 'pcm_s24le', 'pcm_s32le', 'pcm_f32le', 'pcm_f64le'] as const;
export type WaveCodec = (typeof waveCodecs)[number];

const bitsOf: Readonly<Record<WaveCodec, number>> = {
  pcm_u8: 8,
  pcm_s16le: 16,
  pcm_s24le: 24,
  pcm_s32le: 32,
  pcm_f32le: 32,
  pcm_f64le: 64,
};

/** Codings of sound that give back every sample. */
const withoutLoss = ['flac', 'alac', 'wavpack', 'tta'];
/** 24 bits hold all that can be heard of sound that was coded with loss. */
const forCoded: WaveCodec = 'pcm_s24le';

/** The samples of a WAVE file that hold those of this codec; exact where they come out as they went in. */
export function waveCodecFor({ codec, bitDepth }: Pick<Facts, 'codec' | 'bitDepth'>): {
  readonly codec: WaveCodec;
  readonly bitDepth: number;
  readonly isExact: boolean;
} {
  const found = exactFor(codec, bitDepth);
  const taken = found ?? forCoded;
  return { codec: taken, bitDepth: bitsOf[taken], isExact: found !== null };
}

function exactFor(codec: string, bitDepth: number | null): WaveCodec | null {
  const plain = /^pcm_([usf])(8|16|24|32|64)/.exec(codec);
  if (plain) {
    const [, kind, bits] = plain;
    // Unsigned samples of many bits are counted from their middle, which a decoder does; 8 bits stay as they are.
    if (bits === '8') return 'pcm_u8';
    return waveCodecs.find((one) => one === `pcm_${kind === 'f' ? 'f' : 's'}${bits}le`) ?? null;
  }
  // Telephony: 8 bits that stand for 14.
  if (codec === 'pcm_alaw' || codec === 'pcm_mulaw') return 'pcm_s16le';
  if (!withoutLoss.includes(codec) || bitDepth === null) return null;
  return bitDepth <= 16 ? 'pcm_s16le' : bitDepth <= 24 ? 'pcm_s24le' : 'pcm_s32le';
}
