import type { Facts, Unreadable } from '../model/media.ts';

/**
 * What a header tells: facts; or that a decoder should be asked, and why, with the reason should that fail too; or that
 * the file cannot be read, and why.
 */
export type HeaderReading =
  | { readonly kind: 'facts'; readonly facts: Facts }
  | { readonly kind: 'pass'; readonly because: string; readonly suspicion: Unreadable | null }
  | { readonly kind: 'unreadable'; readonly reason: Unreadable };

export const facts = (measured: Facts): HeaderReading => ({ kind: 'facts', facts: measured });
export const pass = (because: string, suspicion: Unreadable | null = null): HeaderReading => ({
  kind: 'pass',
  because,
  suspicion,
});
export const unreadable = (reason: Unreadable): HeaderReading => ({ kind: 'unreadable', reason });
