import { z } from 'zod';
import {
  handoffLayoutSchema,
  handoffPlanSchema,
  handoffScopeSchema,
  type Handoff,
  type HandoffLayout,
  type HandoffPlan,
  type HandoffScope,
  type LostTrait,
  problemSchema,
  type Problem,
} from '@legame/core/contract';
import type { HandoffId, JobId, MediaFileId, PlaceId, ProjectId } from '@legame/core/model';
import { surely, type Database, type Transaction } from '../db/database.ts';
import { folderIdentitySchema, type FolderIdentity } from '../disk/held.ts';
import type { Expected } from '../media/copying.ts';
import type { Trim } from '../media/trim.ts';
import { notFound, UserProblem } from '../problems.ts';

export type HandoffFile = {
  readonly position: number;
  readonly mediaFileId: MediaFileId | null;
  /** Absolute path, as it was when planned. */
  readonly source: string;
  /** Its place, and the path in it; null in plans of an older Legame. */
  readonly placeId: PlaceId | null;
  readonly path: string | null;
  /** What it was then. */
  readonly expected: Expected;
  /** The part of it that is kept; null where it is copied whole. */
  readonly trim: Trim | null;
  /** Relative to the handoff's folder. */
  readonly target: string;
  readonly sizeInBytes: number;
  readonly state: 'waiting' | 'verified' | 'failed';
  readonly xxh64: string | null;
  readonly problem: Problem | null;
  readonly lost: readonly LostTrait[];
};

export type NewFile = Pick<HandoffFile, 'mediaFileId' | 'source' | 'target' | 'sizeInBytes'> &
  Partial<Pick<HandoffFile, 'placeId' | 'path' | 'expected' | 'trim'>>;

export type HandoffRecord = {
  readonly id: HandoffId;
  readonly projectId: ProjectId;
  readonly folder: string;
  readonly state: Handoff['state'];
  readonly plan: HandoffPlan;
  readonly scope: HandoffScope;
  readonly layout: HandoffLayout;
  readonly jobId: JobId | null;
  readonly problem: Problem | null;
  /** Where the set is written, all alike. */
  readonly targets: readonly HandoffTarget[];
  readonly createdAt: Date;
  readonly finishedAt: Date | null;
};

export type HandoffTarget = {
  readonly folder: string;
  /** The folder that it is made in, as it was when planned. */
  readonly parent: FolderIdentity | null;
  readonly isIntended: boolean;
  readonly made: FolderIdentity | null;
};

const targetSchema = z.object({
  folder: z.string(),
  parent: folderIdentitySchema.nullable(),
  folder_intended: z.boolean(),
  made_folder: folderIdentitySchema.nullable(),
});
const rowSchema = z.object({
  id: z.custom<HandoffId>(),
  project_id: z.custom<ProjectId>(),
  folder: z.string(),
  state: z.enum(['planned', 'running', 'done', 'failed', 'cancelled']),
  plan: handoffPlanSchema,
  scope: handoffScopeSchema,
  layout: handoffLayoutSchema,
  job_id: z.custom<JobId>().nullable(),
  problem: problemSchema.nullable(),
  targets: z.array(targetSchema),
  created_at: z.date(),
  finished_at: z.date().nullable(),
});
function toRecord(row: unknown): HandoffRecord {
  const r = rowSchema.parse(row);
  return {
    id: r.id,
    projectId: r.project_id,
    folder: r.folder,
    state: r.state,
    plan: r.plan,
    scope: r.scope,
    layout: r.layout,
    jobId: r.job_id,
    problem: r.problem,
    targets: r.targets.map(({ folder, parent, folder_intended: isIntended, made_folder: made }) => ({
      folder,
      parent,
      isIntended,
      made,
    })),
    createdAt: r.created_at,
    finishedAt: r.finished_at,
  };
}

type FileRow = {
  position: number;
  media_file_id: MediaFileId | null;
  source: string;
  place_id: PlaceId | null;
  path: string | null;
  expected: Expected | null;
  trim: Trim | null;
  target: string;
  size_in_bytes: string;
  state: HandoffFile['state'];
  xxh64: string | null;
  problem: Problem | null;
  lost: LostTrait[];
};
const nothingKnown: Expected = { sizeInBytes: null, modifiedMs: null, isFrame: false, fingerprint: null };
const toFile = (r: FileRow): HandoffFile => ({
  position: r.position,
  mediaFileId: r.media_file_id,
  source: r.source,
  placeId: r.place_id,
  path: r.path,
  expected: r.expected ?? nothingKnown,
  trim: r.trim,
  target: r.target,
  sizeInBytes: Number(r.size_in_bytes),
  state: r.state,
  xxh64: r.xxh64,
  problem: r.problem,
  lost: r.lost,
});

const withTargets = (db: Database | Transaction) =>
  db('handoffs').select(
    'handoffs.*',
    db.raw(
      `(select jsonb_agg(to_jsonb(t) order by position) from handoff_targets t where handoff_id = handoffs.id) targets`,
    ),
  );

