import { createHash } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import { binKey, emptyBins, pathsOfBins } from '@legame/core/bins';
import { sameClips } from '@legame/core/compare';
import { largestDocumentInBytes, noChoices, readDocument, type Reading } from '@legame/core/formats';
import type { Clip, ClipId, DocumentId, ProjectId } from '@legame/core/model';
import type { Rate } from '@legame/core/time';
import { unpackBytes, type BundledFile } from '@legame/core/bundle';
import type { Database, Transaction } from '../db/database.ts';
import { UserProblem } from '../problems.ts';
import { clipRowStore } from '../stores/clipRows.ts';
import { clipStore, type ClipRecord } from '../stores/clips.ts';
import { documentStore, type DocumentRecord, type ReadDocument } from '../stores/documents.ts';
import { logMappingStore } from '../stores/logMappings.ts';
import { projectStore } from '../stores/projects.ts';
import type { Context, Looking } from '../context.ts';
import { startMatch } from '../matching/matchProject.ts';
import { showFirst } from '../clips/renewal.ts';
import { problemOfFault } from '../reading/faults.ts';
import { tell } from '../events/tell.ts';

export type Incoming = {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly reading: Reading;
  /** The folder it lies in, absolute, when it is read from a place. */
  readonly folder?: string | null;
  /** Media of the bundle it was taken from before it got here. */
  readonly mediaInside?: readonly BundledFile[];
  /** A document that this is a newer version of. */
  readonly replaces?: DocumentId | undefined;
  /** Bring it in beside one of the same name. */
  readonly beside?: boolean;
};

/**
 * Reads a document and keeps it, byte for byte, with its clips and timelines. What is not understood is remarked, not
 * refused. A newer version of one that is there keeps its links and decisions; whether it is one is never guessed.
 */
export async function bringIn({ db }: Looking, projectId: ProjectId, incoming: Incoming): Promise<DocumentId> {
  const project = await projectStore.getProject(db, projectId);
  const documents = await documentStore.listDocuments(db, projectId);
  const replaced = incoming.replaces && documents.find((d) => d.id === incoming.replaces);
  if (incoming.replaces && !replaced) throw new UserProblem({ code: 'not-found', what: 'replaced-document' });
  const namesake = documents.find((d) => d.name === incoming.name);
  if (namesake && !replaced && !incoming.beside) {
    throw new UserProblem({ code: 'document-known-already', name: incoming.name, documentId: namesake.id });
  }
  const otherRates = documents.filter((d) => d !== replaced).flatMap((d) => d.timelines.map((t) => t.rate));
  const reading = { ...replaced?.reading, ...incoming.reading };
  const read = await readIncoming(db, { ...incoming, reading }, otherRates);
  return projectStore.inTurn(db, projectId, async (trx) => {
    const meanwhile = replaced ? null : await broughtInMeanwhile(trx, projectId, incoming, documents);
    if (meanwhile) return meanwhile;
    const id = replaced
      ? await replaceDocument(trx, projectId, replaced.id, read, true)
      : await documentStore.insertDocument(trx, projectId, read.document);
    if (!replaced) {
      const ids = await clipStore.insertClips(trx, projectId, id, read.clips);
      const clips = read.clips.map(({ key, rate }, i) => ({ id: ids[i]!, key, rate }));
      await showFirst(trx, projectId, id, clips);
    }
    await keepEmptyBins(trx, projectId, read, replaced);
    await startMatch(trx, projectId, project.name);
    await tell(trx, 'documents', projectId);
    await tell(trx, 'project', projectId);
    return id;
  });
}

/**
 * Bins in which a document has nothing lie in no clip's path, so they become the project's own: somebody made them to put
 * something there. What the version before had is left as it is by now, also where that is gone.
 */
async function keepEmptyBins(
  trx: Transaction,
  projectId: ProjectId,
  { document, clips }: Read,
  former: Pick<DocumentRecord, 'bins'> | null | undefined,
): Promise<void> {
  const { bins } = await projectStore.getProject(trx, projectId);
  const known = new Set([...bins, ...pathsOfBins(former?.bins ?? []).values()].map(binKey));
  const fresh = emptyBins(document.bins, clips).filter((bin) => !known.has(binKey(bin)));
  if (fresh.length > 0) await projectStore.setBins(trx, projectId, [...bins, ...fresh]);
}

