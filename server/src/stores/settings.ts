import { defaultHeadroomShare } from '@legame/core/consolidate';
import { saidPreferencesSchema, standardPreferences, type Preferences, type Settings } from '@legame/core/contract';
import type { Database, Transaction } from '../db/database.ts';

type Row = { headroom_percent: number; cache_limit_in_mb: number | null };

export const settingsStore = {
  async get(db: Database | Transaction): Promise<Settings> {
    const row = (await db('settings').first()) as Row | undefined;
    return {
      headroomPercent: row?.headroom_percent ?? Math.round(defaultHeadroomShare * 100),
      cacheLimitInMB: row?.cache_limit_in_mb ?? null,
    };
  },
  async put(db: Database | Transaction, { headroomPercent, cacheLimitInMB }: Settings): Promise<void> {
    await db('settings')
      .insert({ is_it: true, headroom_percent: headroomPercent, cache_limit_in_mb: cacheLimitInMB })
      .onConflict('is_it')
      .merge();
  },
  /** The share of a drive that is kept free. */
  async headroomShare(db: Database | Transaction): Promise<number> {
    return (await settingsStore.get(db)).headroomPercent / 100;
  },
  async listPeople(db: Database | Transaction): Promise<string[]> {
    return (await db('people').orderBy('name').pluck('name')) as string[];
  },
  /** Of somebody who is not known what is so for everybody. */
  async getPreferences(db: Database | Transaction, person: string): Promise<Preferences> {
    const row = (await db('people').where({ name: person }).first('preferences')) as
      { preferences: unknown } | undefined;
    return row ? saidPreferencesSchema.parse(row.preferences) : standardPreferences;
  },
  async putPreferences(db: Database | Transaction, person: string, preferences: Preferences): Promise<void> {
    await db('people')
      .insert({ name: person, preferences: JSON.stringify(preferences), changed_at: new Date() })
      .onConflict('name')
      .merge();
  },
};
