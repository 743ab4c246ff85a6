import { binsAfter, type Noted } from '@legame/core/bins';
import type { ClipId, Interpretation, MediaFileId, ProjectId } from '@legame/core/model';
import { nameKey } from '@legame/core/paths';
import type { About, Act, Verb } from '@legame/core/contract';
import type { Context } from '../context.ts';
import { isReferenceGone, type Transaction } from '../db/database.ts';
import { tell } from '../events/tell.ts';
import { startMatch } from '../matching/matchProject.ts';
import { carryRenames, holdPlaces, inRenamingTurn, renamedIn } from '../naming/carry.ts';
import { UserProblem } from '../problems.ts';
import { manyRows } from '../stores/staleRows.ts';
import { clipNoteStore } from '../stores/clipNotes.ts';
import { clipStore, type LinkRecord, type SetAside } from '../stores/clips.ts';
import { type AcceptedFinding, healthStore } from '../stores/health.ts';
import { type Change, isOfClip, type JournalEntry, journalStore, type NameLearned } from '../stores/journal.ts';
import { fileNameStore } from '../stores/fileNames.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { type PullMarked, pullStore } from '../stores/pulls.ts';

export type Skipped = Act['skipped'];

/** Before an act on so many clips the state is kept, to be returned to or compared with whatever comes after it. */
export const largeAct = 50;

/** Carries changes out and writes them down as one act. Every change to links of a project comes through here. */
export async function act(
  trx: Transaction,
  projectId: ProjectId,
  verb: Verb,
  changes: readonly Change[],
  { skipped = [], about = null }: { skipped?: Skipped; about?: About | null } = {},
): Promise<Act> {
  if (changes.length === 0) return { id: 0, verb, count: 0, madeAt: new Date().toISOString(), skipped };
  const clips = new Set(changes.filter(isOfClip).map((c) => c.clipId)).size;
  if (clips >= largeAct) await journalStore.keepState(trx, projectId, { name: '', before: { verb, count: clips } });
  await apply(trx, projectId, changes, 'after');
  const entry = await journalStore.append(trx, projectId, { verb, changes, about });
  await followUp(trx, projectId, changes);
  return viewAct(entry, skipped);
}

/**
 * Takes back the newest act that was not taken back yet. Whoever says which act is meant takes back that one only, and
 * once, however often it is said.
 */
export async function undo({ db }: Pick<Context, 'db'>, projectId: ProjectId, meant?: number): Promise<Act> {
  const seen = await journalStore.findLast(db, projectId);
  return inTurnFor(db, projectId, seen, async (trx) => {
    const done = await answered(trx, projectId, meant, true);
    if (done) return done;
    const entry = await journalStore.findLast(trx, projectId);
    if (!entry) throw new UserProblem({ code: 'nothing-to-undo' });
    if (meant !== undefined && entry.id !== meant) throw new UserProblem({ code: 'undo-overtaken' });
    // What came in between is not what was asked to be taken back.
    if (renames(entry) && !renames(seen)) throw new UserProblem({ code: 'undo-overtaken' });
    const changes = await journalStore.listChanges(trx, entry.id);
    await holdPlaces(trx, renamedIn(changes));
    await apply(trx, projectId, changes.toReversed(), 'before');
    await journalStore.setUndone(trx, entry.id, true);
    await followUp(trx, projectId, changes);
    await carryRenames(db, trx, changes, 'before');
    return viewAct(entry);
  });
}

/** Does the act again that was undone last, if no other came after it. */
export async function redo({ db }: Pick<Context, 'db'>, projectId: ProjectId, meant?: number): Promise<Act> {
  const seen = await journalStore.findRedoable(db, projectId);
  return inTurnFor(db, projectId, seen, async (trx) => {
    const done = await answered(trx, projectId, meant, false);
    if (done) return done;
    const entry = await journalStore.findRedoable(trx, projectId);
    if (!entry) throw new UserProblem({ code: 'nothing-to-redo' });
    if (meant !== undefined && entry.id !== meant) throw new UserProblem({ code: 'undo-overtaken' });
    // What came in between is not what was asked to be taken back.
    if (renames(entry) && !renames(seen)) throw new UserProblem({ code: 'undo-overtaken' });
    const changes = await journalStore.listChanges(trx, entry.id);
    await holdPlaces(trx, renamedIn(changes));
    await apply(trx, projectId, changes, 'after');
    await journalStore.setUndone(trx, entry.id, false);
    await followUp(trx, projectId, changes);
    await carryRenames(db, trx, changes, 'after');
    return viewAct(entry);
  });
}

const renames = (entry: JournalEntry | null): boolean => entry?.kinds.includes('rename') ?? false;

/** In the project's turn; what moves files takes the turn of those who do first. */
function inTurnFor(
  db: Context['db'],
  projectId: ProjectId,
  seen: JournalEntry | null,
  run: (trx: Transaction) => Promise<Act>,
): Promise<Act> {
  const inTurn = () => projectStore.inTurn(db, projectId, run);
  return renames(seen) ? inRenamingTurn(db, inTurn) : inTurn();
}

/** The act that is meant, where it is already as it was asked to be. */
async function answered(
  trx: Transaction,
  projectId: ProjectId,
  meant: number | undefined,
  isUndone: boolean,
): Promise<Act | null> {
  const entry = meant === undefined ? null : await journalStore.findEntry(trx, projectId, meant);
  return entry && entry.undone === isUndone ? viewAct(entry) : null;
}

