import type { Act, CarryPreview } from '@legame/core/contract';
import {
  carry,
  carryPattern,
  filesByPath,
  isDark,
  learnedName,
  nameKey,
  prepareClip,
  prepareFile,
  prepareFiles,
  refusedFor,
  weigh,
  type ClipId,
  type MediaFileId,
  type ProjectId,
} from '@legame/core';
import type { Transaction } from '../db/database.ts';
import { notFound, UserProblem } from '../problems.ts';
import { clipStore, type LinkMaker, type LinkRecord } from '../stores/clips.ts';
import {
  journalStore,
  type Change,
  type ClipChange,
  type JournalEntry,
  type NameLearned,
  type Verb,
} from '../stores/journal.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { certainFile, loadProject, seenOf, type ProjectState } from './clipViews.ts';
import type { Context } from './context.ts';
import { startMatch } from './matchProject.ts';
import { tell } from './tell.ts';

type Skipped = Act['skipped'];
const verbs: Readonly<Record<LinkMaker, Verb>> = { rule: 'link-by-rule', hand: 'link', carry: 'carry' };

/**
 * Ties clips to files, or unties them, as one journal entry. What a rule or a carry asks for is judged again here, on
 * what is known now: a link that is no longer certain, or differs in what must agree, is skipped and says so.
 */
export async function linkClips(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  by: LinkMaker,
  links: readonly { clipId: ClipId; mediaFileId: MediaFileId | null }[],
): Promise<Act> {
  return db.transaction(async (trx) => {
    const project = await loadProject(trx, projectId);
    const states = new Map(project.states.map((s) => [s.clip.id, s]));
    const files = new Map(
      (
        await mediaFileStore.listByIds(
          trx,
          links.flatMap((l) => l.mediaFileId ?? []),
        )
      ).map((f) => [f.id, f]),
    );
    const changes: ClipChange[] = [];
    const skipped: Skipped = [];
    for (const { clipId, mediaFileId } of new Map(links.map((l) => [l.clipId, l])).values()) {
      const state = states.get(clipId);
      if (!state) throw notFound('clip');
      const before = state.clip.link;
      if (mediaFileId === null) {
        if (before) changes.push({ what: 'link', clipId, before, after: null });
        continue;
      }
      const file = files.get(mediaFileId);
      if (!file) throw notFound('media file');
      const place = project.places.get(file.placeId);
      const skip = (why: string) => skipped.push({ clipId, why });
      if (by === 'rule' && certainFile(state) !== mediaFileId) {
        skip('it is not certain any more');
        continue;
      }
      if (
        by === 'carry' &&
        refusedFor(weigh(prepareClip(state.clip), prepareFile(file, place?.name ?? '')), project.rules).length > 0
      ) {
        skip('the file differs in what must agree');
        continue;
      }
      if (file.gone) {
        skip('the file is not there any more');
        continue;
      }
      changes.push({ what: 'link', clipId, before, after: { mediaFileId, by, seen: seenOf(file) } });
    }
    const verb = links.every((l) => l.mediaFileId === null) ? 'unlink' : verbs[by];
    return act(trx, projectId, verb, [...changes, ...namesLearned(project, changes, files)], skipped);
  });
}

/** Links every clip that has one certain, unrivalled candidate. */
export async function linkCertain(context: Context, projectId: ProjectId): Promise<Act> {
  const { states } = await loadProject(context.db, projectId);
  const links = states.flatMap((state) => {
    const mediaFileId = certainFile(state);
    return mediaFileId ? [{ clipId: state.clip.id, mediaFileId }] : [];
  });
  return linkClips(context, projectId, 'rule', links);
}

/** Sets clips aside (for later, or for good), or takes them up again. */
export async function setAside(
  { db }: Context,
  projectId: ProjectId,
  clipIds: readonly ClipId[],
  as: 'parked' | 'waived' | null,
  reason: string,
): Promise<Act> {
  return db.transaction(async (trx) => {
    const { states } = await loadProject(trx, projectId);
    const chosen = new Set(clipIds);
    const changes = states
      .filter((s) => chosen.has(s.clip.id))
      .map((s): ClipChange => ({
        what: 'set-aside',
        clipId: s.clip.id,
        before: s.clip.setAside,
        after: as ? { as, reason } : null,
      }));
    return act(trx, projectId, as === 'parked' ? 'park' : as === 'waived' ? 'waive' : 'take-up', changes, []);
  });
}

/** Remembers that this file is not the one for this clip; it is no candidate of it any more. */
export async function declineCandidate({ db }: Context, clipId: ClipId, mediaFileId: MediaFileId): Promise<Act> {
  const clip = await clipStore.getClip(db, clipId);
  await mediaFileStore.getMediaFile(db, mediaFileId);
  return db.transaction((trx) => act(trx, clip.projectId, 'decline', [{ what: 'decline', clipId, mediaFileId }], []));
}

