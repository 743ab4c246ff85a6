import { parseRate, readDocument, type DocumentId, type ProjectId, type ReadFault } from '@legame/core';
import type { DocumentView } from '@legame/core/contract';
import { UserProblem } from '../problems.ts';
import { clipStore } from '../stores/clips.ts';
import { documentStore, type DocumentRecord } from '../stores/documents.ts';
import { projectStore } from '../stores/projects.ts';
import type { Context } from './context.ts';
import { startMatch } from './matchProject.ts';
import { tell } from './tell.ts';

/** Reads a document and keeps it, byte for byte, with its clips and timelines. What is not understood is remarked, not refused. */
export async function bringIn(
  { db }: Context,
  projectId: ProjectId,
  file: { name: string; bytes: Uint8Array; rate: string | undefined },
): Promise<DocumentId> {
  const project = await projectStore.getProject(db, projectId);
  const rate = file.rate === undefined ? undefined : parseRate(file.rate);
  if (rate === null)
    throw new UserProblem(
      'request-not-understood',
      400,
      `"${file.rate}" is no frame rate. Give a number such as 25 or 23.976, or a fraction such as 24000/1001.`,
    );
  const read = readDocument(file.bytes, { name: file.name, rate });
  const fault = read.format === null ? read.fault : read.result.ok ? null : read.result.fault;
  if (fault || read.format === null || !read.result.ok) throw problemOf(fault!, file.name);
  const { edit, remarks } = read.result;
  return db.transaction(async (trx) => {
    const id = await documentStore.insertDocument(trx, {
      projectId,
      name: file.name,
      format: read.format,
      title: edit.title,
      rate: rate ?? null,
      content: file.bytes,
      bins: edit.bins,
      timelines: edit.timelines,
      remarks,
    });
    await clipStore.insertClips(trx, projectId, id, edit.clips);
    await startMatch(trx, projectId, project.name);
    await tell(trx, 'project', projectId);
    return id;
  });
}

/** Takes a document with its clips and their links out of the project again. */
export async function takeOut({ db }: Context, id: DocumentId): Promise<void> {
  const document = await documentStore.getDocument(db, id);
  const project = await projectStore.getProject(db, document.projectId);
  await db.transaction(async (trx) => {
    await documentStore.deleteDocument(trx, id);
    await startMatch(trx, project.id, project.name);
    await tell(trx, 'project', project.id);
  });
}

export async function listDocuments({ db }: Context, projectId: ProjectId): Promise<DocumentView[]> {
  await projectStore.getProject(db, projectId);
  const [documents, clips] = await Promise.all([
    documentStore.listDocuments(db, projectId),
    clipStore.listClips(db, projectId),
  ]);
  const counts = new Map<string, number>();
  for (const clip of clips) counts.set(clip.documentId, (counts.get(clip.documentId) ?? 0) + 1);
  return documents.map((document) => viewDocument(document, counts.get(document.id) ?? 0));
}

export const viewDocument = (document: DocumentRecord, clips: number): DocumentView => ({
  id: document.id,
  name: document.name,
  format: document.format,
  title: document.title,
  rate: document.rate,
  sizeInBytes: document.sizeInBytes,
  broughtInAt: document.broughtInAt.toISOString(),
  clips,
  timelines: document.timelines.map((t) => ({
    name: t.name,
    rate: t.rate,
    lengthInFrames: t.length,
    events: t.events.length,
    top: t.top,
  })),
  remarks: [...document.remarks],
});

function problemOf(fault: ReadFault, name: string): UserProblem {
  const refuse = (detail: string) => new UserProblem('document-not-read', 422, detail, { fault });
  switch (fault.code) {
    case 'rate-needed':
      return new UserProblem(
        'rate-needed',
        422,
        `"${name}" does not say its frame rate. Choose the rate it counts at; the likeliest comes first.`,
        { fault, proposals: fault.proposals },
      );
    case 'document-empty':
      return refuse(`"${name}" is empty. Export it again from where it comes from.`);
    case 'document-not-text':
      return refuse(
        `"${name}" is not a text file, so it is no EDL and no OTIO. If it is media, add the folder it lies in as a place.`,
      );
    case 'format-unknown':
      return refuse(
        `"${name}" is none of the formats Legame reads (${fault.known.join(', ')}). Nothing in it looks like one.`,
      );
    case 'json-broken':
      return refuse(
        `"${name}" is broken JSON at line ${fault.line}, column ${fault.column}: ${fault.detail}. It may have been cut off; export or copy it again.`,
      );
    case 'nested-too-deep':
      return refuse(`"${name}" nests deeper than ${fault.limit} levels, which no edit does. It was not read.`);
    case 'no-edit-inside':
      return refuse(`"${name}" holds no edit: it is ${fault.found}.`);
  }
}
