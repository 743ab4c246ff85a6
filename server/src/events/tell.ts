import type { Announcement } from '@legame/core/contract';
import type { Database, Transaction } from '../db/database.ts';

export const changeChannel = 'legame_changes';

/** Tells every open screen that something changed, when the transaction commits. */
export async function tell(
  db: Database | Transaction,
  topic: Announcement['topic'],
  id: string | null = null,
): Promise<void> {
  await db.raw('select pg_notify(?, ?)', [changeChannel, JSON.stringify({ topic, id } satisfies Announcement)]);
}
