import type { Looking } from '../context.ts';
import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import { Matching, type ClipToMatch, type MatchInput, type MatchResult, type Standing } from '@legame/core/match';
import type { MediaFileId, ProjectId } from '@legame/core/model';
import { isReferenceGone, type Database, type Transaction } from '../db/database.ts';
import { enqueue } from '../queue/queue.ts';
import { clipStore, type ClipRecord } from '../stores/clips.ts';
import { documentStore } from '../stores/documents.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore, type PlaceRecord } from '../stores/places.ts';
import { projectStore, type ProjectRecord } from '../stores/projects.ts';
import { renewShown, renewRows } from '../clips/renewal.ts';
import { acceptedAmong } from '../acceptance/acceptedFiles.ts';
import type { JobContext } from '../context.ts';
import { matchingsAtHand, type Kept } from './matchingsAtHand.ts';
import { tell } from '../events/tell.ts';

/** More candidates than a person looks through say nothing more. */
const candidatesKept = 16;

/** The closest, and whatever the decision is about. */
function worthKeeping({ candidates, decision }: MatchResult): MatchResult['candidates'] {
  if (candidates.length <= candidatesKept) return candidates;
  const named =
    decision.kind === 'ask' ? decision.mediaFileIds : 'mediaFileId' in decision ? [decision.mediaFileId] : [];
  return candidates.filter((c, i) => i < candidatesKept || named.includes(c.file.id));
}

/** What is not kept was weighed, and is a rival all the same: a decision made anew on what is kept must know of it. */
function standingOf(result: MatchResult): Standing {
  const { namesakes, outOfTime, leftOut } = result.clip;
  const dropped = result.candidates.length - worthKeeping(result).length;
  return { namesakes, outOfTime: outOfTime + dropped, leftOut };
}

/**
 * Works out candidates, decisions and reasons for the clips of a project, and keeps them as proposals: of those that
 * what changed can touch, where the matching before is still at hand; else of all. Nothing is linked by this.
 */
export async function matchProject(
  { db, report }: Pick<JobContext, 'db' | 'report'>,
  projectId: ProjectId,
): Promise<void> {
  await renewShown(db, projectId, matchingsAtHand(db).files.known);
  const begun = { at: performance.now(), used: process.cpuUsage() };
  const atHand = matchingsAtHand(db);
  let before = atHand.take(projectId);
  const [project, documents, places] = await Promise.all([
    projectStore.getProject(db, projectId),
    documentStore.listVersions(db, projectId),
    placeStore.listPlaces(db),
  ]);
  const [look, all] = await Promise.all([
    atHand.files.look(db, places, before?.look ?? null),
    before ? null : clipsOf(db, projectId, null),
  ]);
  const given = await givenFor(db, project, places, look.files);
  const basis = basisOf(given, documents);
  const isItsOwn = before !== null && before.basis === basis && before.id === project.matchedBy;
  let seen = all ?? (await clipsOf(db, projectId, isItsOwn && look.changes ? before!.clips : null));
  const of = { unit: 'clips', of: seen.versions.length } as const;
  await report({ ...of, done: 0, doing: { code: 'weighing', files: look.files.length, clips: of.of } });
  const renewed = seen.areChanges && before!.matching.renew({ ...look.changes!, clips: seen.clips });
  if (!renewed) {
    // Two of a million files would not fit side by side.
    before = null;
    atHand.makeRoom(look.files.length);
    if (seen.areChanges) seen = await clipsOf(db, projectId, null);
  }
  const matching = before?.matching ?? new Matching({ ...given, files: look.files, clips: seen.clips });
  const results = renewed || matching.results;
  const id = before ? before.id : randomUUID();
  const isOfUse = await db
    .transaction(async (trx) => {
      // Documents read otherwise meanwhile, or other rules: what was certain by those before is nothing now.
      const now = await documentStore.listVersions(trx, projectId, { areHeld: true });
      if (!documents.every((version) => now.includes(version))) return false;
      const { rules, preferredForm } = await projectStore.getProject(trx, projectId);
      if (!isDeepStrictEqual([rules, preferredForm], [project.rules, project.preferredForm])) return false;
      await clipStore.saveProposals(trx, results.map(proposalOf));
      if (!renewed) await projectStore.setMatchedBy(trx, projectId, id);
      if (results.length > 0) await tell(trx, 'project', projectId);
      return true;
    })
    .catch((error: unknown) => {
      // A place was forgotten meanwhile, and its files with it: no failure, but what was found is of no use.
      if (isReferenceGone(error)) return false;
      throw error;
    });
  if (!isOfUse) return void (await startMatch(db, projectId, project.name));
  // Lists are made anew here, so that nobody who looks has to wait for it.
  await renewRows(db, projectId, { known: atHand.files.known });
  const kept = { matching, id, basis, clips: seen.versions, look: look.number };
  atHand.keep(projectId, kept, look.files.length);
  await projectStore.setMatchingTook(db, projectId, tookMs(begun));
  await report({ ...of, done: of.of, doing: { code: 'matched' } });
}

