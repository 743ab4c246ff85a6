import { createHash } from 'node:crypto';
import { hostname } from 'node:os';
import { basename, posix } from 'node:path';
import { bundleParts, bundleVersion } from '@legame/core/bundle';
import { decodeText, writeCsv } from '@legame/core/formats';
import type { ClipId, MediaFileId } from '@legame/core/model';
import { pullHeaders, pullList, pullTable, type PullRow } from '@legame/core/report';
import { isDark } from '@legame/core/state';
import type { HandoffScope } from '@legame/core/contract';
import { safeName, splitExtension } from '@legame/core/paths';
import { collectTimelines } from '@legame/core/project';
import { c4Of, chainName, generationName, listFolder, writeChain, writeGeneration } from '@legame/core/mhl';
import type { JobContext } from '../context.ts';
import type { Database } from '../db/database.ts';
import { loadProject } from '../clips/project.ts';
import { type ProjectState } from '../clips/state.ts';
import { relinkedContent, relinkedEdit } from '../documents/relinked.ts';
import type { Ours } from '../made/ours.ts';
import { xxh64Of } from '../media/hashing.ts';
import { version } from '../version.ts';
import type { HandoffFile, HandoffRecord } from '../stores/handoffs.ts';
import { exportProject, type LiesInSet, type SetOfProject } from '../projects/package.ts';
import { referencesInto } from './references.ts';
import { reportAsCsv, reportAsPage } from './report.ts';
import { clipsOfScope, documentsInScope } from './scope.ts';
import { handlesOf } from '../pulls/look.ts';
import { picture } from '../reading/pictures.ts';
import { UserProblem } from '../problems.ts';
import { documentStore, type DocumentRecord } from '../stores/documents.ts';

/**
 * What lies beside the media: the relinked documents, those that came in to the letter, what is still to be fetched, the
 * report, and the hash list that proves all of it.
 */
export async function writePapers(
  { db, config, readLog }: Pick<JobContext, 'db' | 'config' | 'readLog'>,
  handoff: HandoffRecord,
  targets: readonly Ours[],
  files: readonly HandoffFile[],
): Promise<void> {
  const write: Write = async (name, content) => {
    for (const ours of targets) await ours.write(name, content, handoff.plan.choices.alsoHashed);
  };
  const project = await loadProject(db, handoff.projectId);
  const logs = handoff.plan.choices.logs ? project.documents.filter((d) => d.format === 'log') : [];
  const originals = handoff.layout === 'folder' ? documentsInScope(project, handoff.scope) : [];
  await writeOriginals(db, [...new Set([...originals, ...logs])], write);
  if (handoff.layout === 'folder') {
    await writeTimelines(db, handoff, project, write, files);
    const missing = missingOf(project, handoff);
    if (missing.length > 0) await write(names.pullList, writeCsv(pullHeaders, pullTable(missing)));
  }
  if (handoff.layout === 'otiod') {
    await write(bundleParts.content, await bundleContent(db, handoff, files));
    await write(bundleParts.version, bundleVersion);
  }
  if (handoff.plan.choices.archive) {
    const { name, content } = await exportProject(
      { db },
      handoff.projectId,
      setOf(handoff, project, targets[0]!, files),
    );
    await write(`${names.project}/${name}`, content);
  }
  await write(names.csv, reportAsCsv(handoff, files));
  await write(names.page, reportAsPage(handoff, files, await picturesOf({ db, config, readLog }, handoff)));
  for (const ours of targets) await writeHashList(handoff, ours, files);
}

/** Writes a small file into every folder of the handoff. */
type Write = (name: string, content: Uint8Array | string) => Promise<void>;

const names = {
  csv: 'report.csv',
  page: 'report.html',
  pullList: 'pull list.csv',
  originals: 'originals',
  project: 'project',
} as const;

/** The hash list that the next person checks the set against, as ASC MHL wants it: every file, every folder, a chain. */
async function writeHashList(handoff: HandoffRecord, ours: Ours, files: readonly HandoffFile[]): Promise<void> {
  const failed = new Set(files.filter((f) => f.state !== 'verified').map((f) => f.target));
  const isListed = (target: string) => !failed.has(target) && !target.startsWith(`${listFolder}/`);
  const listed = ours.named
    .filter(({ target }) => isListed(target))
    .map(({ target, identity, xxh64, others }) => ({
      path: target,
      sizeInBytes: identity.sizeInBytes,
      modifiedAt: new Date(identity.modifiedMs),
      xxh64,
      others,
      action: 'original' as const,
    }))
    .toSorted((a, b) => (a.path < b.path ? -1 : 1));
  // Named after the plan's time: a handoff that goes on where it stopped writes the same list again, and not a second.
  const of = { number: 1, folderName: basename(handoff.folder), at: handoff.createdAt };
  const tool = { name: 'Legame', version };
  const list = writeGeneration({ ...of, host: hostname(), tool, process: 'transfer', files: listed }, xxh64Of);
  const name = generationName(of);
  await ours.write(`${listFolder}/${name}`, list);
  const c4 = c4Of(createHash('sha512').update(list).digest());
  await ours.write(`${listFolder}/${chainName}`, writeChain([{ name, c4 }]));
}