export const handoffStore = {
  async insertHandoff(
    db: Database | Transaction,
    handoff: Pick<HandoffRecord, 'projectId' | 'plan' | 'scope' | 'layout'> & {
      readonly targets: readonly Pick<HandoffTarget, 'folder' | 'parent'>[];
    },
    files: readonly NewFile[],
  ): Promise<HandoffId> {
    const [row] = (await db('handoffs')
      .insert({
        project_id: handoff.projectId,
        folder: handoff.targets[0]!.folder,
        plan: JSON.stringify(handoff.plan),
        scope: JSON.stringify(handoff.scope),
        layout: handoff.layout,
      })
      .returning('id')) as [{ id: HandoffId }];
    await db('handoff_targets').insert(
      handoff.targets.map(({ folder, parent }, position) => ({
        handoff_id: row.id,
        position,
        folder,
        parent: parent && JSON.stringify(parent),
      })),
    );
    await db.batchInsert(
      'handoff_files',
      files.map((f, position) => ({
        handoff_id: row.id,
        position,
        media_file_id: f.mediaFileId,
        source: f.source,
        place_id: f.placeId,
        path: f.path,
        expected: JSON.stringify(f.expected ?? nothingKnown),
        trim: f.trim && JSON.stringify(f.trim),
        target: f.target,
        size_in_bytes: f.sizeInBytes,
      })),
      1000,
    );
    return row.id;
  },
  async listHandoffs(db: Database | Transaction, projectId: ProjectId): Promise<HandoffRecord[]> {
    const rows: unknown[] = await withTargets(db).where({ project_id: projectId }).orderBy('created_at', 'desc');
    return rows.map(toRecord);
  },
  async getHandoff(db: Database | Transaction, id: HandoffId): Promise<HandoffRecord> {
    const row: unknown = await withTargets(db).where({ id }).first();
    if (!row) throw notFound('handoff');
    return toRecord(row);
  },
  /** The same, and nobody else changes it until the transaction ends. */
  async lockHandoff(trx: Transaction, id: HandoffId): Promise<HandoffRecord> {
    const row: unknown = await withTargets(trx).where({ id }).forUpdate().first();
    if (!row) throw notFound('handoff');
    return toRecord(row);
  },
  /**
   * A folder belongs to one handoff. A plan of the same project that was never begun makes way for the next one; any
   * other that was planned or begun keeps it.
   */
  async claimFolder(trx: Transaction, projectId: ProjectId, folder: string): Promise<void> {
    await trx.raw('select pg_advisory_xact_lock(hashtextextended(?, 0))', [`handoff:${folder}`]);
    const having = trx('handoff_targets').where({ folder }).select('handoff_id');
    await trx('handoffs').where({ project_id: projectId, state: 'planned' }).whereIn('id', having).delete();
    const other = (await trx('handoffs').whereIn('id', having).whereNot({ state: 'done' }).first('id')) as unknown;
    if (other) throw new UserProblem({ code: 'folder-claimed', path: folder });
  },
  async listFiles(db: Database | Transaction, id: HandoffId): Promise<HandoffFile[]> {
    return ((await db('handoff_files').where({ handoff_id: id }).orderBy('position')) as FileRow[]).map(toFile);
  },
  async setState(
    db: Database | Transaction,
    id: HandoffId,
    state: Handoff['state'],
    fields: { jobId?: JobId; problem?: Problem | null } = {},
  ): Promise<void> {
    const ended = state === 'done' || state === 'failed' || state === 'cancelled';
    await db('handoffs')
      .where({ id })
      .update({
        state,
        problem: fields.problem ? JSON.stringify(fields.problem) : null,
        finished_at: ended ? new Date() : null,
        ...(fields.jobId ? { job_id: fields.jobId } : {}),
      });
  },
  /** One of its folders is about to be made; kept also if the machine ends right after, as what it is known by then. */
  async intendFolder(db: Database, id: HandoffId, folder: string, isIntended: boolean): Promise<void> {
    await surely(db, (trx) =>
      trx('handoff_targets').where({ handoff_id: id, folder }).update({ folder_intended: isIntended }),
    );
  },
  async markFolderMade(db: Database, id: HandoffId, folder: string, made: FolderIdentity): Promise<void> {
    await surely(db, (trx) =>
      trx('handoff_targets')
        .where({ handoff_id: id, folder })
        .update({ made_folder: JSON.stringify(made) }),
    );
  },
  /**
   * Has a file go whole of which a part was to be made. Says whether it still goes: where another part of the same
   * recording went whole already, that one serves it.
   */
  async goWhole(db: Database, id: HandoffId, { position, target }: HandoffFile): Promise<boolean> {
    return db.transaction(async (trx) => {
      const row = (await trx('handoffs').where({ id }).forUpdate().first('plan')) as { plan: unknown };
      const plan = handoffPlanSchema.parse(row.plan);
      const of = plan.recordings.find(({ outs }) => outs.some((out) => out.target === target))!;
      const isServed = of.outs.some((out) => out.range === null);
      const whole = { range: null, startsAt: null, sizeInBytes: of.wholeInBytes, handlesCut: { head: 0, tail: 0 } };
      const outs = isServed
        ? of.outs.filter((out) => out.target !== target)
        : of.outs.map((out) => (out.target === target ? { ...out, ...whole } : out));
      const recordings = plan.recordings.map((recording) =>
        recording === of ? { ...of, wholeBecause: 'not-proven' as const, outs } : recording,
      );
      await trx('handoffs')
        .where({ id })
        .update({ plan: JSON.stringify({ ...plan, recordings }) });
      const file = trx('handoff_files').where({ handoff_id: id, position });
      await (isServed ? file.delete() : file.update({ trim: null, size_in_bytes: of.wholeInBytes }));
      return !isServed;
    });
  },
  async setFile(
    db: Database | Transaction,
    id: HandoffId,
    position: number,
    {
      state,
      xxh64,
      problem,
      sizeInBytes,
      lost,
    }: Pick<HandoffFile, 'state' | 'xxh64' | 'problem'> & Partial<Pick<HandoffFile, 'sizeInBytes' | 'lost'>>,
  ): Promise<void> {
    await db('handoff_files')
      .where({ handoff_id: id, position })
      .update({
        state,
        xxh64,
        problem: problem && JSON.stringify(problem),
        ...(sizeInBytes === undefined ? {} : { size_in_bytes: sizeInBytes }),
        ...(lost === undefined ? {} : { lost: JSON.stringify(lost) }),
      });
  },
};
