import { z } from 'zod';
import type { BinPath, Label, Noted } from '@legame/core/bins';
import { aboutSchema, verbs, type About, type Accepted, type Verb } from '@legame/core/contract';
import type { FolderTemplate } from '@legame/core/folders';
import type { HealthCheck, HealthSubject, Home } from '@legame/core/health';
import type { PullRequest } from '@legame/core/report';
import type { ClipId, Interpretation, MediaFileId, PlaceId, ProjectId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { listBindings } from '../db/lists.ts';
import type { LinkRecord, SetAside } from './clips.ts';

type BeforeAndAfter<T> = { readonly clipId: ClipId; readonly before: T; readonly after: T };

/** One clip's part of an act: what was before and what is after, enough to go either way. */
export type ClipChange =
  | ({ readonly what: 'link' } & BeforeAndAfter<LinkRecord | null>)
  /** Taken offline on purpose, or tied again. */
  | ({ readonly what: 'offline' } & BeforeAndAfter<boolean>)
  | ({ readonly what: 'set-aside' } & BeforeAndAfter<SetAside | null>)
  | ({ readonly what: 'pin' } & BeforeAndAfter<boolean>)
  | ({ readonly what: 'interpret' } & BeforeAndAfter<Interpretation | null>)
  | ({ readonly what: 'note' } & BeforeAndAfter<Noted | null>)
  /** Absent `back`, the file was declined; else a decline was taken back. */
  | { readonly what: 'decline'; readonly clipId: ClipId; readonly mediaFileId: MediaFileId; readonly back?: true };

/** A name under which the edit knows a place, learned from the links of an act; it goes when they go. */
export type NameLearned = { readonly what: 'learn'; readonly placeId: PlaceId; readonly name: string };
/** The bins or the labels of the project itself. */
export type DeskChange =
  | { readonly what: 'bins'; readonly before: readonly BinPath[]; readonly after: readonly BinPath[] }
  | { readonly what: 'labels'; readonly before: readonly Label[]; readonly after: readonly Label[] };
/** Where the project's media should lie. */
export type HomeChange = { readonly what: 'home'; readonly before: Home | null; readonly after: Home | null };
/** What folders the project has, and what goes where. */
export type FoldersChange = {
  readonly what: 'folders';
  readonly before: FolderTemplate | null;
  readonly after: FolderTemplate | null;
};
/** A finding of a check that somebody knows of and leaves so. */
export type AcceptChange = {
  readonly what: 'accept';
  readonly check: HealthCheck;
  readonly key: string;
  /** What it is about, for the history. */
  readonly subject: HealthSubject;
  readonly before: Accepted | null;
  readonly after: Accepted | null;
};
/** What is said of a source that is to be fetched. */
export type PullChange = {
  readonly what: 'pull';
  readonly key: string;
  readonly before: PullRequest | null;
  readonly after: PullRequest | null;
};
/** A file of a place that was given another name in its folder. */
export type FileRenamed = {
  readonly what: 'rename';
  readonly mediaFileId: MediaFileId;
  readonly before: string;
  readonly after: string;
};
export type Change =
  ClipChange | NameLearned | DeskChange | HomeChange | FoldersChange | AcceptChange | PullChange | FileRenamed;

const notOfClips: ReadonlySet<Change['what']> = new Set<Exclude<Change, ClipChange>['what']>([
  'learn',
  'bins',
  'labels',
  'home',
  'folders',
  'accept',
  'pull',
  'rename',
]);
/** Whether a change is one of a clip, and not of the project or of a place. */
export const isOfClip = (change: Change): change is ClipChange => !notOfClips.has(change.what);

/** An act as it is told of. What it changed is asked for by itself: of 20,000 clips that is very much. */
export type JournalEntry = {
  readonly id: number;
  readonly verb: Verb;
  readonly about: About | null;
  /** What kinds of changes it made. */
  readonly kinds: readonly Change['what'][];
  /** How many clips it changed. */
  readonly clips: number;
  readonly undone: boolean;
  /** Undone, and another act came after: it cannot be done again. */
  readonly overtaken: boolean;
  readonly madeAt: Date;
};

/** What had been decided of one clip when a checkpoint was set. */
export type DecidedThen = {
  readonly clipId: ClipId;
  readonly link: LinkRecord | null;
  readonly setAside: SetAside | null;
  readonly pinned: boolean;
  readonly interpretation: Interpretation | null;
  readonly declined: readonly MediaFileId[];
  /** Absent in checkpoints from before clips could be taken offline. */
  readonly takenOffline?: boolean | undefined;
  /** Absent in checkpoints from before clips could be noted of. */
  readonly noted?: Noted | null | undefined;
};
/** The act before which a checkpoint was set by itself, and how many clips it changed. */
export type BeforeAct = { readonly verb: Verb; readonly count: number };
export type Checkpoint = {
  readonly id: number;
  readonly name: string;
  readonly before: BeforeAct | null;
  readonly madeAt: Date;
};

const rowSchema = z.object({
  id: z.coerce.number(),
  verb: z.enum(verbs),
  about: aboutSchema.nullable(),
  kinds: z.array(z.custom<Change['what']>((v) => typeof v === 'string')),
  clips: z.number(),
  undone: z.boolean(),
  overtaken: z.boolean(),
  made_at: z.date(),
});
function toEntry(row: unknown): JournalEntry {
  const { made_at: madeAt, ...entry } = rowSchema.parse(row);
  return { ...entry, madeAt };
}
const ofEntry = ['id', 'verb', 'about', 'kinds', 'clips', 'undone', 'overtaken', 'made_at'] as const;
const changesSchema = z.array(z.custom<Change>((v) => typeof v === 'object' && v !== null && 'what' in v));
type CheckpointRow = {
  id: string;
  name: string;
  before_act: BeforeAct | null;
  state: DecidedThen[];
  made_at: Date;
};
const toCheckpoint = (row: CheckpointRow): Checkpoint => ({
  id: Number(row.id),
  name: row.name,
  before: row.before_act,
  madeAt: row.made_at,
});
/** Older ones are seldom returned to, and each holds the whole project. */
const keptByThemselves = 10;

/** The acts of each project. Nothing is ever taken out: undone acts stay, marked. */
export const journalStore = {
  /** Adds an act. What was undone before it cannot be done again from now on. */
  async append(
    db: Database | Transaction,
    projectId: ProjectId,
    act: { verb: Verb; changes: readonly Change[]; about: About | null },
  ): Promise<JournalEntry> {
    await db('journal').where({ project_id: projectId, undone: true }).update({ overtaken: true });
    const [row] = (await db('journal')
      .insert({
        project_id: projectId,
        verb: act.verb,
        changes: JSON.stringify(act.changes),
        about: act.about && JSON.stringify(act.about),
        kinds: [...new Set(act.changes.map((c) => c.what))],
        clips: new Set(act.changes.filter(isOfClip).map((c) => c.clipId)).size,
      })
      .returning(ofEntry)) as unknown[];
    return toEntry(row);
  },
  /** The newest act that has not been undone. */
  async findLast(db: Database | Transaction, projectId: ProjectId): Promise<JournalEntry | null> {
    const row: unknown = await db('journal')
      .where({ project_id: projectId, undone: false })
      .orderBy('id', 'desc')
      .first(...ofEntry);
    return row ? toEntry(row) : null;
  },
  /** The act that was undone last, if nothing has come after it. */
  async findRedoable(db: Database | Transaction, projectId: ProjectId): Promise<JournalEntry | null> {
    const row: unknown = await db('journal')
      .where({ project_id: projectId, undone: true, overtaken: false })
      .orderBy('id', 'asc')
      .first(...ofEntry);
    return row ? toEntry(row) : null;
  },
  async findEntry(db: Database | Transaction, projectId: ProjectId, id: number): Promise<JournalEntry | null> {
    const row: unknown = await db('journal')
      .where({ project_id: projectId, id })
      .first(...ofEntry);
    return row ? toEntry(row) : null;
  },
  /** What an act changed, in the order in which it was done. */
  async listChanges(db: Database | Transaction, id: number): Promise<readonly Change[]> {
    const row = (await db('journal').where({ id }).first('changes')) as { changes: unknown } | undefined;
    return changesSchema.parse(row?.changes ?? []);
  },
  async listEntries(db: Database | Transaction, projectId: ProjectId): Promise<JournalEntry[]> {
    const rows = (await db('journal')
      .where({ project_id: projectId })
      .orderBy('id', 'desc')
      .limit(500)
      .select(...ofEntry)) as unknown[];
    return rows.map(toEntry);
  },
  /** When each of these clips was set aside as it is now; absent where no act tells. */
  async listSetAsideAt(
    db: Database | Transaction,
    projectId: ProjectId,
    clipIds: readonly ClipId[],
  ): Promise<Map<ClipId, Date>> {
    if (clipIds.length === 0) return new Map();
    const { rows } = (await db.raw(
      `select change->>'clipId' as id, max(made_at) as at from journal, json_array_elements(changes) as change
       where project_id = ? and not undone and 'set-aside' = any(kinds) and change->>'what' = 'set-aside' and change->>'clipId' = any(?::text[])
       group by 1`,
      [projectId, ...listBindings(clipIds)],
    )) as { rows: { id: ClipId; at: Date }[] };
    return new Map(rows.map((r) => [r.id, r.at]));
  },
  async setUndone(db: Database | Transaction, id: number, undone: boolean): Promise<void> {
    await db('journal').where({ id }).update({ undone });
  },
  /**
   * Keeps what is decided of every clip at this moment, under a name or as the state before an act; clips of which
   * nothing is decided are left out. Of those that were kept by themselves only the newest stay.
   */
  async keepState(
    trx: Transaction,
    projectId: ProjectId,
    { name, before }: { readonly name: string; readonly before: BeforeAct | null },
  ): Promise<void> {
    await trx.raw(
      `insert into checkpoints (project_id, name, before_act, state)
       select ?, ?, ?::jsonb, coalesce(jsonb_agg(jsonb_build_object(
         'clipId', clips.id,
         'link', case when links.media_file_id is not null then jsonb_build_object(
           'mediaFileId', links.media_file_id, 'by', links.made_by, 'seen', links.seen, 'because', links.because) end,
         'setAside', clips.set_aside,
         'pinned', clips.pinned,
         'interpretation', clips.interpretation,
         'declined', coalesce(refused.ids, '[]'),
         'takenOffline', clips.taken_offline,
         'noted', clip_notes.noted
       )), '[]')
       from clips
       left join links on links.clip_id = clips.id
       left join clip_notes on clip_notes.clip_id = clips.id
       left join (select clip_id, jsonb_agg(media_file_id) as ids from declined group by clip_id) as refused
         on refused.clip_id = clips.id
       where clips.project_id = ? and not clips.retired and (
         links.media_file_id is not null or clips.set_aside is not null or clips.pinned or clips.taken_offline
         or clips.interpretation is not null or clip_notes.noted is not null or refused.ids is not null)`,
      [projectId, name, before && JSON.stringify(before), projectId] as string[],
    );
    if (before)
      await trx.raw(
        `delete from checkpoints where project_id = ? and before_act is not null and id not in (
           select id from checkpoints where project_id = ? and before_act is not null order by id desc limit ?)`,
        [projectId, projectId, keptByThemselves],
      );
  },
  async listCheckpoints(db: Database | Transaction, projectId: ProjectId): Promise<Checkpoint[]> {
    const rows = (await db('checkpoints')
      .where({ project_id: projectId })
      .select('id', 'name', 'before_act', 'made_at')
      .orderBy('id', 'desc')) as CheckpointRow[];
    return rows.map(toCheckpoint);
  },
  async findCheckpoint(
    db: Database | Transaction,
    projectId: ProjectId,
    id: number,
  ): Promise<(Checkpoint & { readonly state: readonly DecidedThen[] }) | null> {
    const row = (await db('checkpoints').where({ project_id: projectId, id }).first()) as CheckpointRow | undefined;
    return row ? { ...toCheckpoint(row), state: row.state } : null;
  },
};