/** What tying this clip to this file would carry to the project's other dark clips. Nothing is changed. */
export async function previewCarry(
  { db }: Context,
  projectId: ProjectId,
  clipId: ClipId,
  mediaFileId: MediaFileId,
): Promise<CarryPreview> {
  const [project, files] = await Promise.all([loadProject(db, projectId), mediaFileStore.listPresent(db)]);
  const state = project.states.find((s) => s.clip.id === clipId);
  const file = files.find((f) => f.id === mediaFileId);
  if (!state) throw notFound('clip');
  if (!file) throw notFound('media file');
  const places = [...project.places.values()];
  const pattern = carryPattern(
    prepareClip(state.clip),
    prepareFile(file, project.places.get(file.placeId)?.name ?? ''),
  );
  if (!pattern) return { pattern: null, carried: [] };
  const there = files.filter((f) => project.places.get(f.placeId)?.there);
  const others = project.states.filter((s) => s.clip.id !== clipId && isDark(s.status.status));
  const names = new Map(others.map((s) => [s.clip.id, s.clip.name]));
  const carried = carry(
    pattern,
    others.map((s) => prepareClip(s.clip)),
    filesByPath(prepareFiles(there, places)),
    project.rules,
  );
  return {
    pattern: { from: pattern.displacement.from.join('/'), to: pattern.displacement.to.join('/'), ...pattern.name },
    carried: carried.map((c) => ({
      clipId: c.clipId,
      clipName: names.get(c.clipId) ?? '',
      fits: c.fits,
      differs: c.fits ? [] : [...c.differs],
      file: {
        mediaFileId: c.file.file.id,
        version: '',
        name: c.file.file.name,
        placeName: c.file.folders[0] ?? '',
        folder: c.file.file.folder,
      },
      verdicts: c.evidence.map((e) => e.verdict),
    })),
  };
}

/**
 * The names under which the edit knows the places of files that are being linked, so that whatever comes from the same
 * machine next is understood at once. A name that means another place already, or was taken away, is not learned.
 */
function namesLearned(
  { states, places }: ProjectState,
  changes: readonly ClipChange[],
  files: ReadonlyMap<MediaFileId, MediaFileRecord>,
): NameLearned[] {
  const clips = new Map(states.map((s) => [s.clip.id, s.clip]));
  const taken = new Set([...places.values()].flatMap((p) => [p.name, ...p.knownAs]).map(nameKey));
  const learned: NameLearned[] = [];
  for (const change of changes) {
    const file = change.what === 'link' && change.after ? files.get(change.after.mediaFileId) : undefined;
    const remembered = clips.get(change.clipId)?.remembered;
    const name = file && remembered ? learnedName(remembered, file.folder) : null;
    const place = file && places.get(file.placeId);
    if (!name || !place || taken.has(nameKey(name)) || place.unlearnedNames.includes(name)) continue;
    // Learned for one place, it means no other.
    taken.add(nameKey(name));
    learned.push({ what: 'learn', placeId: place.id, name });
  }
  return learned;
}

/** Takes back the newest act of a project that was not taken back yet, if nothing has come over it since. */
export async function undo({ db }: Context, projectId: ProjectId): Promise<Act> {
  return db.transaction(async (trx) => {
    const entry = await journalStore.findLast(trx, projectId);
    if (!entry)
      throw new UserProblem('nothing-to-undo', 409, 'There is nothing to undo: no link was changed in this project.');
    await apply(trx, entry.changes, 'before');
    await journalStore.markUndone(trx, entry.id);
    const project = await projectStore.getProject(trx, projectId);
    await startMatch(trx, projectId, project.name);
    await tell(trx, 'project', projectId);
    return viewAct(entry, []);
  });
}

async function act(
  trx: Transaction,
  projectId: ProjectId,
  verb: Verb,
  changes: readonly Change[],
  skipped: Skipped,
): Promise<Act> {
  if (changes.length === 0) return { id: 0, verb, count: 0, madeAt: new Date().toISOString(), skipped };
  await apply(trx, changes, 'after');
  const entry = await journalStore.append(trx, projectId, verb, changes);
  const project = await projectStore.getProject(trx, projectId);
  await startMatch(trx, projectId, project.name);
  await tell(trx, 'project', projectId);
  return viewAct(entry, skipped);
}

const viewAct = (entry: JournalEntry, skipped: Skipped): Act => ({
  id: entry.id,
  verb: entry.verb,
  count: entry.clips,
  madeAt: entry.madeAt.toISOString(),
  skipped,
});

/** Puts clips into the state on one side of an act. A file whose record is gone for good cannot be linked to again. */
async function apply(trx: Transaction, changes: readonly Change[], side: 'before' | 'after'): Promise<void> {
  const links: ({ clipId: ClipId } & LinkRecord)[] = [];
  const unlinked: ClipId[] = [];
  const aside: Parameters<typeof clipStore.setAside>[1][number][] = [];
  for (const change of changes) {
    switch (change.what) {
      case 'link': {
        const link = change[side];
        if (link) links.push({ clipId: change.clipId, ...link });
        else unlinked.push(change.clipId);
        break;
      }
      case 'set-aside':
        aside.push({ clipId: change.clipId, setAside: change[side] });
        break;
      case 'decline':
        if (side === 'after') await clipStore.decline(trx, change.clipId, change.mediaFileId);
        else await clipStore.undecline(trx, change.clipId, change.mediaFileId);
        break;
      case 'learn':
        await setLearned(trx, change, side === 'after');
        break;
      default:
        change satisfies never;
    }
  }
  const known = new Set(
    (
      await mediaFileStore.listByIds(
        trx,
        links.map((l) => l.mediaFileId),
      )
    ).map((f) => f.id),
  );
  const lost = links.find((l) => !known.has(l.mediaFileId));
  if (lost)
    throw new UserProblem(
      'undo-overtaken',
      409,
      'This cannot be undone: the place that held the files of before was forgotten. Add the place again and link by rule.',
    );
  await clipStore.deleteLinks(trx, unlinked);
  await clipStore.putLinks(trx, links);
  if (aside.length) await clipStore.setAside(trx, aside);
}

async function setLearned(trx: Transaction, { placeId, name }: NameLearned, isLearned: boolean): Promise<void> {
  const place = (await placeStore.listPlaces(trx)).find((p) => p.id === placeId);
  if (!place) return;
  const others = place.learnedNames.filter((n) => n !== name);
  await placeStore.updatePlace(trx, placeId, { learnedNames: isLearned ? [...others, name] : others });
  await tell(trx, 'places', placeId);
}
