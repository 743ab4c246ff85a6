import { z } from 'zod';
import {
  binSchema,
  choicesSchema,
  clipSchema,
  formatSchema,
  readingSchema,
  remarkSchema,
  timelineSchema,
} from '@legame/core/contract';
import type { Choices, FormatId, Reading } from '@legame/core/formats';
import type { Bin, Clip, DocumentId, ProjectId, Timeline } from '@legame/core/model';
import type { Remark } from '@legame/core/remarks';
import { readerVersion } from '@legame/core/formats';
import type { BundledFile } from '@legame/core/bundle';
import type { Database, Transaction } from '../db/database.ts';
import { notFound } from '../problems.ts';
import { trusted } from './trusted.ts';

export type DocumentRecord = {
  readonly id: DocumentId;
  readonly projectId: ProjectId;
  readonly name: string;
  readonly format: FormatId;
  readonly title: string;
  /** What a person decided about the reading, and what there was to decide. */
  readonly reading: Reading;
  readonly choices: Choices;
  readonly folder: string | null;
  readonly mediaInside: readonly BundledFile[];
  readonly sizeInBytes: number;
  readonly bins: readonly Bin[];
  readonly timelines: readonly Timeline[];
  readonly remarks: readonly Remark[];
  readonly broughtInAt: Date;
};

/** What reading a document anew gives of it. */
export type ReadDocument = Omit<DocumentRecord, 'id' | 'projectId' | 'sizeInBytes' | 'broughtInAt'> & {
  readonly content: Uint8Array;
};

/** A version of a document that a newer one replaced. */
export type FormerVersion = {
  readonly name: string;
  readonly title: string;
  readonly timelines: readonly Timeline[];
  readonly clips: readonly Clip[];
  readonly broughtInAt: Date;
  readonly replacedAt: Date;
};

const rowSchema = z.object({
  id: z.custom<DocumentId>(),
  project_id: z.custom<ProjectId>(),
  name: z.string(),
  format: formatSchema,
  title: z.string(),
  reading: readingSchema,
  choices: choicesSchema,
  folder: z.string().nullable(),
  media_inside: z.array(z.object({ path: z.string(), sizeInBytes: z.number() })),
  size: z.coerce.number(),
  bins: trusted(z.array(binSchema)),
  timelines: trusted(z.array(timelineSchema)),
  remarks: trusted(z.array(remarkSchema)),
  brought_in_at: z.date(),
});

function toRecord(row: unknown): DocumentRecord {
  const r = rowSchema.parse(row);
  return {
    id: r.id,
    projectId: r.project_id,
    name: r.name,
    format: r.format,
    title: r.title,
    reading: r.reading,
    choices: r.choices,
    folder: r.folder,
    mediaInside: r.media_inside,
    sizeInBytes: r.size,
    bins: r.bins,
    timelines: r.timelines,
    remarks: r.remarks,
    broughtInAt: r.brought_in_at,
  };
}

const columns = [
  'id',
  'project_id',
  'name',
  'format',
  'title',
  'reading',
  'choices',
  'folder',
  'media_inside',
  'bins',
  'timelines',
  'remarks',
  'brought_in_at',
];

const toRow = (document: ReadDocument) => ({
  name: document.name,
  format: document.format,
  title: document.title,
  reading: JSON.stringify(document.reading),
  choices: JSON.stringify(document.choices),
  folder: document.folder,
  media_inside: JSON.stringify(document.mediaInside),
  content: Buffer.from(document.content),
  bins: JSON.stringify(document.bins),
  timelines: JSON.stringify(document.timelines),
  remarks: JSON.stringify(document.remarks),
  read_by: readerVersion,
});

const formerSchema = z.object({
  name: z.string(),
  title: z.string(),
  timelines: trusted(z.array(timelineSchema)),
  clips: trusted(z.array(clipSchema)),
  brought_in_at: z.date(),
  replaced_at: z.date(),
});

type Stamp = { readonly id: DocumentId; readonly stamp: string };

/**
 * Documents as they were read last, by the transaction that wrote them: an edit is megabytes, changes seldom and is
 * asked for all the time. Of those not asked for longest, the largest part is let go.
 */
const read = new Map<string, DocumentRecord>();
const mostReadInBytes = 100_000_000;

const keyOf = ({ id, stamp }: Stamp) => `${id} ${stamp}`;

async function atHand(db: Database | Transaction, stamps: readonly Stamp[]): Promise<DocumentRecord[]> {
  const wanted = stamps.filter((s) => !read.has(keyOf(s))).map((s) => s.id);
  const fresh = new Map<string, DocumentRecord>();
  if (wanted.length > 0) {
    const rows = (await db('documents')
      .whereIn('id', wanted)
      .select(...columns, db.raw('octet_length(content) as size, xmin::text as stamp'))) as Stamp[];
    for (const row of rows) fresh.set(row.id, keep(keyOf(row), toRecord(row)));
  }
  return stamps.flatMap((s) => {
    const known = read.get(keyOf(s)) ?? fresh.get(s.id);
    return known ? [keep(keyOf(s), known)] : [];
  });
}

