import type { BinPath } from '@legame/core/bins';

/** The bin that is open, as it stands in the address: a part for each bin it stands in. */
export const binAddress = (bin: BinPath): URLSearchParams => new URLSearchParams(bin.map((name) => ['bin', name]));
