import type { WeighedFile } from '@legame/core/contract';

/** What the panel shows instead of the comparison, while something is being decided. */
export type Mode =
  | { readonly kind: 'compare' }
  | { readonly kind: 'point' }
  | { readonly kind: 'waive' }
  | { readonly kind: 'copy' | 'swap'; readonly weighed: WeighedFile }
  | { readonly kind: 'carry'; readonly mediaFileId: string };
