import type { Preferences, Settings } from '@legame/core/contract';
import type { Looking } from '../context.ts';
import { settingsStore } from '../stores/settings.ts';

export const viewSettings = ({ db }: Looking): Promise<Settings> => settingsStore.get(db);
export const listPeople = ({ db }: Looking): Promise<string[]> => settingsStore.listPeople(db);
export const viewPreferences = ({ db }: Looking, person: string): Promise<Preferences> =>
  settingsStore.getPreferences(db, person);
