import { setFlagsFromString } from 'node:v8';

const setGrowth = (percent: number): void => setFlagsFromString(`--heap-growing-percent=${percent}`);
/** What the engine does when left alone. */
const asUsual = 100;
let sparing = asUsual;
let growing = 0;

/**
 * Left alone, memory grows to twice what is needed before the engine looks for what is not. An engine that knows no such
 * flag goes on as it likes.
 */
export function letMemoryGrowBy(percent: number): void {
  sparing = percent;
  if (growing === 0) setGrowth(percent);
}

/** While much is read in that stays: to look through all of it again and again finds nothing that nobody needs. */
export async function whileMemoryFills<T>(use: () => Promise<T>): Promise<T> {
  growing += 1;
  setGrowth(asUsual);
  try {
    return await use();
  } finally {
    growing -= 1;
    if (growing === 0) setGrowth(sparing);
  }
}