/**
 * Each document of the project beside the media, its references relative to itself. A list says neither its rate nor where
 * media lie but by custom, so it is there as OTIO as well: who receives the set opens it without being asked anything.
 */
async function writeTimelines(
  db: Database,
  handoff: HandoffRecord,
  project: ProjectState,
  write: Write,
  files: readonly HandoffFile[],
): Promise<void> {
  const referenceTo = referencesInto(handoff, project, files);
  for (const { document, name, asOtio } of documentNames(project, handoff.scope)) {
    const { bytes } = await relinkedContent(db, document, project.states, referenceTo);
    await write(name, bytes);
    if (asOtio !== null)
      await write(asOtio, collectTimelines(asOtio, [relinkedEdit(document, project.states, referenceTo)]));
  }
}

/** Where recordings that came in one piece lie in the set; of one in several parts the project says nothing, and is asked anew. */
function setOf(
  handoff: HandoffRecord,
  { states }: ProjectState,
  ours: Ours,
  files: readonly HandoffFile[],
): SetOfProject {
  const sizes = new Map(ours.named.map(({ target, identity }) => [target, identity.sizeInBytes]));
  const failed = new Set(files.filter((f) => f.state !== 'verified').map((f) => f.target));
  const lying = handoff.plan.recordings.flatMap(({ mediaFileId, outs, coded }): [MediaFileId, LiesInSet][] => {
    const [only, ...others] = outs;
    const size = only && sizes.get(only.target);
    if (!only || others.length > 0 || only.files > 1 || size === undefined || failed.has(only.target)) return [];
    const isWhole = only.range === null && coded === null;
    const { dir, base } = posix.parse(only.target);
    return [[mediaFileId, { folder: dir, name: base, sizeInBytes: size, isWhole }]];
  });
  const tied = states.flatMap((s): [ClipId, MediaFileId][] => (s.tied ? [[s.clip.id, s.tied.file.id]] : []));
  return { name: basename(handoff.folder), files: new Map(lying), tied: new Map(tied) };
}

/** Documents as they came in, for whoever wants to see what was changed in them; and shot logs that were asked for. */
async function writeOriginals(db: Database, documents: readonly DocumentRecord[], write: Write): Promise<void> {
  for (const { document, name } of named(documents))
    await write(`${names.originals}/${name}`, await documentStore.getContent(db, document.id));
}

/** What of the scope is dark and read by an event, for whoever keeps the reels. */
function missingOf(project: ProjectState, { scope, plan }: HandoffRecord): PullRow[] {
  const inScope = clipsOfScope(project, scope);
  const missing = project.states.filter(
    ({ clip, status }) => isDark(status.status) && clip.used.length > 0 && inScope.has(clip.id),
  );
  return pullList(
    missing.map((s) => s.clip),
    handlesOf(project, plan.choices.handlesInFrames),
  );
}

/** A page of more pictures than this nobody looks through. */
const mostPictures = 300;

/** How each recording looks where it is used first; one of which no picture can be made goes without. */
async function picturesOf(
  context: Pick<JobContext, 'db' | 'config' | 'readLog'>,
  { plan }: HandoffRecord,
): Promise<Map<MediaFileId, Uint8Array>> {
  const pictures = new Map<MediaFileId, Uint8Array>();
  await Promise.all(
    plan.recordings
      .filter(({ kind }) => kind !== 'sound')
      .slice(0, mostPictures)
      .map(async ({ mediaFileId, used }) => {
        const made = await picture(context, mediaFileId, used[0]?.start ?? 0, pictureWidth).catch((error: unknown) => {
          if (error instanceof UserProblem) return null;
          throw error;
        });
        if (made) pictures.set(mediaFileId, made);
      }),
  );
  return pictures;
}
const pictureWidth = 192;

/** The one document of a bundle: the documents in scope with references into it, OTIO to the letter, lists as OTIO. */
export async function bundleContent(
  db: Database,
  handoff: HandoffRecord,
  files: readonly HandoffFile[],
): Promise<string> {
  const project = await loadProject(db, handoff.projectId);
  const referenceTo = referencesInto(handoff, project, files);
  const parts = await Promise.all(
    documentsInScope(project, handoff.scope).map(async (document) => {
      if (document.format !== 'otio') return relinkedEdit(document, project.states, referenceTo);
      const { bytes } = await relinkedContent(db, document, project.states, referenceTo);
      return { otio: decodeText(bytes)!.text };
    }),
  );
  return collectTimelines(basename(handoff.folder).replace(/\.otiod$/, ''), parts);
}

/** The documents in scope, each with its name in the set. */
const documentNames = (project: ProjectState, scope: HandoffScope) => named(documentsInScope(project, scope));

/** File names for documents; two of one name are numbered. */
function named(documents: readonly DocumentRecord[]) {
  const taken = new Set<string>([...Object.values(names), listFolder]);
  const free = (plain: string): string => {
    let name = plain;
    for (let n = 2; taken.has(name.toLowerCase()); n += 1)
      name = plain.replace(/(\.[^.]*)?$/, (ending) => `_${n}${ending}`);
    taken.add(name.toLowerCase());
    return name;
  };
  return documents.map((document) => {
    const name = free(safeName(document.name));
    return { document, name, asOtio: document.format === 'edl' ? free(`${splitExtension(name).stem}.otio`) : null };
  });
}
