import type { Preferences, Settings } from '@legame/core/contract';
import type { Context } from '../context.ts';
import { tell } from '../events/tell.ts';
import { settingsStore } from '../stores/settings.ts';

/** Says what is so for everybody who uses this Legame. */
export async function changeSettings({ db }: Pick<Context, 'db'>, settings: Settings): Promise<Settings> {
  await settingsStore.put(db, settings);
  // Whoever looks at a drive, or at a plan for one, is told otherwise from now on.
  await tell(db, 'places');
  return settings;
}

/** Keeps how somebody likes to work. */
export async function changePreferences(
  { db }: Pick<Context, 'db'>,
  person: string,
  preferences: Preferences,
): Promise<Preferences> {
  await settingsStore.putPreferences(db, person, preferences);
  return preferences;
}
