import { codecCheck } from './codec.ts';
import { contentCheck } from './content.ts';
import { dateCheck } from './date.ts';
import type { AttributeCheck } from './evidence.ts';
import { folderCheck } from './folder.ts';
import { kindCheck } from './kind.ts';
import { lengthCheck } from './length.ts';
import { nameCheck } from './name.ts';
import { rasterCheck } from './raster.ts';
import { rateCheck } from './rate.ts';
import { reelCheck } from './reel.ts';
import { sizeCheck } from './size.ts';
import { soundCheck } from './sound.ts';
import { timecodeCheck } from './timecode.ts';

/** Every kind of evidence, in the order of `attributes`. Adding one is adding a file, a line here and its name there. */
export const checks: readonly AttributeCheck[] = [
  nameCheck,
  folderCheck,
  reelCheck,
  timecodeCheck,
  lengthCheck,
  rateCheck,
  rasterCheck,
  contentCheck,
  kindCheck,
  codecCheck,
  soundCheck,
  sizeCheck,
  dateCheck,
];
