import { first } from './001-first.ts';

/** Numbered, forward only, in order. */
export const migrations = [first] as const;
