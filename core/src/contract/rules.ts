import { z } from 'zod';
import type { RuleSet } from '../match/rules.ts';
import type { MatchRules } from '../match/rules.ts';
import { of, list, clipIdSchema, kindSchema, mediaFileIdSchema, placeIdSchema } from './basics.ts';
import { forms } from '../match/forms.ts';
import { enrichments } from '../match/prepare.ts';

const weightSchema = z.enum(['must', 'counts', 'ignored']);

export const weightsSchema = of<MatchRules['weights']>()(
  z.object({
    name: weightSchema,
    folder: weightSchema,
    reel: weightSchema,
    timecode: weightSchema,
    length: weightSchema,
    rate: weightSchema,
    raster: weightSchema,
    content: weightSchema,
    kind: weightSchema,
    codec: weightSchema,
    sound: weightSchema,
    size: weightSchema,
    date: weightSchema,
  }),
);

export const rulesSchema = of<MatchRules>()(
  z.object({
    weights: weightsSchema,
    ignoreCase: z.boolean(),
    ignoreExtension: z.boolean(),
    acrossRates: z.boolean(),
    within: z
      .array(z.object({ placeId: placeIdSchema, folder: z.string().max(4096) }))
      .max(200)
      .readonly()
      .nullable(),
    kinds: z.array(kindSchema).max(4).readonly().nullable(),
  }),
);

export const ruleSetSchema = of<RuleSet>()(z.object({ name: z.string().trim().min(1).max(60), rules: rulesSchema }));

/** Everything that deciding needs, in short, so that rules can be tried in the browser. Candidates are [file, marks, levels, form]. */
export const weighedClipsSchema = z.object({
  rules: rulesSchema,
  preferredForm: z.enum(forms),
  clips: list(
    z.object({
      id: clipIdSchema,
      name: z.string(),
      reelKey: z.string(),
      parentKey: z.string().nullable(),
      stemKey: z.string(),
      start: z.int().nullable(),
      origin: z.string().nullable(),
      enriched: z.enum(enrichments).nullable(),
      nameIsCommon: z.boolean(),
      startIsCommon: z.boolean(),
      outOfTime: z.int(),
      leftOut: z.int(),
      isDark: z.boolean(),
      tiedTo: mediaFileIdSchema.nullable(),
      candidates: list(z.tuple([z.int(), z.int(), z.int(), z.enum(forms).nullable()])),
    }),
  ),
  files: list(
    z.object({
      id: mediaFileIdSchema,
      placeId: placeIdSchema,
      folder: z.string(),
      name: z.string(),
      kind: kindSchema.nullable(),
      state: z.enum(['readable', 'unread', 'unusable']),
      bytes: z.string().nullable(),
      there: z.boolean(),
      reelKey: z.string(),
    }),
  ),
});

export type WeighedClips = z.infer<typeof weighedClipsSchema>;

export const ruleSetsSchema = list(ruleSetSchema.extend({ shipped: z.boolean() }));

export type RuleSets = z.infer<typeof ruleSetsSchema>;

export const rulesRequestSchema = rulesSchema;

export const ruleSetsRequestSchema = z.array(ruleSetSchema).max(50).readonly();
