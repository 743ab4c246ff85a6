import { nominalRate, type Rate } from './rate.ts';

/**
 * Whether a start address is one that devices and exports are set to begin with: zero, or a whole hour. By the clock a
 * take begins there once in ninety thousand times; where many takes of one name are about, it tells them not apart.
 */
export const isCommonStart = (frames: number, rate: Rate): boolean => frames % (nominalRate(rate) * 3600) === 0;