/**
 * Reading takes a while, in which somebody may have brought in another of this name. The same bytes asked for twice are
 * brought in once: the document that is there by now is the answer.
 */
async function broughtInMeanwhile(
  trx: Transaction,
  projectId: ProjectId,
  { name, bytes, beside }: Incoming,
  before: readonly DocumentRecord[],
): Promise<DocumentId | null> {
  const namesakes = await documentStore.listNamesakes(trx, projectId, name);
  const appeared = namesakes.filter((d) => !before.some((b) => b.id === d.id));
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const same = appeared.find((d) => d.sha256 === sha256);
  if (!same && appeared[0] && !beside)
    throw new UserProblem({ code: 'document-known-already', name, documentId: appeared[0].id });
  return same?.id ?? null;
}

/** Reads a document that is there once more, by other decisions about its reading. Links and decisions are kept. */
export async function readAgain(
  { db }: Looking,
  id: DocumentId,
  reading: Reading,
  { isOutdated = false } = {},
): Promise<void> {
  const document = await documentStore.getDocument(db, id);
  const project = await projectStore.getProject(db, document.projectId);
  const bytes = await documentStore.getContent(db, id);
  const documents = await documentStore.listDocuments(db, document.projectId);
  const otherRates = documents.filter((d) => d.id !== id).flatMap((d) => d.timelines.map((t) => t.rate));
  const read = await readIncoming(db, { ...document, bytes, reading: { ...document.reading, ...reading } }, otherRates);
  await projectStore.inTurn(db, project.id, async (trx) => {
    await replaceDocument(trx, project.id, id, read, false);
    if (isOutdated) await keepEmptyBins(trx, project.id, read, null);
    await startMatch(trx, project.id, project.name);
    await tell(trx, 'documents', project.id);
    await tell(trx, 'project', project.id);
  });
}

/** Documents that an older reader read are read by this one, when the server starts; what it cannot read stays. */
export async function readOutdated(context: Context): Promise<void> {
  for (const id of await documentStore.listOutdated(context.db)) {
    try {
      await readAgain(context, id, {}, { isOutdated: true });
    } catch (error) {
      if (!(error instanceof UserProblem)) throw error;
      context.log.error(error, 'a document could not be read again');
      await documentStore.markRead(context.db, id);
    }
  }
}

export type Read = { readonly document: ReadDocument; readonly clips: readonly Clip[] };

export async function readIncoming(db: Database, incoming: Incoming, otherRates: readonly Rate[]): Promise<Read> {
  const { name } = incoming;
  const unpacked = await unpackBytes(incoming.bytes, largestDocumentInBytes);
  if (!unpacked.ok) throw problemOfFault(unpacked.fault, name);
  const { content } = unpacked;
  const folder = incoming.folder ?? null;
  const read = (reading: Reading) =>
    readDocument(content, { ...reading, name, otherRates, ...(folder === null ? {} : { folder }) });
  let { reading } = incoming;
  let answer = read(reading);
  const headers = headersOf(answer);
  if (headers && reading.columns) await logMappingStore.rememberRoles(db, headers, reading.columns);
  else if (headers) {
    const columns = await logMappingStore.findRoles(db, headers);
    if (columns) {
      reading = { ...reading, columns };
      answer = read(reading);
    }
  }
  if (answer.format === null) throw problemOfFault(answer.fault, name);
  if (!answer.result.ok) throw problemOfFault(answer.result.fault, name);
  const { edit, remarks, choices } = answer.result;
  const mediaInside = unpacked.media ?? incoming.mediaInside ?? [];
  const document: ReadDocument = {
    name,
    format: answer.format,
    title: edit.title,
    reading,
    choices,
    folder,
    mediaInside,
    content,
    bins: edit.bins,
    timelines: edit.timelines,
    remarks,
  };
  return { document, clips: edit.clips };
}

function headersOf(answer: ReturnType<typeof readDocument>): readonly string[] | null {
  if (answer.format === null) return null;
  const { result } = answer;
  if (result.ok) return (result.choices ?? noChoices).columns?.headers ?? null;
  return result.fault.code === 'columns-needed' ? result.fault.columns.headers : null;
}

/**
 * Puts a newer reading in the place of an older one: clips that are the same keep their links and decisions, clips that
 * went are retired, and retired ones that are back come back as they were.
 */
