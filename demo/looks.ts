import { createHash } from 'node:crypto';

/**
 * What the pictures of Saltglass show, in the colours of its furnace, its glass and its yard: each take another moving
 * gradient behind another still shape, so that takes are told apart at a glance, and copies of one take are not.
 */
const looks = {
  furnace: { form: 'radial', colours: ['0xffc14a', '0xc2431a', '0x2a0d08'] },
  embers: { form: 'circular', colours: ['0xe8742c', '0x5a1a10', '0x150806'] },
  glass: { form: 'spiral', colours: ['0xbfe8d4', '0x3a8f83', '0x0f2f33'] },
  bottle: { form: 'linear', colours: ['0x86c06a', '0x2c6a46', '0x0c2418'] },
  hands: { form: 'circular', colours: ['0xf0d6b0', '0xa8713f', '0x3a2416'] },
  talk: { form: 'linear', colours: ['0xb9c6cf', '0x50707f', '0x1d2b33'] },
  sky: { form: 'linear', colours: ['0xd6e8f5', '0x6a9cc4', '0x5a6b4a'] },
  night: { form: 'radial', colours: ['0x53648a', '0x1c2440', '0x070a14'] },
  archive: { form: 'radial', colours: ['0xd9c79a', '0x8a7148', '0x33281a'] },
  paper: { form: 'linear', colours: ['0xefe4c8', '0xd2c29a', '0xb19c70'] },
} as const;

export type Look = keyof typeof looks;

/** Small, and made large by the scaler: what costs time is the gradient. */
const [width, height] = [64, 36];

/** A source of pictures for the encoder: `name` says which take, so that the same name and look are the same picture. */
export function picturesOf(look: Look, name: string, raster: { width: number; height: number }, fps: string): string {
  const { form, colours } = looks[look];
  const dice = createHash('sha256').update(`${look} ${name}`).digest();
  const among = (i: number, from: number, to: number) => from + Math.round((dice[i]! / 255) * (to - from));
  const points = `x0=${among(0, 4, 60)}:y0=${among(1, 2, 34)}:x1=${among(2, 4, 60)}:y1=${among(3, 2, 34)}`;
  const order = dice[4]! % 2 === 0 ? colours : colours.toReversed();
  const boxes = [5, 10].map((i) => {
    const [wide, high] = [among(i, 4, 22), among(i + 1, 4, 20)];
    const at = `x=${among(i + 2, 2, width - wide)}:y=${among(i + 3, 2, height - high)}`;
    return `drawbox=${at}:w=${wide}:h=${high}:color=${colours[dice[i + 4]! % 3]!}@0.8:t=fill`;
  });
  return [
    `gradients=s=${width}x${height}:r=${fps}:n=3:${order.map((c, i) => `c${i}=${c}`).join(':')}:${points}:speed=${0.004 + among(15, 0, 12) / 1000}:type=${form}`,
    ...boxes,
    'format=yuv420p',
    `scale=${raster.width}:${raster.height}:flags=bilinear`,
  ].join(',');
}
