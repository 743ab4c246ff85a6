import { isDeepStrictEqual } from 'node:util';
import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import type { Database, Transaction } from '../db/database.ts';
import { together } from '../db/together.ts';
import { clipRowStore, type ListState } from '../stores/clipRows.ts';
import { documentStore } from '../stores/documents.ts';
import { type PlaceRecord, placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { manyRows, staleRowStore } from '../stores/staleRows.ts';
import { type StampPart, type Stamps, stampStore } from '../stores/stamps.ts';
import { renewRows } from './renewal.ts';
import { loadClips, type ProjectState, sharedBy, type SomeClips, stateOf } from './state.ts';

export type { StampPart } from '../stores/stamps.ts';

/** A project as it was looked at last, up to a version of its rows. */
type Kept = {
  readonly list: ListState;
  readonly acceptance: string;
  readonly places: string;
  readonly clips: SomeClips;
};

/**
 * So many clips are held together, some five kilobytes each, and of no more projects: those looked at last. Larger
 * projects are looked at whole each time.
 */
const mostClips = 40_000;
const mostProjects = 8;
/** So many are looked at anew together: what is made of them on the way is bounded. */
const atOnce = 2000;
const kept = new WeakMap<object, Map<ProjectId, Kept>>();

/**
 * A project with the status of every clip, derived from link, facts and use. What was looked at before stays at hand,
 * and only the clips are looked at again that something touched since.
 */
export async function loadProject(db: Database | Transaction, projectId: ProjectId): Promise<ProjectState> {
  // Inside a transaction there is what nobody else may see.
  if (db.isTransaction)
    return { ...(await loadClips(db, projectId, null)), documents: await documentsOf(db, projectId) };
  return together(db, `project ${projectId}`, () => loadRenewed(db as Database, projectId));
}

async function loadRenewed(db: Database, projectId: ProjectId): Promise<ProjectState> {
  await renewFew(db, projectId, { waits: true });
  const atHand = kept.get(db) ?? new Map<ProjectId, Kept>();
  kept.set(db, atHand);
  const clips = await renewed(db, projectId, atHand);
  if (clips.list.total <= mostClips) atHand.set(projectId, clips);
  for (const oldest of atHand.keys()) if (isTooMuch(atHand)) atHand.delete(oldest);
  return { ...clips.clips, documents: await documentsOf(db, projectId) };
}

function isTooMuch(atHand: ReadonlyMap<ProjectId, Kept>): boolean {
  const clips = [...atHand.values()].reduce((sum, { list }) => sum + list.total, 0);
  return clips > mostClips || atHand.size > mostProjects;
}

/**
 * Makes few rows anew where nobody does so already: what clips are is known without their rows, and who asks for it does
 * not wait until they are written. But where documents changed, which clips there are is known by the rows, which are
 * waited for, or looked at as they are.
 */
async function renewFew(db: Database, projectId: ProjectId, { waits }: { readonly waits: boolean }): Promise<void> {
  const { notes, areOfDocuments } = await staleRowStore.countNoted(db, projectId);
  if (notes < manyRows || areOfDocuments) await renewRows(db, projectId, { onlyLooks: !(waits && areOfDocuments) });
}

/**
 * Clips as they are inside a turn of their project: very many of them are those at hand, where nothing touched the
 * project since.
 */
export async function loadClipsInTurn(
  db: Database,
  trx: Transaction,
  projectId: ProjectId,
  ids: readonly ClipId[],
): Promise<SomeClips> {
  const atHand = ids.length >= manyRows ? kept.get(db)?.get(projectId) : undefined;
  if (!atHand || (await staleRowStore.isStale(trx, projectId))) return loadClips(trx, projectId, ids);
  const now = await lookAt(trx, projectId);
  if (!isDeepStrictEqual(now.about, aboutOf(atHand))) return loadClips(trx, projectId, ids);
  const wanted = new Set(ids);
  return {
    ...atHand.clips,
    states: atHand.clips.states.filter((s) => wanted.has(s.clip.id)),
    rules: now.project.rules,
  };
}

/** Of a place, what any clip or view of clips depends on. */
const mattering = ({ id, name, path, there, awayBecause, readOnly, slow, knownAs, root }: PlaceRecord) => [
  id,
  name,
  path,
  there,
  awayBecause,
  readOnly,
  slow,
  knownAs,
  root,
];
const documentsOf = (db: Database | Transaction, projectId: ProjectId) => documentStore.listDocuments(db, projectId);

/**
 * For each of these parts of the project a text that is another whenever anything is that a view resting on it shows. What
 * was changed before it is asked for is in it; where very many rows are being made anew, so is that they will be others.
 */
export async function stampsOf<P extends StampPart>(
  db: Database,
  projectId: ProjectId,
  parts: readonly P[],
): Promise<Stamps<P>> {
  const look = () =>
    together(db, `stamp ${projectId} ${parts.join(' ')}`, () => stampStore.ofProject(db, projectId, parts));
  const before = await look();
  if (!before.isStale) return before.stamps;
  // Notes only grow in number until rows are made anew, which gives those another version: either is in the stamp.
  await renewFew(db, projectId, { waits: false });
  return (await look()).stamps;
}

/** How the list, the project and its places stand: where that is as before, so is all that is at hand. */
async function lookAt(db: Database | Transaction, projectId: ProjectId) {
  const list = await clipRowStore.stateOfList(db, projectId);
  const [project, places] = await Promise.all([projectStore.getProject(db, projectId), placeStore.listPlaces(db)]);
  const about = {
    list,
    acceptance: JSON.stringify(project.acceptance),
    places: JSON.stringify(places.map(mattering)),
  };
  return { about, project, places };
}
const aboutOf = ({ list, acceptance, places }: Kept) => ({ list, acceptance, places });

/** What is at hand of a project: its clips, where those are to be looked at again only in part, and its files. */
function takeOut(atHand: Map<ProjectId, Kept>, projectId: ProjectId, about: Omit<Kept, 'clips'>) {
  const last = atHand.get(projectId);
  atHand.delete(projectId);
  const files = new Map(last?.clips.files);
  if (!last || last.list.epoch !== about.list.epoch || last.acceptance !== about.acceptance)
    return { files, before: null };
  const { list, places, clips } = last;
  return { files, before: { states: [...clips.states], version: list.version, places } };
}

/** As it is now. What is at hand of it is taken out: of what changed, how it was and how it is would not be held at once. */
async function renewed(db: Database, projectId: ProjectId, atHand: Map<ProjectId, Kept>): Promise<Kept> {
  // Looked at first: what changes while the rest is loaded is loaded again the next time.
  const { about, project, places: placeList } = await lookAt(db, projectId);
  const { files, before } = takeOut(atHand, projectId, about);
  const known = (id: MediaFileId) => files.get(id);
  if (!before) return { ...about, clips: await loadClips(db, projectId, null, { known }) };
  const { states, version } = before;
  const noted = await staleRowStore.listNoted(db, projectId);
  const remade = await clipRowStore.listTouched(db, projectId, { version });
  const touched = [...new Set([...noted, ...remade])];
  const positions = new Map(states.map(({ clip }, i) => [clip.id, i]));
  const shared = sharedBy(db, projectId);
  for (let at = 0; at < touched.length; at += atOnce) {
    const some = await loadClips(db, projectId, touched.slice(at, at + atOnce), { shared, known });
    for (const [id, file] of some.files) files.set(id, file);
    for (const state of some.states) {
      const position = positions.get(state.clip.id);
      if (position === undefined) continue;
      states[position] = state;
      positions.delete(state.clip.id);
    }
  }
  const { rules, acceptance } = project;
  const places = new Map(placeList.map((p) => [p.id, p]));
  if (before.places !== about.places)
    for (const position of positions.values()) {
      const { clip, matched } = states[position]!;
      states[position] = stateOf(clip, files, places, acceptance, matched);
    }
  return { ...about, clips: { states, files, places, rules, acceptance } };
}
