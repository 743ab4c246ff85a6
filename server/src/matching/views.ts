import type { Looking } from '../context.ts';
import { defaultForm, prepareFile, shippedRuleSets } from '@legame/core/match';
import type { ProjectId } from '@legame/core/model';
import { isDark } from '@legame/core/state';
import type { RuleSets, WeighedClips } from '@legame/core/contract';
import { loadProject } from '../clips/project.ts';
import { preparedClip } from '../clips/state.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { projectStore } from '../stores/projects.ts';

/** The sets of rules of a project: those that every project has, then its own. */
export async function listRuleSets({ db }: Looking, projectId: ProjectId): Promise<RuleSets> {
  const { ruleSets } = await projectStore.getProject(db, projectId);
  const own = ruleSets.map((set) => ({ ...set, shipped: false }));
  return [...shippedRuleSets.map((set) => ({ ...set, shipped: true })), ...own];
}

/** All clips with their candidates' evidence in short: enough to decide under any rules, where they are being changed. */
export async function weighedClips({ db }: Looking, projectId: ProjectId): Promise<WeighedClips> {
  const [{ states, rules, places }, project] = await Promise.all([
    loadProject(db, projectId),
    projectStore.getProject(db, projectId),
  ]);
  const ids = new Set(states.flatMap(({ clip }) => (clip.proposal?.candidates ?? []).map((c) => c.mediaFileId)));
  // What is gone since matching is no candidate any more; what is away is a rival still.
  const files = (await mediaFileStore.listByIds(db, [...ids])).filter((file) => !file.gone);
  const at = new Map(files.map((file, i) => [file.id, i]));
  return {
    rules,
    preferredForm: project.preferredForm ?? defaultForm,
    clips: states.map(({ clip, matched, status, tied }) => {
      const { reelKey, parentKey, stemKey, start, origin, enriched, nameIsCommon, startIsCommon, outOfTime, leftOut } =
        preparedClip({ clip, matched });
      return {
        id: clip.id,
        name: clip.name,
        reelKey,
        parentKey,
        stemKey,
        start,
        origin,
        enriched,
        nameIsCommon,
        startIsCommon,
        outOfTime,
        leftOut,
        isDark: isDark(status.status) && status.status !== 'parked',
        tiedTo: tied?.file.id ?? null,
        candidates: (clip.proposal?.candidates ?? []).flatMap(
          ({ mediaFileId, marks, levels, form }): WeighedClips['clips'][number]['candidates'] => {
            const file = at.get(mediaFileId);
            return file === undefined ? [] : [[file, marks, levels, form]];
          },
        ),
      };
    }),
    files: files.map((file) => {
      const there = places.get(file.placeId)?.there ?? false;
      const { id, placeId, folder, kind, state, bytes, reelKey } = prepareFile(file, '', there);
      return { id, placeId, folder, name: file.name, kind, state, bytes, there, reelKey };
    }),
  };
}