/** Of the processor, not of the clock: on a machine that others keep busy, nobody is to wait for the next one all the longer. */
function tookMs({ at, used }: { readonly at: number; readonly used: NodeJS.CpuUsage }): number {
  const { user, system } = process.cpuUsage(used);
  return Math.min(performance.now() - at, (user + system) / 1000);
}

export const proposalOf = (result: MatchResult) => ({
  clipId: result.clip.id,
  whereRemembered: result.whereRemembered,
  decision: result.decision,
  why: result.why,
  standing: standingOf(result),
  candidates: worthKeeping(result).map(({ file, marks, levels, form }) => ({
    mediaFileId: file.id,
    marks,
    levels,
    form: form ?? null,
  })),
});

/** What was proposed before says nothing, and would be kept with it. */
export const toMatch = (clip: ClipRecord): ClipToMatch => ({
  key: clip.key,
  name: clip.name,
  reel: clip.reel,
  remembered: clip.remembered,
  kind: clip.kind,
  rate: clip.rate,
  counting: clip.counting,
  available: clip.available,
  raster: clip.raster,
  used: clip.used,
  binKey: clip.binKey,
  addresses: clip.addresses,
  metadata: clip.metadata,
  id: clip.id,
  known: clip.known,
  declined: clip.declined,
  linkedTo: clip.link?.mediaFileId ?? null,
});

type Given = Omit<MatchInput, 'clips' | 'files'> & { readonly places: readonly PlaceRecord[] };

async function givenFor(
  db: Database,
  { rules, preferredForm }: ProjectRecord,
  places: readonly PlaceRecord[],
  files: readonly MediaFileRecord[],
): Promise<Given> {
  const accepted = await acceptedAmong(db, files, new Map(places.map((p) => [p.id, p])));
  return { places, rules, preferredForm: preferredForm ?? undefined, accepted };
}

/** All but clips and files that matching rests on, as a text. */
const basisOf = ({ places, rules, preferredForm, accepted }: Given, documents: readonly string[]): string =>
  JSON.stringify([
    documents,
    places.map(({ id, name, path, knownAs, taught, there }) => [id, name, path, knownAs, taught, there]),
    rules,
    preferredForm,
    [...(accepted ?? [])].sort(),
  ]);

/**
 * The clips that are others than they were before; all, where those were not the same clips in the same order. With the
 * versions of all as of the very moment: one that is linked and unlinked again is as it was, and what was read of it in
 * between would be taken for that.
 */
const clipsOf = (db: Database, projectId: ProjectId, before: Kept['clips'] | null) =>
  db.transaction(
    async (trx) => {
      const versions = await clipStore.listVersions(trx, projectId);
      const areChanges = before?.length === versions.length && before.every(({ id }, i) => id === versions[i]!.id);
      const changed = versions.filter(({ version }, i) => version !== before?.[i]?.version).map(({ id }) => id);
      const clips = areChanges ? await clipStore.listByIds(trx, changed) : await clipStore.listClips(trx, projectId);
      return { versions, areChanges, clips: clips.map(toMatch) };
    },
    { isolationLevel: 'repeatable read' },
  );

const longestWaitMs = 60_000;
/** Of a core that matching by itself may take, where files come in without end: one part in so many. */
const shareOfCore = 20;

/** What came, changed or went on the storage. */
export type StorageChange = { readonly files: readonly MediaFileRecord[]; readonly gone: readonly MediaFileId[] };

/**
 * Matches the projects anew that a change of the storage can touch, and no others; and those not so often that files
 * coming in one by one would keep a core busy. What a person asks for is matched at once.
 */
export async function matchTouched(db: Database, { files, gone }: StorageChange): Promise<void> {
  for (const project of await projectStore.listProjects(db)) {
    const last = matchingsAtHand(db).of(project.id);
    if (last && !gone.some(last.matching.knows) && !files.some(last.matching.reaches)) continue;
    // What another worker matched is known by how long that took.
    const endedAt = project.matchedAt?.getTime() ?? 0;
    const rest = endedAt + project.matchingTookMs * (shareOfCore - 1) - Date.now();
    const afterMs = Math.max(0, Math.min(longestWaitMs, Math.ceil(rest)));
    await enqueue(db, 'match-project', { projectId: project.id }, project.name, { afterMs, byItself: true });
  }
}

export const startMatch = (db: Database | Transaction, projectId: ProjectId, projectName: string) =>
  enqueue(db, 'match-project', { projectId }, projectName);

/** Matches projects whose proposals are of another shape, after an update. */
export async function matchUnmatched({ db }: Looking): Promise<void> {
  for (const project of await projectStore.listUnmatched(db)) await startMatch(db, project.id, project.name);
}

/** Of a change that can touch every project. */
export async function matchAllProjects(db: Database | Transaction): Promise<void> {
  for (const { id, name } of await projectStore.listProjects(db))
    await enqueue(db, 'match-project', { projectId: id }, name, { byItself: true });
}