async function replaceDocument(
  trx: Transaction,
  projectId: ProjectId,
  id: DocumentId,
  { document, clips }: Read,
  isNewerVersion: boolean,
): Promise<DocumentId> {
  const known = await clipStore.listOfDocument(trx, id);
  const present = known.filter((c) => !c.retired);
  if (isNewerVersion) {
    const bodies = present.map(bodyOf);
    await documentStore.keepVersion(trx, id, bodies);
  }
  // Keys are a reading's own; ids are what both share. Present clips go before retired ones.
  const byId = (list: readonly (typeof known)[number][]) => list.map((c) => ({ ...bodyOf(c), key: c.id }));
  const same = sameClips(byId(present), clips, { areSameBytes: !isNewerVersion });
  const rest = clips.filter((c) => !same.has(c.key));
  const back = sameClips(byId(known.filter((c) => c.retired)), rest);
  const ids = new Map(known.map((c) => [c.id as string, c.id]));
  const kept: Parameters<typeof clipStore.updateClips>[1][number][] = [];
  const fresh: { clip: Clip; ordinal: number }[] = [];
  clips.forEach((clip, ordinal) => {
    const old = ids.get(same.get(clip.key) ?? back.get(clip.key) ?? '');
    if (old) kept.push({ id: old, ordinal, clip });
    else fresh.push({ clip, ordinal });
  });
  const keptIds = new Set(kept.map((k) => k.id));
  const retired = present.filter((c) => !keptIds.has(c.id)).map((c) => c.id);
  const olds = new Map(known.map((c) => [c.id, c]));
  const otherwise = kept.filter((k) => isMeantOtherwise(olds.get(k.id)!, k.clip));
  const staysTied = ({ id, clip }: (typeof kept)[number]) => {
    const { remembered, proposal } = olds.get(id)!;
    return remembered === clip.remembered && proposal !== null && proposal.whereRemembered !== null;
  };
  await documentStore.replaceDocument(trx, id, document);
  await clipStore.updateClips(trx, kept);
  await clipStore.retireClips(trx, retired);
  // What lies where the edit says ties it still, whatever else is said of it now.
  await clipStore.forgetDecisions(trx, idsOf(otherwise.filter(staysTied)));
  await clipStore.dropProposals(trx, [
    ...idsOf(otherwise.filter((k) => !staysTied(k))),
    ...retired,
    ...(await clipRowStore.listEnriched(trx, projectId)),
  ]);
  await clipStore.insertClips(
    trx,
    projectId,
    id,
    fresh.map((f) => f.clip),
    fresh.map((f) => f.ordinal),
  );
  return id;
}

const idsOf = (list: readonly { readonly id: ClipId }[]) => list.map(({ id }) => id);

/** Whether a reading says another thing of a clip than the one before, so that what was certain of it is not for now. */
function isMeantOtherwise(old: ClipRecord, clip: Clip): boolean {
  const meant = ({ remembered, reel, name, kind, rate, counting, available, used }: Clip) =>
    // Where nothing tells how long its media is, what is used of it tells which it is.
    [remembered, reel, name, kind, rate, counting, available ?? used];
  return !isDeepStrictEqual(meant(bodyOf(old)), meant(clip));
}

/** The clip as its document has it, without what was decided of it. */
export function bodyOf(clip: ClipRecord): Clip {
  const { key, name, reel, remembered, kind, raster, binKey, addresses, metadata } = clip;
  const { rate, counting, available, used } = clip.asStated;
  return { key, name, reel, remembered, kind, rate, counting, available, raster, used, binKey, addresses, metadata };
}

/** Takes a document with its clips and their links out of the project again. */
export async function takeOut({ db }: Context, id: DocumentId): Promise<void> {
  const document = await documentStore.getDocument(db, id);
  const project = await projectStore.getProject(db, document.projectId);
  await projectStore.inTurn(db, project.id, async (trx) => {
    await documentStore.deleteDocument(trx, id);
    // What a log said of them went with it.
    await clipStore.dropProposals(trx, await clipRowStore.listEnriched(trx, project.id));
    await startMatch(trx, project.id, project.name);
    await tell(trx, 'documents', project.id);
    await tell(trx, 'project', project.id);
  });
}
