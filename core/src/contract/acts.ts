import { z } from 'zod';
import { forms } from '../match/forms.ts';
import type { CauseKind } from '../match/causes.ts';
import type { TimecodeDisplacement } from '../match/displacement.ts';
import {
  attributeSchema,
  factsSchema,
  clipIdSchema,
  interpretationSchema,
  kindSchema,
  mediaFileIdSchema,
  placeIdSchema,
  rangeSchema,
  rateSchema,
  countingSchema,
  rulesSchema,
  ruleSetSchema,
  statusSchema,
  union,
  verdictSchema,
} from './model.ts';

/** What is changed about links, and what leads to it: causes, carry, rules, timecode, folders, forms, history. */
const time = z.iso.datetime();
const clipIds = z.array(clipIdSchema).min(1).max(100_000);

export const foundSchema = z.object({
  mediaFileId: mediaFileIdSchema,
  /** Part of the address of its pictures. */
  version: z.string(),
  name: z.string(),
  placeName: z.string(),
  folder: z.string(),
});

/** What an act followed from, for the history. */
export const aboutSchema = z.discriminatedUnion('code', [
  z.object({ code: z.literal('cause'), kind: union<CauseKind>('code') }),
  z.object({ code: z.literal('folder'), from: z.string(), to: z.string() }),
  z.object({ code: z.literal('carry'), from: z.string(), to: z.string() }),
  z.object({ code: z.literal('form'), form: z.enum(forms) }),
  z.object({ code: z.literal('checkpoint'), name: z.string() }),
  z.object({ code: z.literal('reason'), text: z.string() }),
]);
export type About = z.infer<typeof aboutSchema>;

/** All that can be done to the clips of a project; each is one entry of its history. */
export const verbs = [
  'link',
  'link-by-rule',
  'carry',
  'mend',
  'unlink',
  'swap',
  'change-folder',
  'switch-form',
  'put-back',
  'follow',
  'park',
  'waive',
  'take-up',
  'decline',
  'pin',
  'unpin',
  'interpret',
  'return',
] as const;
export type Verb = (typeof verbs)[number];

export const actSchema = z.object({
  id: z.int(),
  verb: z.enum(verbs),
  count: z.int(),
  madeAt: time,
  skipped: z.array(z.object({ clipId: clipIdSchema, why: z.string() })),
});
export type Act = z.infer<typeof actSchema>;

/** One clip in a preview: the file it would get, and what keeps it from getting it. */
export const memberSchema = z.object({
  clipId: clipIdSchema,
  clipName: z.string(),
  screenSeconds: z.number(),
  file: foundSchema.nullable(),
  verdicts: z.array(verdictSchema).nullable(),
  /** Whether it would be linked. */
  fits: z.boolean(),
  certain: z.boolean(),
  differs: z.array(attributeSchema),
  interpretation: interpretationSchema.nullable(),
  /** Its status once it is linked so, by the same function that tells it afterwards; null where it would not be. */
  after: statusSchema.nullable(),
  /** Why it is left out where the act leaves it out by itself. */
  leftOut: z.enum(['choice', 'contested', 'nothing-found', 'pinned', 'taken-offline']).nullable(),
  /** A constant that would make the file cover what is used, where as it stands it does not. */
  offset: interpretationSchema.nullable(),
});
export type Member = z.infer<typeof memberSchema>;

export const causeSchema = z.object({
  key: z.string(),
  kind: union<CauseKind>('code'),
  certainty: z.enum(['certain', 'likely', 'open']),
  clipIds: z.array(clipIdSchema),
  screenSeconds: z.number(),
  /** How many its remedy links, and how many it accounts for and leaves. */
  links: z.int(),
  apart: z.int(),
  /** A few of its clips by name. */
  samples: z.array(z.string()),
  /** Attributes that agree, or nearly do, for all that would be linked. */
  agreeing: z.array(attributeSchema),
  /** Of what is only likely: what nobody says, and would prove it; and the least independent recordings behind a link. */
  wanting: z.array(attributeSchema),
  witnesses: z.int(),
});
export type CauseView = z.infer<typeof causeSchema>;
export const causesSchema = z.object({ causes: z.array(causeSchema), dark: z.int(), parked: z.int(), files: z.int() });
export type Causes = z.infer<typeof causesSchema>;
/**
 * `backSeconds`: the screen time of the cut that comes back, each frame counted once. `alternatives`: the folders that a
 * person may say hold the right files, where nothing says it for them.
 */