/** What is noted of clips, what health is told and what is asked for is nothing that matching looks at. */
const notForMatching: ReadonlySet<Change['what']> = new Set<Change['what']>([
  'set-aside',
  'pin',
  'offline',
  'note',
  'bins',
  'labels',
  'home',
  'folders',
  'accept',
  'pull',
]);
const isForMatching = ({ what }: Change): boolean => !notForMatching.has(what);

async function followUp(trx: Transaction, projectId: ProjectId, changes: readonly Change[]): Promise<void> {
  const project = await projectStore.getProject(trx, projectId);
  // Rows of very many clips are made anew by the worker right after, and not by whoever looks first.
  if (changes.some(isForMatching) || changes.length >= manyRows) await startMatch(trx, projectId, project.name);
  await tell(trx, 'project', projectId);
}

/** Puts clips into the state on one side of an act. A file whose record is gone for good cannot be linked to again. */
async function apply(
  trx: Transaction,
  projectId: ProjectId,
  changes: readonly Change[],
  side: 'before' | 'after',
): Promise<void> {
  const links: ({ clipId: ClipId } & LinkRecord)[] = [];
  const unlinked: ClipId[] = [];
  const aside: { clipId: ClipId; setAside: SetAside | null }[] = [];
  const offline: { clipId: ClipId; takenOffline: boolean }[] = [];
  const pins: { clipId: ClipId; pinned: boolean }[] = [];
  const read: { clipId: ClipId; interpretation: Interpretation | null }[] = [];
  const notes: { clipId: ClipId; noted: Noted | null }[] = [];
  const accepted: AcceptedFinding[] = [];
  const pulls: PullMarked[] = [];
  const renamed: { id: MediaFileId; name: string }[] = [];
  for (const change of changes) {
    switch (change.what) {
      case 'link': {
        const link = change[side];
        if (link) links.push({ clipId: change.clipId, ...link });
        else unlinked.push(change.clipId);
        break;
      }
      case 'offline':
        offline.push({ clipId: change.clipId, takenOffline: change[side] });
        break;
      case 'set-aside':
        aside.push({ clipId: change.clipId, setAside: change[side] });
        break;
      case 'pin':
        pins.push({ clipId: change.clipId, pinned: change[side] });
        break;
      case 'interpret':
        read.push({ clipId: change.clipId, interpretation: change[side] });
        break;
      case 'note':
        notes.push({ clipId: change.clipId, noted: change[side] });
        break;
      case 'bins':
        await projectStore.setBins(
          trx,
          projectId,
          binsAfter(
            (await projectStore.getProject(trx, projectId)).bins,
            change[side === 'after' ? 'before' : 'after'],
            change[side],
          ),
        );
        break;
      case 'labels':
        await projectStore.setLabels(trx, projectId, change[side]);
        break;
      case 'home':
        await projectStore.setHome(trx, projectId, change[side]);
        break;
      case 'folders':
        await projectStore.setFolders(trx, projectId, change[side]);
        break;
      case 'accept':
        accepted.push({ check: change.check, key: change.key, accepted: change[side] });
        break;
      case 'pull':
        pulls.push({ key: change.key, request: change[side] });
        break;
      case 'rename':
        renamed.push({ id: change.mediaFileId, name: change[side] });
        break;
      case 'decline':
        if ((side === 'after') !== (change.back ?? false))
          await clipStore.decline(trx, change.clipId, change.mediaFileId);
        else await clipStore.undecline(trx, change.clipId, change.mediaFileId);
        break;
      case 'learn':
        await setLearned(trx, change, side === 'after');
        break;
      default:
        change satisfies never;
    }
  }
  await clipStore.deleteLinks(trx, unlinked);
  await clipStore.putLinks(trx, links).catch((error: unknown) => {
    throw isReferenceGone(error) ? new UserProblem({ code: 'undo-overtaken' }) : error;
  });
  if (offline.length) await clipStore.setTakenOffline(trx, offline);
  if (aside.length) await clipStore.setAside(trx, aside);
  if (pins.length) await clipStore.setPinned(trx, pins);
  if (read.length) await clipStore.setInterpretations(trx, read);
  if (notes.length) await clipNoteStore.setNotes(trx, notes);
  if (accepted.length) await healthStore.setAccepted(trx, projectId, accepted);
  if (pulls.length) await pullStore.setRequests(trx, projectId, pulls);
  if (renamed.length) await fileNameStore.rename(trx, renamed);
}

async function setLearned(trx: Transaction, { placeId, name }: NameLearned, isLearned: boolean): Promise<void> {
  const place = (await placeStore.listPlaces(trx)).find((p) => p.id === placeId);
  if (!place) return;
  const others = place.learnedNames.filter((n) => nameKey(n) !== nameKey(name));
  await placeStore.updatePlace(trx, placeId, { learnedNames: isLearned ? [...others, name] : others });
  await tell(trx, 'places', placeId);
}

export const viewAct = (entry: JournalEntry, skipped: Skipped = []): Act => ({
  id: entry.id,
  verb: entry.verb,
  count: entry.clips,
  madeAt: entry.madeAt.toISOString(),
  skipped,
});
