import type { Looking } from '../context.ts';
import { findRenditions, type Form, forms, prepareClip, prepareFile, weigh } from '@legame/core/match';
import type { ClipId, ProjectId } from '@legame/core/model';
import type { Member, Renditions } from '@legame/core/contract';
import { acceptedAmong } from '../acceptance/acceptedFiles.ts';
import { screenSeconds } from '../clips/screenTime.ts';
import { loadProject } from '../clips/project.ts';
import { member } from '../clips/memberViews.ts';
import type { Database, Transaction } from '../db/database.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';

/** All recordings that lie on the places in more than one form, by the id of each of their files. */
async function allRenditions(db: Database | Transaction) {
  const [files, placeList] = await Promise.all([mediaFileStore.listPresent(db), placeStore.listPlaces(db)]);
  const places = new Map(placeList.map((p) => [p.id, p]));
  const present = files.filter((f) => places.get(f.placeId)?.there);
  return {
    renditions: findRenditions(present, await acceptedAmong(db, present, places)),
    files: new Map(present.map((f) => [f.id, f])),
  };
}

/** For each form, how many of the linked clips have their recording in it as well. */
export async function listRenditions({ db }: Looking, projectId: ProjectId): Promise<Renditions> {
  const [project, { states }, { renditions }] = await Promise.all([
    projectStore.getProject(db, projectId),
    loadProject(db, projectId),
    allRenditions(db),
  ]);
  const counts = new Map<Form, number>(forms.map((form) => [form, 0]));
  for (const { tied } of states) {
    const own = tied && renditions.get(tied.file.id);
    for (const form of new Set(own?.filter((r) => r.mediaFileId !== tied?.file.id).map((r) => r.form)))
      counts.set(form, counts.get(form)! + 1);
  }
  return {
    preferred: project.preferredForm,
    available: forms.map((form) => ({ form, clips: counts.get(form)! })).filter((f) => f.clips > 0),
  };
}

/** Which clips would be tied to another form of their recording, and to which file. */
export async function wantedForms({ db }: Looking, projectId: ProjectId, form: Form, clipIds?: readonly ClipId[]) {
  const [project, { renditions, files }] = await Promise.all([loadProject(db, projectId), allRenditions(db)]);
  const chosen = clipIds && new Set(clipIds);
  const wanted = project.states.flatMap((state) => {
    const { clip, tied } = state;
    if (!tied || (chosen && !chosen.has(clip.id))) return [];
    const own = renditions.get(tied.file.id) ?? [];
    if (own.find((r) => r.mediaFileId === tied.file.id)?.form === form) return [];
    // Copies of one form are alike in bytes; the first will do.
    const other = own.find((r) => r.form === form);
    const file = other && files.get(other.mediaFileId);
    return file ? [{ state, file }] : [];
  });
  return { project, wanted };
}

/** What switching would change, clip by clip. */
export async function previewForm(
  context: Looking,
  projectId: ProjectId,
  form: Form,
  clipIds?: readonly ClipId[],
): Promise<Member[]> {
  const { project, wanted } = await wantedForms(context, projectId, form, clipIds);
  const seconds = screenSeconds(project);
  return wanted.map(({ state, file }) => {
    const place = project.places.get(file.placeId);
    const { marks } = weigh(prepareClip(state.clip), prepareFile(file, place?.name ?? ''));
    return member(state, seconds([state.clip]), file, place, { marks, fits: !state.clip.pinned });
  });
}
