import type { Thing } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import type { Looking } from '../context.ts';
import { findStore } from '../stores/find.ts';

/** What bears these words in its name, in any project and any place: the first few of each kind. */
export const findEverywhere = (
  { db }: Looking,
  { text, beside }: { readonly text: string; readonly beside?: ProjectId | undefined },
): Promise<Thing[]> => findStore.find(db, text.split(/\s+/).filter(Boolean), beside ?? null);