export const causePreviewSchema = z.object({
  cause: causeSchema,
  members: z.array(memberSchema),
  backSeconds: z.number(),
  alternatives: z.array(z.string()),
});
export const linkPreviewSchema = z.object({ members: z.array(memberSchema), backSeconds: z.number() });
export type LinkPreview = z.infer<typeof linkPreviewSchema>;
export type CausePreview = z.infer<typeof causePreviewSchema>;
export const mendRequestSchema = z.object({
  /** Where a person has to say: the folder in which the right files lie. */
  alternative: z.string().max(4096).optional(),
  /** Clips of the cause that are left as they are. */
  except: z.array(clipIdSchema).max(100_000).optional(),
});

export const pinRequestSchema = z.object({ clipIds, pinned: z.boolean() });

export const interpretRequestSchema = z.object({
  clips: z
    .array(z.object({ clipId: clipIdSchema, interpretation: interpretationSchema.nullable() }))
    .min(1)
    .max(100_000),
});

/** A clip on the timecode bench: how the edit counts, how it is read now, and what its file carries. */
export const benchRowSchema = z.object({
  clipId: clipIdSchema,
  clipName: z.string(),
  reel: z.string().nullable(),
  status: statusSchema,
  stated: z.object({
    rate: rateSchema,
    counting: countingSchema,
    available: rangeSchema.nullable(),
    used: z.array(rangeSchema),
  }),
  interpretation: interpretationSchema.nullable(),
  /** The file it is tied to, else its closest candidate. */
  file: foundSchema
    .extend({
      facts: factsSchema.nullable(),
      isTied: z.boolean(),
    })
    .nullable(),
  /** How the edit, as it is read now, stands apart from the file; null where it does not. */
  apart: union<TimecodeDisplacement>('kind').nullable(),
  uncoveredInFrames: z.int().nullable(),
});
export type BenchRow = z.infer<typeof benchRowSchema>;

export const folderRequestSchema = z.object({
  from: z.string().trim().max(4096),
  to: z.string().trim().max(4096),
  /** Only these clips; all dark ones when absent. */
  clipIds: clipIds.optional(),
});
export const folderPreviewSchema = z.object({ reached: z.int(), members: z.array(memberSchema) });
export type FolderPreview = z.infer<typeof folderPreviewSchema>;

export const formSchema = z.enum(forms);
export const formRequestSchema = z.object({ form: formSchema, clipIds: clipIds.optional() });
export const renditionsSchema = z.object({
  preferred: formSchema.nullable(),
  /** How many linked clips have their recording in each form as well. */
  available: z.array(z.object({ form: formSchema, clips: z.int() })),
});
export type Renditions = z.infer<typeof renditionsSchema>;
export const renditionSchema = foundSchema.extend({ form: formSchema });

export const putBackRequestSchema = z.object({ clipIds });

/** Everything that deciding needs, in short, so that rules can be tried in the browser. Candidates are [file, marks, levels, form]. */
export const weighedClipsSchema = z.object({
  rules: rulesSchema,
  preferredForm: z.enum(forms),
  clips: z.array(
    z.object({
      id: clipIdSchema,
      name: z.string(),
      reelKey: z.string(),
      parentKey: z.string().nullable(),
      stemKey: z.string(),
      start: z.int().nullable(),
      origin: z.string().nullable(),
      nameIsCommon: z.boolean(),
      startIsCommon: z.boolean(),
      outOfTime: z.int(),
      leftOut: z.int(),
      isDark: z.boolean(),
      tiedTo: mediaFileIdSchema.nullable(),
      candidates: z.array(z.tuple([z.int(), z.int(), z.int(), z.enum(forms).nullable()])),
    }),
  ),
  files: z.array(
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
export const ruleSetsSchema = z.array(ruleSetSchema.extend({ shipped: z.boolean() }));
export type RuleSets = z.infer<typeof ruleSetsSchema>;

/** One act in the history, with a few of its changes before and after in words to be. */
export const historyEntrySchema = z.object({
  id: z.int(),
  verb: z.enum(verbs),
  about: aboutSchema.nullable(),
  count: z.int(),
  madeAt: time,
  state: z.enum(['done', 'undone', 'overtaken']),
});
export const historyChangeSchema = z.object({
  clipName: z.string(),
  what: z.enum(['link', 'offline', 'set-aside', 'decline', 'pin', 'interpret', 'learn', 'follows']),
  before: z.string(),
  after: z.string(),
});
export const historySchema = z.object({
  entries: z.array(historyEntrySchema),
  checkpoints: z.array(z.object({ id: z.int(), name: z.string(), madeAt: time })),
});
export type History = z.infer<typeof historySchema>;
export type HistoryEntry = z.infer<typeof historyEntrySchema>;
export type HistoryChange = z.infer<typeof historyChangeSchema>;
export const newCheckpointSchema = z.object({ name: z.string().trim().min(1).max(120) });
