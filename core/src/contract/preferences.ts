import { z } from 'zod';
import { list } from './basics.ts';

export const themes = ['paper', 'lamp'] as const;
export const densities = ['roomy', 'close'] as const;
export const dateStyles = ['words', 'year-first', 'day-first'] as const;
export const dropFrameMarks = ['semicolon', 'period'] as const;
export type DateStyle = (typeof dateStyles)[number];
export type DropFrameMark = (typeof dropFrameMarks)[number];

/** How one person likes to work. */
export const preferencesSchema = z.object({
  theme: z.enum(themes),
  density: z.enum(densities),
  dates: z.enum(dateStyles),
  /** What stands before the frames of timecode that drops numbers. */
  dropFrame: z.enum(dropFrameMarks),
  /** What plans of handoffs begin with, in frames of the timelines' rate. */
  handlesInFrames: z.int().min(0).max(100_000),
  /** Whether keys are shown beside what they do. */
  areKeysShown: z.boolean(),
  /** Whether rows of the ledger show a small picture of their file. */
  arePicturesShown: z.boolean(),
});
export type Preferences = z.infer<typeof preferencesSchema>;
export const standardPreferences: Preferences = {
  ...{ theme: 'paper', density: 'roomy', dates: 'words', dropFrame: 'semicolon' },
  ...{ handlesInFrames: 24, areKeysShown: true, arePicturesShown: false },
};
/** As they are said and kept: what is not said is as it is for everybody. */
export const saidPreferencesSchema = preferencesSchema
  .partial()
  .transform((said): Preferences => ({ ...standardPreferences, ...said }));

/** Under this name somebody finds their preferences again, in any browser. */
export const personSchema = z.string().trim().min(1).max(80);
export const peopleSchema = list(z.string());

/** What is so for everybody who uses this Legame. */
export const settingsSchema = z.object({
  /** The share of a drive that is kept free. */
  headroomPercent: z.int().min(0).max(80),
  /** Room for pictures, strips and previews that can be made again; null: as this Legame was started. */
  cacheLimitInMB: z.int().min(50).max(10_000_000).nullable(),
});
export type Settings = z.infer<typeof settingsSchema>;
