import { createHash } from 'node:crypto';
import { hostname } from 'node:os';
import { basename } from 'node:path';
import { bundleParts, bundleVersion } from '@legame/core/bundle';
import { decodeText, writeCsv } from '@legame/core/formats';
import type { HandoffScope } from '@legame/core/contract';
import { safeName, splitExtension } from '@legame/core/paths';
import { collectTimelines } from '@legame/core/project';
import { c4Of, chainName, generationName, listFolder, writeChain, writeGeneration } from '@legame/core/mhl';
import { leftOutText } from '@legame/words/handoffs';
import { problemText } from '@legame/words/problems';
import type { Database } from '../db/database.ts';
import { loadProject } from '../clips/project.ts';
import { type ProjectState } from '../clips/state.ts';
import { relinkedContent, relinkedEdit } from '../documents/relinked.ts';
import type { Ours } from '../made/ours.ts';
import { xxh64Of } from '../media/copying.ts';
import { version } from '../version.ts';
import type { HandoffFile, HandoffRecord } from '../stores/handoffs.ts';
import { referencesInto } from './references.ts';
import { documentsInScope } from './scope.ts';

/** What lies beside the media: the relinked documents, the report, and the hash list that proves all of it. */
export async function writePapers(
  db: Database,
  handoff: HandoffRecord,
  ours: Ours,
  files: readonly HandoffFile[],
): Promise<void> {
  if (handoff.layout === 'folder') await writeTimelines(db, handoff, ours, files);
  if (handoff.layout === 'otiod') {
    await ours.write(bundleParts.content, await bundleContent(db, handoff, files));
    await ours.write(bundleParts.version, bundleVersion);
  }
  await ours.write(reportName, reportOf(handoff, files));
  await writeHashList(handoff, ours, files);
}

const reportName = 'report.csv';

/** The hash list that the next person checks the set against, as ASC MHL wants it: every file, every folder, a chain. */
async function writeHashList(handoff: HandoffRecord, ours: Ours, files: readonly HandoffFile[]): Promise<void> {
  const failed = new Set(files.filter((f) => f.state !== 'verified').map((f) => f.target));
  const isListed = (target: string) => !failed.has(target) && !target.startsWith(`${listFolder}/`);
  const listed = ours.named
    .filter(({ target }) => isListed(target))
    .map(({ target, identity, xxh64 }) => ({
      path: target,
      sizeInBytes: identity.sizeInBytes,
      modifiedAt: new Date(identity.modifiedMs),
      xxh64,
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
  ours: Ours,
  files: readonly HandoffFile[],
): Promise<void> {
  const project = await loadProject(db, handoff.projectId);
  const referenceTo = referencesInto(handoff, project, files);
  for (const { document, name, asOtio } of documentNames(project, handoff.scope)) {
    const { bytes } = await relinkedContent(db, document, project.states, referenceTo);
    await ours.write(name, bytes);
    if (asOtio !== null)
      await ours.write(asOtio, collectTimelines(asOtio, [relinkedEdit(document, project.states, referenceTo)]));
  }
}

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

/** File names for the documents in scope; two of one name are numbered. */
function documentNames(project: ProjectState, scope: HandoffScope) {
  const taken = new Set([reportName, listFolder]);
  const free = (plain: string): string => {
    let name = plain;
    for (let n = 2; taken.has(name.toLowerCase()); n += 1)
      name = plain.replace(/(\.[^.]*)?$/, (ending) => `_${n}${ending}`);
    taken.add(name.toLowerCase());
    return name;
  };
  return documentsInScope(project, scope).map((document) => {
    const name = free(safeName(document.name));
    return { document, name, asOtio: document.format === 'edl' ? free(`${splitExtension(name).stem}.otio`) : null };
  });
}

const headers = [
  ...['File', 'Bytes', 'xxh64', 'Place', 'Source', 'First unit', 'Last unit', 'Used by', 'Not here because'],
] as const;

/** What lies where and where it came from, file by file; and what is not here and why. A table for people and programs. */
function reportOf({ plan }: HandoffRecord, files: readonly HandoffFile[]): string {
  const sources = new Map(plan.recordings.map((r) => [r.mediaFileId, r]));
  const rows = files.map((f) => {
    const of = f.mediaFileId ? sources.get(f.mediaFileId) : undefined;
    const range = f.trim?.range;
    const there = f.state === 'verified' ? [f.target, f.sizeInBytes, f.xxh64 ?? ''] : ['', '', ''];
    const part = range ? [range.start, range.end - 1] : ['', ''];
    const why = f.problem ? problemText(f.problem) : '';
    return [...there, of?.placeName ?? '', f.path ?? f.source, ...part, of?.usedBy.join('; ') ?? '', why];
  });
  const left = plan.leftOut.map((l) => ['', '', '', '', l.clipName, '', '', '', leftOutText[l.reason]]);
  return writeCsv(headers, [...rows, ...left]);
}
