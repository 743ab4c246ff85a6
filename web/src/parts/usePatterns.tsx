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

/** The patterns of uses, for the drawing that holds them. */
export function UsePatterns() {
  const lines = (id: string, colour: string, rotate: number) => (
    <pattern id={id} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform={`rotate(${rotate})`}>
      <rect width="7" height="7" fill="var(--color-base-200)" />
      <rect width="2.4" height="7" fill={colour} />
    </pattern>
  );
  return (
    <defs>
      {lines('use-other-projects', 'var(--status-short)', 0)}
      {lines('use-wanted', 'var(--status-linked)', 45)}
      {lines('use-duplicate', 'var(--status-changed)', 45)}
      {lines('use-unused', 'var(--status-aside)', 135)}
      {lines('use-holding', 'var(--status-missing)', 90)}
      {lines('use-cache', 'var(--status-unreadable)', 45)}
    </defs>
  );
}
