import { z } from 'zod';
import type { NotPutBack } from './problems.ts';
import { list, clipIds, clipIdSchema, time, union, interpretationSchema, rateSchema } from './basics.ts';
import { binPathSchema, labelSchema, notedSchema } from './bins.ts';
import { causeKindSchema } from './causes.ts';
import { folderTemplateSchema } from './folders.ts';
import { healthSubjectSchema } from './health.ts';
import { pullRequestSchema } from './pulls.ts';
import { healthChecks } from '../health/index.ts';
import { forms } from '../match/forms.ts';

/** What an act followed from, for the history. */
export const aboutSchema = z.discriminatedUnion('code', [
  z.object({
    code: z.literal('cause'),
    kind: causeKindSchema,
  }),
  z.object({ code: z.literal('folder'), from: z.string(), to: z.string() }),
  z.object({ code: z.literal('carry'), from: z.string(), to: z.string() }),
  z.object({ code: z.literal('form'), form: z.enum(forms) }),
  z.object({ code: z.literal('checkpoint'), name: z.string() }),
  z.object({ code: z.literal('reason'), text: z.string() }),
  z.object({ code: z.literal('files'), files: z.int() }),
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
  'bring-home',
  'rename',
  'follow',
  'park',
  'waive',
  'take-up',
  'decline',
  'pin',
  'unpin',
  'interpret',
  'file',
  'label',
  'note',
  'edit-bins',
  'edit-labels',
  'set-home',
  'set-folders',
  'accept',
  'accept-no-more',
  'mark-pulls',
  'return',
] as const;

export type Verb = (typeof verbs)[number];

/** Why an act leaves a clip as it is. */
export const whySkipped = ['pinned', 'decided-since', 'not-certain', 'differs', 'file-gone', 'contested'] as const;
export type WhySkipped = (typeof whySkipped)[number];

export const actSchema = z.object({
  id: z.int(),
  verb: z.enum(verbs),
  count: z.int(),
  madeAt: time,
  skipped: list(z.object({ clipId: clipIdSchema, why: z.enum(whySkipped) })),
});

export type Act = z.infer<typeof actSchema>;

/** Which act is meant; the newest where nothing is said. */
export const undoRequestSchema = z.object({ act: z.int().optional() });

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

/** Null stands for a clip, a file or a place that is not known any more, or for nothing. */
const changed = <W extends string, S extends z.ZodType>(what: W, state: S) =>
  z.object({
    clipName: z.string().nullable(),
    what: z.literal(what),
    before: state.nullable(),
    after: state.nullable(),
  });
const asideSchema = z.object({ as: z.enum(['parked', 'waived']), reason: z.string() });
/** A file by place, folders and name; null within where its place was forgotten. */
const fileThenSchema = z.object({ path: z.string().nullable() });
const readThenSchema = interpretationSchema.extend({ statedRate: rateSchema.nullable() });
export const historyChangeSchema = z.discriminatedUnion('what', [
  changed('link', fileThenSchema),
  changed('decline', fileThenSchema),
  changed('follows', fileThenSchema),
  changed('offline', z.boolean()),
  changed('pin', z.boolean()),
  changed('set-aside', asideSchema),
  changed('interpret', readThenSchema),
  /** What is noted of a clip; its label by name, null where that is not known any more. */
  changed('note', notedSchema),
  z.object({ what: z.literal('bins'), before: list(binPathSchema), after: list(binPathSchema) }),
  z.object({ what: z.literal('labels'), before: list(labelSchema), after: list(labelSchema) }),
  /** The home of the project as a path: its place by name, and the folder. */
  z.object({ what: z.literal('home'), before: z.string().nullable(), after: z.string().nullable() }),
  z.object({
    what: z.literal('folders'),
    before: folderTemplateSchema.nullable(),
    after: folderTemplateSchema.nullable(),
  }),
  /** What a check found, and the note with which it was accepted. */
  z.object({
    what: z.literal('accept'),
    check: z.enum(healthChecks),
    subject: healthSubjectSchema,
    before: z.string().nullable(),
    after: z.string().nullable(),
  }),
  /** What is said of a source that is to be fetched. */
  z.object({
    what: z.literal('pull'),
    reel: z.string().nullable(),
    file: z.string(),
    before: pullRequestSchema.nullable(),
    after: pullRequestSchema.nullable(),
  }),
  /** A file of a place got another name: the folder it lies in, and its names; the folder null where it is forgotten. */
  z.object({ what: z.literal('rename'), folder: z.string().nullable(), before: z.string(), after: z.string() }),
  z.object({ what: z.literal('learn'), placeName: z.string().nullable(), name: z.string() }),
]);

const checkpointSchema = z.object({
  id: z.int(),
  /** Empty where nobody named it: it was set by itself before an act on many clips. */
  name: z.string(),
  madeAt: time,
  before: z.object({ verb: z.enum(verbs), count: z.int() }).nullable(),
});
export type CheckpointView = z.infer<typeof checkpointSchema>;

export const historySchema = z.object({
  entries: list(historyEntrySchema),
  checkpoints: list(checkpointSchema),
});

export type History = z.infer<typeof historySchema>;

export type HistoryEntry = z.infer<typeof historyEntrySchema>;

export type HistoryChange = z.infer<typeof historyChangeSchema>;

/** What is otherwise in one state than in another: the first of many changes, and how many there are. */
export const comparedStatesSchema = z.object({ count: z.int(), changes: list(historyChangeSchema) });
export type ComparedStates = z.infer<typeof comparedStatesSchema>;

/** The checkpoint to compare with; the present state when absent. */
export const compareQuerySchema = z.object({ with: z.coerce.number().int().positive().optional() });

export const newCheckpointSchema = z.object({ name: z.string().trim().min(1).max(120) });

export const putBackAnswerSchema = z.object({
  started: z.int(),
  skipped: list(
    z.object({
      clipId: clipIdSchema,
      why: union<NotPutBack>()('code', [
        'clip-gone',
        'not-tied',
        'lies-there',
        'unreadable',
        'sequence',
        'no-path',
        'no-place',
        'place-away',
        'place-read-only',
        'taken',
      ]),
    }),
  ),
});
export type PutBackAnswer = z.infer<typeof putBackAnswerSchema>;
