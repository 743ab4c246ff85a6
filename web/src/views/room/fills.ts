import type { MediaUse } from '@legame/core/contract';

const fills: Readonly<Record<MediaUse, string>> = {
  'this-project': 'var(--linked-block)',
  'other-projects': 'url(#use-other-projects)',
  wanted: 'url(#use-wanted)',
  duplicate: 'url(#use-duplicate)',
  unused: 'url(#use-unused)',
  holding: 'url(#use-holding)',
  cache: 'url(#use-cache)',
  other: 'var(--color-base-300)',
};

/** How each use is filled: never by colour alone, each has its own pattern. */
export const useFill = () => (use: MediaUse) => fills[use];
