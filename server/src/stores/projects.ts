import type { BinPath, Label } from '@legame/core/bins';
import type { FolderTemplate } from '@legame/core/folders';
import type { Home } from '@legame/core/health';
import {
  acceptanceSchema,
  binPathSchema,
  folderTemplateSchema,
  homeSchema,
  labelSchema,
  ruleSetSchema,
  rulesSchema,
} from '@legame/core/contract';
import { defaultRules, type Form, type MatchRules, type RuleSet } from '@legame/core/match';
import type { AcceptanceProfile, ProjectId } from '@legame/core/model';
import { surely, type Database, type Transaction } from '../db/database.ts';
import { notFound } from '../problems.ts';

export type ProjectRecord = {
  readonly id: ProjectId;
  readonly name: string;
  readonly rules: MatchRules;
  /** Sets of rules that were kept under a name, beside those that every project has. */
  readonly ruleSets: readonly RuleSet[];
  /** Which form of a recording the project works with; null where nobody said. */
  readonly preferredForm: Form | null;
  /** What the project accepts as media; null accepts everything. */
  readonly acceptance: AcceptanceProfile | null;
  /** The matching whose results its proposals are; null where they are of other rules than it has now. */
  readonly matchedBy: string | null;
  /** How much of the processor its last matching took, and when that ended. */
  readonly matchingTookMs: number;
  readonly matchedAt: Date | null;
  /** Bins that people made, and labels. */
  readonly bins: readonly BinPath[];
  readonly labels: readonly Label[];
  /** Where its media should lie. */
  readonly home: Home | null;
  /** Its folders, and what goes where; null where it says nothing else than all. */
  readonly folders: FolderTemplate | null;
  /** How its files are named; null until somebody said so. */
  readonly namePattern: string | null;
  readonly createdAt: Date;
  /** When it was deleted; it can be brought back until it is removed for good. */
  readonly deletedAt: Date | null;
};

type Row = {
  id: ProjectId;
  name: string;
  rules: unknown;
  acceptance: unknown;
  rule_sets: unknown;
  preferred_form: Form | null;
  bins: unknown;
  labels: unknown;
  home: unknown;
  folders: unknown;
  name_pattern: string | null;
  matched_by: string | null;
  matching_took_ms: number;
  matched_at: Date | null;
  created_at: Date;
  deleted_at: Date | null;
};
const toRecord = (row: Row): ProjectRecord => ({
  id: row.id,
  name: row.name,
  rules: rulesSchema.parse(row.rules),
  ruleSets: ruleSetSchema.array().parse(row.rule_sets),
  preferredForm: row.preferred_form,
  bins: binPathSchema.array().parse(row.bins),
  labels: labelSchema.array().parse(row.labels),
  matchedBy: row.matched_by,
  matchingTookMs: row.matching_took_ms,
  matchedAt: row.matched_at,
  acceptance: acceptanceSchema.nullable().parse(row.acceptance),
  home: homeSchema.nullable().parse(row.home),
  folders: folderTemplateSchema.nullable().parse(row.folders),
  namePattern: row.name_pattern,
  createdAt: row.created_at,
  deletedAt: row.deleted_at,
});

/** So long a deleted project can be brought back. */
export const keptForMs = 7 * 24 * 3600_000;

