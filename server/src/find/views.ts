import type { Thing } from '@legame/core/contract';
import type { Looking } from '../context.ts';
import { findStore } from '../stores/find.ts';

/** What bears these words in its name, in any project and any place: the first few of each kind. */
export const findEverywhere = ({ db }: Looking, text: string): Promise<Thing[]> =>
  findStore.find(db, text.split(/\s+/).filter(Boolean));
