import { z } from 'zod';
import { binSchema, rateSchema, remarkSchema, timelineSchema } from '@legame/core/contract';
import type { Bin, DocumentId, FormatId, ProjectId, Rate, Remark, Timeline } from '@legame/core';
import type { Database, Transaction } from '../db/database.ts';
import { notFound } from '../problems.ts';

export type DocumentRecord = {
  readonly id: DocumentId;
  readonly projectId: ProjectId;
  readonly name: string;
  readonly format: FormatId;
  readonly title: string;
  readonly rate: Rate | null;
  readonly sizeInBytes: number;
  readonly bins: readonly Bin[];
  readonly timelines: readonly Timeline[];
  readonly remarks: readonly Remark[];
  readonly broughtInAt: Date;
};

const rowSchema = z.object({
  id: z.custom<DocumentId>(),
  project_id: z.custom<ProjectId>(),
  name: z.string(),
  format: z.enum(['edl', 'otio']),
  title: z.string(),
  rate: rateSchema.nullable(),
  size: z.coerce.number(),
  bins: z.array(binSchema),
  timelines: z.array(timelineSchema),
  remarks: z.array(remarkSchema),
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
    rate: r.rate,
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
  'rate',
  'bins',
  'timelines',
  'remarks',
  'brought_in_at',
];

export const documentStore = {
  async listDocuments(db: Database | Transaction, projectId: ProjectId): Promise<DocumentRecord[]> {
    const rows = await db('documents')
      .where({ project_id: projectId })
      .orderBy('brought_in_at')
      .select(...columns, db.raw('length(content) as size'));
    return rows.map(toRecord);
  },
  async getDocument(db: Database | Transaction, id: DocumentId): Promise<DocumentRecord> {
    const row: unknown = await db('documents')
      .where({ id })
      .first(...columns, db.raw('length(content) as size'));
    if (!row) throw notFound('document');
    return toRecord(row);
  },
  async getContent(db: Database | Transaction, id: DocumentId): Promise<Uint8Array> {
    const row = (await db('documents').where({ id }).first('content')) as { content: Buffer } | undefined;
    if (!row) throw notFound('document');
    return row.content;
  },
  async insertDocument(
    db: Database | Transaction,
    document: Omit<DocumentRecord, 'id' | 'broughtInAt' | 'sizeInBytes'> & { content: Uint8Array },
  ): Promise<DocumentId> {
    const [row] = (await db('documents')
      .insert({
        project_id: document.projectId,
        name: document.name,
        format: document.format,
        title: document.title,
        rate: document.rate ? JSON.stringify(document.rate) : null,
        content: Buffer.from(document.content),
        bins: JSON.stringify(document.bins),
        timelines: JSON.stringify(document.timelines),
        remarks: JSON.stringify(document.remarks),
      })
      .returning('id')) as [{ id: DocumentId }];
    return row.id;
  },
  async deleteDocument(db: Database | Transaction, id: DocumentId): Promise<void> {
    await db('documents').where({ id }).delete();
  },
};
