import type { Act } from '@legame/core/contract';
import type { MediaFileId, ProjectId } from '@legame/core/model';
import { proposeNames } from '@legame/core/naming';
import { seenOf } from '@legame/core/state';
import { loadProject } from '../clips/project.ts';
import type { Context } from '../context.ts';
import { requireWritable } from '../disk/writing.ts';
import { tell } from '../events/tell.ts';
import { act } from '../history/act.ts';
import { folderKey, lyingBeside, namesStaying } from '../places/beside.ts';
import { notFound, UserProblem } from '../problems.ts';
import type { ClipChange, FileRenamed } from '../stores/journal.ts';
import { type MediaFileRecord, mediaFileStore } from '../stores/mediaFiles.ts';
import { groundOf, placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { carryRenames, holdPlaces, inRenamingTurn } from './carry.ts';

type Wanted = { readonly mediaFileId: MediaFileId; readonly from: string; readonly to: string };

/**
 * Gives files other names in their folders, all or none, as one act that undo takes back by renaming them back. Clips
 * stay tied: those that were tied by where the edit says their file lies get a link, in every project that uses one.
 */
export async function renameFiles(
  context: Pick<Context, 'db'>,
  projectId: ProjectId,
  { files: wanted, alsoOfOthers }: { files: readonly Wanted[]; alsoOfOthers: boolean },
): Promise<Act> {
  const { db } = context;
  return inRenamingTurn(db, async () => {
    const files = await requireRenamable(context, wanted);
    await requirePlaces(context, files);
    const ids = new Set(files.map((f) => f.id));
    const others = await tiesOfOthers(context, projectId, ids);
    if (others.length > 0 && !alsoOfOthers)
      throw new UserProblem({
        code: 'rename-of-others',
        files: new Set(others.flatMap((o) => [...o.files])).size,
        by: others.map((o) => o.name),
      });
    // A link to the file that a clip is tied to anyway changes nothing, should it not be renamed after all.
    for (const { id } of others)
      await projectStore.inTurn(db, id, async (trx) =>
        act(trx, id, 'follow', linksFor((await loadProject(trx, id)).states, ids)),
      );
    const done = await projectStore.inTurn(db, projectId, async (trx) => {
      await holdPlaces(trx, [...ids]);
      // Nobody clears one of them meanwhile.
      await mediaFileStore.hold(trx, [...ids]);
      const renames = wanted.map(({ mediaFileId, from, to }): FileRenamed => ({
        what: 'rename',
        mediaFileId,
        before: from,
        after: to,
      }));
      const { states } = await loadProject(trx, projectId);
      const changes = [...linksFor(states, ids), ...renames];
      const made = await act(trx, projectId, 'rename', changes, { about: { code: 'files', files: wanted.length } });
      await carryRenames(db, trx, changes, 'after');
      return made;
    });
    await tell(db, 'places');
    return done;
  });
}

/** They are there under the names that were seen, and what is wanted is possible now. */
async function requireRenamable({ db }: Pick<Context, 'db'>, wanted: readonly Wanted[]): Promise<MediaFileRecord[]> {
  const records = new Map(
    (
      await mediaFileStore.listByIds(
        db,
        wanted.map((w) => w.mediaFileId),
      )
    ).map((f) => [f.id, f]),
  );
  const files = wanted.map(({ mediaFileId, from }) => {
    const file = records.get(mediaFileId);
    if (!file) throw notFound('media-file');
    if (file.gone || file.name !== from) throw new UserProblem({ code: 'rename-overtaken', name: from });
    return file;
  });
  const others = namesStaying(await lyingBeside({ db }, files), new Set(records.keys()));
  const proposed = proposeNames(
    files.map((file) => ({ ...file, folder: folderKey(file), isSequence: file.sequence !== null })),
    new Map(wanted.map((w) => [w.mediaFileId, w.to])),
    others,
  );
  for (const { from, to, fault } of proposed)
    if (fault) throw new UserProblem({ code: 'rename-refused', name: from, to, why: fault });
  return files;
}

async function requirePlaces({ db }: Pick<Context, 'db'>, files: readonly MediaFileRecord[]): Promise<void> {
  const used = new Set(files.map((f) => f.placeId));
  const places = (await placeStore.listPlaces(db)).filter((p) => used.has(p.id));
  for (const place of places) {
    if (!place.there) throw new UserProblem({ code: 'place-away', place: place.name, path: place.path, for: 'use' });
    await requireWritable(groundOf(place));
  }
}

/** Other projects with clips that are tied to these files. */
async function tiesOfOthers({ db }: Pick<Context, 'db'>, projectId: ProjectId, ids: ReadonlySet<MediaFileId>) {
  const found = [];
  for (const { id, name } of await projectStore.listProjects(db)) {
    if (id === projectId) continue;
    const { states } = await loadProject(db, id);
    const files = new Set(states.flatMap((s) => (s.tied && ids.has(s.tied.file.id) ? [s.tied.file.id] : [])));
    if (files.size > 0) found.push({ id, name, files });
  }
  return found;
}

/** Clips that are tied by where their file lies, and by no link. */
const linksFor = (
  states: Awaited<ReturnType<typeof loadProject>>['states'],
  ids: ReadonlySet<MediaFileId>,
): ClipChange[] =>
  states.flatMap(({ clip, tied }): ClipChange[] => {
    if (!tied || clip.link || !ids.has(tied.file.id)) return [];
    const after = { mediaFileId: tied.file.id, by: 'follow' as const, seen: seenOf(tied.file), because: null };
    return [{ what: 'link', clipId: clip.id, before: null, after }];
  });
