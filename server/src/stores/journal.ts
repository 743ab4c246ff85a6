import { z } from 'zod';
import type { ClipId, MediaFileId, PlaceId, ProjectId } from '@legame/core';
import type { Database, Transaction } from '../db/database.ts';
import type { LinkRecord, SetAside } from './clips.ts';

export type Verb = 'link' | 'link-by-rule' | 'carry' | 'unlink' | 'park' | 'waive' | 'take-up' | 'decline';

/** One clip's part of an act: what was before and what is after, enough to go either way. */
export type ClipChange =
  | {
      readonly what: 'link';
      readonly clipId: ClipId;
      readonly before: LinkRecord | null;
      readonly after: LinkRecord | null;
    }
  | {
      readonly what: 'set-aside';
      readonly clipId: ClipId;
      readonly before: SetAside | null;
      readonly after: SetAside | null;
    }
  | { readonly what: 'decline'; readonly clipId: ClipId; readonly mediaFileId: MediaFileId };

/** A name under which the edit knows a place, learned from the links of an act; it goes when they go. */
export type NameLearned = { readonly what: 'learn'; readonly placeId: PlaceId; readonly name: string };
export type Change = ClipChange | NameLearned;

export type JournalEntry = {
  readonly id: number;
  readonly verb: Verb;
  readonly changes: readonly Change[];
  /** How many clips it changed. */
  readonly clips: number;
  readonly undone: boolean;
  readonly madeAt: Date;
};

const rowSchema = z.object({
  id: z.coerce.number(),
  verb: z.custom<Verb>(),
  changes: z.array(z.custom<Change>((v) => typeof v === 'object' && v !== null && 'what' in v)),
  undone: z.boolean(),
  made_at: z.date(),
});
function toEntry(row: unknown): JournalEntry {
  const r = rowSchema.parse(row);
  const clips = r.changes.filter((c) => c.what !== 'learn').length;
  return { id: r.id, verb: r.verb, changes: r.changes, clips, undone: r.undone, madeAt: r.made_at };
}

export const journalStore = {
  async append(
    db: Database | Transaction,
    projectId: ProjectId,
    verb: Verb,
    changes: readonly Change[],
  ): Promise<JournalEntry> {
    const [row] = (await db('journal')
      .insert({ project_id: projectId, verb, changes: JSON.stringify(changes) })
      .returning('*')) as unknown[];
    return toEntry(row);
  },
  /** The newest act that has not been undone. */
  async findLast(db: Database | Transaction, projectId: ProjectId): Promise<JournalEntry | null> {
    const row: unknown = await db('journal')
      .where({ project_id: projectId, undone: false })
      .orderBy('id', 'desc')
      .first();
    return row ? toEntry(row) : null;
  },
  async listEntries(db: Database | Transaction, projectId: ProjectId): Promise<JournalEntry[]> {
    return ((await db('journal').where({ project_id: projectId }).orderBy('id', 'desc').limit(500)) as unknown[]).map(
      toEntry,
    );
  },
  async markUndone(db: Database | Transaction, id: number): Promise<void> {
    await db('journal').where({ id }).update({ undone: true });
  },
};