export const projectStore = {
  async listProjects(db: Database | Transaction): Promise<ProjectRecord[]> {
    return (await db<Row>('projects').whereNull('deleted_at').orderBy('created_at')).map((row) => toRecord(row));
  },
  async listDeleted(db: Database | Transaction): Promise<ProjectRecord[]> {
    return (await db<Row>('projects').whereNotNull('deleted_at').orderBy('deleted_at', 'desc')).map((row) =>
      toRecord(row),
    );
  },
  async isDeleted(db: Database | Transaction, id: ProjectId): Promise<boolean> {
    return ((await db('projects').where({ id }).whereNotNull('deleted_at').first('id')) as unknown) !== undefined;
  },
  async setDeleted(db: Database | Transaction, id: ProjectId, deletedAt: Date | null): Promise<void> {
    await db('projects').where({ id }).update({ deleted_at: deletedAt });
  },
  /** Removes one for good that nobody has seen. */
  async discard(db: Database, id: ProjectId): Promise<void> {
    await db('projects').where({ id }).delete();
  },
  /** Removes for good what was deleted before. */
  async removeDeleted(db: Database | Transaction, before: Date): Promise<void> {
    await db('projects').where('deleted_at', '<', before).delete();
  },
  /** Projects with clips none of which was ever matched, or matched by an older Legame. */
  async listUnmatched(db: Database | Transaction): Promise<ProjectRecord[]> {
    const rows = await db<Row>('projects').whereRaw(
      `exists (select 1 from clips where clips.project_id = projects.id) and not exists
       (select 1 from clips join proposals on proposals.clip_id = clips.id where clips.project_id = projects.id)`,
    );
    return rows.map((row) => toRecord(row));
  },
  async getProject(db: Database | Transaction, id: ProjectId): Promise<ProjectRecord> {
    const row = await db<Row>('projects')
      .where({ id } as Partial<Row>)
      .first();
    if (!row) throw notFound('project');
    return toRecord(row);
  },
  /**
   * The one way in which people change anything of a project: one after another, each on what the one before left, and
   * on the disk before it is answered.
   */
  inTurn<T>(db: Database, id: ProjectId, run: (trx: Transaction) => Promise<T>): Promise<T> {
    return surely(db, async (trx) => {
      // Not a lock of its row: matching, which people do not wait for, writes into that as well.
      await trx.raw('select pg_advisory_xact_lock(hashtextextended(?, 3))', [id]);
      const found = (await trx('projects').where({ id }).first('id')) as unknown;
      if (!found) throw notFound('project');
      return run(trx);
    });
  },
  async createProject(db: Database | Transaction, name: string): Promise<ProjectRecord> {
    const [row] = (await db('projects')
      .insert({ name, rules: JSON.stringify(defaultRules) })
      .returning('*')) as [Row];
    return toRecord(row);
  },
  async setAcceptance(db: Database | Transaction, id: ProjectId, acceptance: AcceptanceProfile): Promise<void> {
    await db('projects')
      .where({ id })
      .update({ acceptance: JSON.stringify(acceptance) });
  },
  async setRuleSets(db: Database | Transaction, id: ProjectId, sets: readonly RuleSet[]): Promise<void> {
    await db('projects')
      .where({ id })
      .update({ rule_sets: JSON.stringify(sets) });
  },
  async setBins(db: Database | Transaction, id: ProjectId, bins: readonly BinPath[]): Promise<void> {
    await db('projects')
      .where({ id })
      .update({ bins: JSON.stringify(bins) });
  },
  async setLabels(db: Database | Transaction, id: ProjectId, labels: readonly Label[]): Promise<void> {
    await db('projects')
      .where({ id })
      .update({ labels: JSON.stringify(labels) });
  },
  async rename(db: Database | Transaction, id: ProjectId, name: string): Promise<void> {
    await db('projects').where({ id }).update({ name });
  },
  async setHome(db: Database | Transaction, id: ProjectId, home: Home | null): Promise<void> {
    await db('projects')
      .where({ id })
      .update({ home: home && JSON.stringify(home) });
  },
  async setFolders(db: Database | Transaction, id: ProjectId, folders: FolderTemplate | null): Promise<void> {
    await db('projects')
      .where({ id })
      .update({ folders: folders && JSON.stringify(folders) });
  },
  async setNamePattern(db: Database | Transaction, id: ProjectId, pattern: string | null): Promise<void> {
    await db('projects').where({ id }).update({ name_pattern: pattern });
  },
  /** What is certain by it is known once it is matched anew. */
  async setPreferredForm(db: Database | Transaction, id: ProjectId, form: Form | null): Promise<void> {
    await db('projects').where({ id }).update({ preferred_form: form, matched_by: null });
  },
  async setMatchedBy(db: Database | Transaction, id: ProjectId, matchedBy: string): Promise<void> {
    await db('projects').where({ id }).update({ matched_by: matchedBy });
  },
  async setMatchingTook(db: Database | Transaction, id: ProjectId, ms: number): Promise<void> {
    await db('projects')
      .where({ id })
      .update({ matching_took_ms: Math.round(ms), matched_at: new Date() });
  },
  /** What is certain by them is known once it is matched anew. */
  async setRules(db: Database | Transaction, id: ProjectId, rules: MatchRules): Promise<void> {
    await db('projects')
      .where({ id })
      .update({ rules: JSON.stringify(rules), matched_by: null });
  },
};
