import { z } from 'zod';
import type { HandoffId, MediaFileId, PlaceId, ProjectId, ClipId } from '../model/ids.ts';
import type { WayHome } from '../health/index.ts';
import {
  list,
  clipIdSchema,
  handoffIdSchema,
  jobIdSchema,
  mediaFileIdSchema,
  of,
  placeIdSchema,
  projectIdSchema,
  time,
  union,
} from './basics.ts';
import { shelfRequestSchema } from './drives.ts';
import { problemSchema } from './problems.ts';
import { trialScopes } from './reading.ts';

/** A file in use, and where in the place of home it goes. */
const wayHomeSchema = of<WayHome>()(z.object({ mediaFileId: mediaFileIdSchema, path: z.string() }));

/** What each kind of job is about: all that it needs to begin, and what tells two of a kind apart. */
export const jobPayloads = {
  'index-place': of<{ placeId: PlaceId; folder: string }>()(
    z.object({ placeId: placeIdSchema, /** Empty for the whole place. */ folder: z.string() }),
  ),
  'match-project': of<{ projectId: ProjectId }>()(z.object({ projectId: projectIdSchema })),
  'run-handoff': of<{ handoffId: HandoffId }>()(z.object({ handoffId: handoffIdSchema })),
  'unpack-bundle': z.object({ unpackingId: z.uuid() }),
  'trial-read': z.object({ trialId: z.uuid(), scope: z.enum(trialScopes) }),
  'accepted-copy': z.object({ copyId: z.uuid() }),
  'fetch-shelved': shelfRequestSchema,
  'hash-files': of<{ mediaFileId: MediaFileId }>()(z.object({ mediaFileId: mediaFileIdSchema })),
  'put-back': of<{ clipId: ClipId }>()(z.object({ clipId: clipIdSchema })),
  'bring-home': of<{ id: string; projectId: ProjectId; placeId: PlaceId; files: readonly WayHome[] }>()(
    z.object({ id: z.uuid(), projectId: projectIdSchema, placeId: placeIdSchema, files: list(wayHomeSchema) }),
  ),
  'check-set': z.object({ checkId: z.uuid() }),
  'open-set': of<{ projectId: ProjectId; placeId: PlaceId }>()(
    z.object({ projectId: projectIdSchema, placeId: placeIdSchema }),
  ),
} as const;
export type JobKind = keyof typeof jobPayloads;
export type JobPayload<K extends JobKind> = z.infer<(typeof jobPayloads)[K]>;

/** What a job is doing just now. */
export type Doing =
  | { readonly code: 'listing'; readonly folder: string }
  | { readonly code: 'reading'; readonly file: string }
  | { readonly code: 'read' }
  | { readonly code: 'weighing'; readonly files: number; readonly clips: number }
  | { readonly code: 'matched' }
  | { readonly code: 'hashing'; readonly file: string }
  | { readonly code: 'decoding'; readonly file: string }
  | { readonly code: 'tried' }
  | { readonly code: 'copying'; readonly file: string }
  | { readonly code: 'writing'; readonly file: string }
  | { readonly code: 'finishing' }
  | { readonly code: 'fetching'; readonly shelf: 'recycle' | 'vault'; readonly file: string }
  | { readonly code: 'making-copy'; readonly file: string; readonly codec: string }
  | { readonly code: 'unpacking'; readonly file: string }
  | { readonly code: 'waiting-for'; readonly what: 'index' | 'match' };

export const progressSchema = z.object({
  done: z.number(),
  of: z.number().nullable(),
  unit: z.enum(['files', 'bytes', 'clips']),
  doing: union<Doing>()('code', [
    'listing',
    'reading',
    'read',
    'weighing',
    'matched',
    'hashing',
    'decoding',
    'tried',
    'copying',
    'writing',
    'finishing',
    'fetching',
    'making-copy',
    'unpacking',
    'waiting-for',
  ]),
  /** Since the job began, for its speed and what is left. */
  elapsedSeconds: z.number().nonnegative(),
});
export type Progress = z.infer<typeof progressSchema>;

const jobOf = <K extends JobKind>(kind: K) =>
  z.object({
    id: jobIdSchema,
    kind: z.literal(kind),
    payload: jobPayloads[kind],
    /** The name of what it is about: a file, a place, a project. */
    about: z.string(),
    state: z.enum(['queued', 'running', 'done', 'failed', 'cancelled']),
    progress: progressSchema.nullable(),
    problem: problemSchema.nullable(),
    createdAt: time,
    startedAt: time.nullable(),
    finishedAt: time.nullable(),
  });
export const jobSchema = z.discriminatedUnion('kind', [
  jobOf('index-place'),
  jobOf('match-project'),
  jobOf('run-handoff'),
  jobOf('unpack-bundle'),
  jobOf('trial-read'),
  jobOf('accepted-copy'),
  jobOf('fetch-shelved'),
  jobOf('hash-files'),
  jobOf('put-back'),
  jobOf('bring-home'),
  jobOf('check-set'),
  jobOf('open-set'),
]);
export type Job = z.infer<typeof jobSchema>;
export const jobKinds = Object.keys(jobPayloads) as readonly JobKind[];

/** What the event stream tells: something of this kind changed, ask again. */
export const announcementSchema = z.object({
  topic: z.enum(['project', 'documents', 'places', 'jobs', 'sets']),
  id: z.string().nullable(),
});
export type Announcement = z.infer<typeof announcementSchema>;
