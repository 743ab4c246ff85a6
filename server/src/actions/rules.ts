import type { RuleSets, WeighedClips } from '@legame/core/contract';
import {
  defaultForm,
  isDark,
  prepareClip,
  prepareFile,
  shippedRuleSets,
  type MediaFileId,
  type ProjectId,
  type RuleSet,
} from '@legame/core';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { projectStore } from '../stores/projects.ts';
import { loadProject } from './clipViews.ts';
import type { Context } from './context.ts';

/** The sets of rules of a project: those that every project has, then its own. */
export async function listRuleSets({ db }: Pick<Context, 'db'>, projectId: ProjectId): Promise<RuleSets> {
  const { ruleSets } = await projectStore.getProject(db, projectId);
  const own = ruleSets.map((set) => ({ ...set, shipped: false }));
  return [...shippedRuleSets.map((set) => ({ ...set, shipped: true })), ...own];
}

/** Keeps these sets, and no others, beside the shipped ones. */
export async function keepRuleSets(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  sets: readonly RuleSet[],
): Promise<RuleSets> {
  await projectStore.getProject(db, projectId);
  await projectStore.setRuleSets(db, projectId, [...new Map(sets.map((s) => [s.name, s])).values()]);
  return listRuleSets({ db }, projectId);
}

/** All clips with their candidates' evidence in short: enough to decide under any rules, where they are being changed. */
export async function weighedClips({ db }: Pick<Context, 'db'>, projectId: ProjectId): Promise<WeighedClips> {
  const [{ states, rules, places }, project] = await Promise.all([
    loadProject(db, projectId),
    projectStore.getProject(db, projectId),
  ]);
  const at = new Map<MediaFileId, number>();
  for (const { clip } of states)
    for (const { mediaFileId } of clip.proposal?.candidates ?? [])
      if (!at.has(mediaFileId)) at.set(mediaFileId, at.size);
  const files = new Map((await mediaFileStore.listByIds(db, [...at.keys()])).map((f) => [f.id, f]));
  const usable = (id: MediaFileId) => {
    const file = files.get(id);
    return file !== undefined && !file.gone && (places.get(file.placeId)?.there ?? false);
  };
  return {
    rules,
    preferredForm: project.preferredForm ?? defaultForm,
    clips: states.map(({ clip, status, tied }) => {
      const { reelKey, parentKey } = prepareClip(clip);
      return {
        id: clip.id,
        name: clip.name,
        reelKey,
        parentKey,
        isDark: isDark(status.status) && status.status !== 'parked',
        tiedTo: tied?.file.id ?? null,
        candidates: (clip.proposal?.candidates ?? [])
          .filter((c) => usable(c.mediaFileId))
          .map((c): WeighedClips['clips'][number]['candidates'][number] => [
            at.get(c.mediaFileId)!,
            c.marks,
            c.levels,
            c.form,
          ]),
      };
    }),
    files: [...at.keys()].map((id) => {
      const file = files.get(id);
      const prepared = file && prepareFile(file, '');
      return {
        id,
        placeId: file?.placeId ?? ('' as never),
        folder: file?.folder ?? '',
        name: file?.name ?? '',
        kind: prepared?.kind ?? null,
        state: prepared?.state ?? 'unusable',
        bytes: prepared?.bytes ?? null,
      };
    }),
  };
}
