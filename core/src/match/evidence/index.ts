import type { AttributeCheck } from './evidence.ts';
import { folderCheck } from './folder.ts';
import { lengthCheck } from './length.ts';
import { nameCheck } from './name.ts';
import { rasterCheck } from './raster.ts';
import { rateCheck } from './rate.ts';
import { reelCheck } from './reel.ts';
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
];
