import { z } from 'zod';
import { list, clipIds, clipIdSchema, time, union } from './basics.ts';
import type { CauseKind } from '../match/cause.ts';
import { forms } from '../match/forms.ts';

/** What an act followed from, for the history. */
export const aboutSchema = z.discriminatedUnion('code', [
  z.object({
    code: z.literal('cause'),
    kind: union<CauseKind>()('code', [
      'place-away',
      'unreadable',
      'volume-unknown',
      'taken-offline',
      'gone',
      'short',
      'displaced',
      'choice',
      'alone',
      'replaced',
      'being-read',
    ]),
  }),
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
  skipped: list(z.object({ clipId: clipIdSchema, why: z.string() })),
});

export type Act = z.infer<typeof actSchema>;

export const putBackRequestSchema = z.object({ clipIds });

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
  entries: list(historyEntrySchema),
  checkpoints: list(z.object({ id: z.int(), name: z.string(), madeAt: time })),
});

export type History = z.infer<typeof historySchema>;

export type HistoryEntry = z.infer<typeof historyEntrySchema>;

export type HistoryChange = z.infer<typeof historyChangeSchema>;

export const newCheckpointSchema = z.object({ name: z.string().trim().min(1).max(120) });
