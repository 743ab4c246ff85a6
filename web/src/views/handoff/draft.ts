import { standardChoices } from '@legame/core/consolidate';
import type { HandoffChoices, HandoffLayout } from '@legame/core/contract';

/** What is chosen so far. Timelines are left out rather than in, so that one that comes later is in. */
export type Draft = {
  readonly name: string;
  readonly targetFolder: string;
  readonly layout: HandoffLayout;
  readonly left: readonly string[];
  readonly choices: HandoffChoices;
};

export const firstDraft = (name: string): Draft => ({
  name,
  targetFolder: '',
  layout: 'folder',
  left: [],
  choices: { ...standardChoices, picture: 'trim' },
});