function keep(key: string, document: DocumentRecord): DocumentRecord {
  read.delete(key);
  read.set(key, document);
  let size = [...read.values()].reduce((sum, d) => sum + d.sizeInBytes, 0);
  for (const [oldest, { sizeInBytes }] of read) {
    if (size <= mostReadInBytes || oldest === key) break;
    read.delete(oldest);
    size -= sizeInBytes;
  }
  return document;
}

export const documentStore = {
  async listDocuments(db: Database | Transaction, projectId: ProjectId): Promise<DocumentRecord[]> {
    const stamps = (await db('documents')
      .where({ project_id: projectId })
      .orderBy('brought_in_at')
      .select('id', db.raw('xmin::text as stamp'))) as Stamp[];
    return atHand(db, stamps);
  },
  /**
   * A text for each document that is another whenever it is read anew. Held, none of them is read anew before the
   * transaction ends.
   */
  async listVersions(db: Database | Transaction, projectId: ProjectId, { areHeld = false } = {}): Promise<string[]> {
    const query = db('documents')
      .where({ project_id: projectId })
      .orderBy('id')
      .select(db.raw(`id || '.' || xmin as version`));
    return ((await (areHeld ? query.forShare() : query)) as { version: string }[]).map((r) => r.version);
  },
  /** The documents of a name, and the SHA-256 of their bytes. */
  async listNamesakes(
    db: Database | Transaction,
    projectId: ProjectId,
    name: string,
  ): Promise<{ id: DocumentId; sha256: string }[]> {
    return (await db('documents')
      .where({ project_id: projectId, name })
      .select('id', db.raw(`encode(sha256(content), 'hex') as sha256`))) as { id: DocumentId; sha256: string }[];
  },
  async getDocument(db: Database | Transaction, id: DocumentId): Promise<DocumentRecord> {
    const stamps = (await db('documents').where({ id }).select('id', db.raw('xmin::text as stamp'))) as Stamp[];
    const [document] = await atHand(db, stamps);
    if (!document) throw notFound('document');
    return document;
  },
  async getContent(db: Database | Transaction, id: DocumentId): Promise<Uint8Array> {
    const row = (await db('documents').where({ id }).first('content')) as { content: Buffer } | undefined;
    if (!row) throw notFound('document');
    return row.content;
  },
  async insertDocument(db: Database | Transaction, projectId: ProjectId, document: ReadDocument): Promise<DocumentId> {
    const { content, ...asRead } = document;
    const [row] = (await db('documents')
      .insert({ project_id: projectId, ...toRow(document) })
      .returning(['id', 'brought_in_at', db.raw('xmin::text as stamp')])) as [Stamp & { brought_in_at: Date }];
    const sizeInBytes = content.byteLength;
    keep(keyOf(row), { ...asRead, id: row.id, projectId, sizeInBytes, broughtInAt: row.brought_in_at });
    return row.id;
  },
  /** Puts what was read anew in the place of what was read before. */
  async replaceDocument(db: Database | Transaction, id: DocumentId, document: ReadDocument): Promise<void> {
    await db('documents').where({ id }).update(toRow(document));
  },
  /** Keeps a document as it is now as a former version, with the clips it has, and dates it as brought in now. */
  async keepVersion(trx: Transaction, id: DocumentId, clips: readonly Clip[]): Promise<void> {
    await trx.raw(
      `insert into document_versions (document_id, name, content, title, timelines, clips, brought_in_at)
       select id, name, content, title, timelines, ?::jsonb, brought_in_at from documents where id = ?`,
      [JSON.stringify(clips), id],
    );
    await trx('documents')
      .where({ id })
      .update({ brought_in_at: trx.raw('clock_timestamp()') });
  },
  async findFormer(db: Database | Transaction, id: DocumentId): Promise<FormerVersion | null> {
    const row: unknown = await db('document_versions').where({ document_id: id }).orderBy('id', 'desc').first();
    if (!row) return null;
    const { brought_in_at: broughtInAt, replaced_at: replacedAt, ...rest } = formerSchema.parse(row);
    return { ...rest, broughtInAt, replacedAt };
  },
  /** When each document of a project last replaced a former version. */
  async listReplaced(db: Database | Transaction, projectId: ProjectId): Promise<Map<DocumentId, Date>> {
    const rows = (await db('document_versions')
      .join('documents', 'documents.id', 'document_versions.document_id')
      .where({ 'documents.project_id': projectId })
      .groupBy('document_id')
      .select('document_id', db.raw('max(replaced_at) as at'))) as unknown as { document_id: DocumentId; at: Date }[];
    return new Map(rows.map((r) => [r.document_id, r.at]));
  },
  /** Documents that an older reader read. */
  async listOutdated(db: Database): Promise<DocumentId[]> {
    const rows = (await db('documents').where('read_by', '<', readerVersion).select('id')) as { id: DocumentId }[];
    return rows.map((r) => r.id);
  },
  async markRead(db: Database | Transaction, id: DocumentId): Promise<void> {
    await db('documents').where({ id }).update({ read_by: readerVersion });
  },
  async deleteDocument(db: Database | Transaction, id: DocumentId): Promise<void> {
    await db('documents').where({ id }).delete();
  },
};
