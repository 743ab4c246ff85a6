import { setFlagsFromString } from 'node:v8';

/**
 * Left alone, memory grows to twice what is needed before the engine looks for what is not. An engine that knows no such
 * flag goes on as it likes.
 */
export const letMemoryGrowBy = (percent: number): void => setFlagsFromString(`--heap-growing-percent=${percent}`);
