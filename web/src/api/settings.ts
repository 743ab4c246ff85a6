import {
  peopleSchema,
  preferencesSchema,
  settingsSchema,
  type Preferences,
  type Settings,
} from '@legame/core/contract';
import { api } from './legame.ts';

const at = (person: string) => `people/${encodeURIComponent(person)}/preferences`;

/** How people like to work, and what is so for everybody. */
export const settings = api.injectEndpoints({
  endpoints: (build) => ({
    settings: build.query({
      query: () => 'settings',
      responseSchema: settingsSchema,
      providesTags: ['Places'],
    }),
    changeSettings: build.mutation({
      query: (body: Settings) => ({ url: 'settings', method: 'PUT', body }),
      responseSchema: settingsSchema,
      invalidatesTags: ['Places', 'Project'],
    }),
    people: build.query({
      query: () => 'people',
      responseSchema: peopleSchema,
      keepUnusedDataFor: 0,
    }),
    preferences: build.query({
      query: (person: string) => at(person),
      responseSchema: preferencesSchema,
      keepUnusedDataFor: 0,
    }),
    keepPreferences: build.mutation({
      query: ({ person, preferences }: { person: string; preferences: Preferences }) => ({
        url: at(person),
        method: 'PUT',
        body: preferences,
      }),
      responseSchema: preferencesSchema,
    }),
  }),
});
