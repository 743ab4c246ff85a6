import { z } from 'zod';
import { columnRoleSchema } from '@legame/core/contract';
import type { ColumnRole } from '@legame/core/remarks';
import type { Database, Transaction } from '../db/database.ts';

/** Logs with the same headers mean the same by them; case and spaces do not tell logs apart. */
const keyOf = (headers: readonly string[]): string => JSON.stringify(headers.map((h) => h.trim().toLowerCase()));

/** What the columns of a shot log meant when one with these headers was last mapped. */
export const logMappingStore = {
  async findRoles(db: Database | Transaction, headers: readonly string[]): Promise<ColumnRole[] | null> {
    const row = (await db('log_mappings')
      .where({ headers: keyOf(headers) })
      .first('roles')) as { roles: unknown } | undefined;
    return row ? z.array(columnRoleSchema).parse(row.roles) : null;
  },
  async rememberRoles(
    db: Database | Transaction,
    headers: readonly string[],
    roles: readonly ColumnRole[],
  ): Promise<void> {
    await db('log_mappings')
      .insert({ headers: keyOf(headers), roles: JSON.stringify(roles), used_at: new Date() })
      .onConflict('headers')
      .merge();
  },
};
