import { notedValue } from '@legame/core/bins';
import type { NamedFile } from '@legame/core/contract';
import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import { namesBy, proposeNames, type NamingParts, type ToName } from '@legame/core/naming';
import { splitExtension } from '@legame/core/paths';
import { loadProject } from '../clips/project.ts';
import type { ClipState, ProjectState } from '../clips/state.ts';
import type { Looking } from '../context.ts';
import { folderKey, lyingBeside, namesStaying, sidecarsAmong } from '../places/beside.ts';
import { usesOfFiles } from '../room/views.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import { projectStore } from '../stores/projects.ts';

type Asked = {
  readonly clips: readonly ClipId[];
  readonly pattern: string;
  readonly first: number;
  readonly written: readonly { readonly mediaFileId: MediaFileId; readonly name: string }[];
};

/** How the files of these clips would be called, with their sidecars, and what stands in the way. */
export async function previewNames(
  { db }: Looking,
  projectId: ProjectId,
  { clips, pattern, first, written }: Asked,
): Promise<NamedFile[]> {
  const [project, { name }] = await Promise.all([loadProject(db, projectId), projectStore.getProject(db, projectId)]);
  const chosen = new Set(clips);
  const tied = new Map<MediaFileId, ClipState>();
  for (const state of project.states)
    if (state.tied && chosen.has(state.clip.id) && !tied.has(state.tied.file.id)) tied.set(state.tied.file.id, state);
  const files = inOrder(
    [...tied.keys()].map((id) => project.files.get(id)!),
    project,
  );
  const named = namesBy(
    files.map((file) => toName(file, partsOf(file, tied.get(file.id)!, name))),
    pattern,
    first,
  );
  for (const { mediaFileId, name: own } of written) if (named.has(mediaFileId)) named.set(mediaFileId, own.trim());
  const { sidecars, others } = await besideOf({ db }, files);
  for (const { of, file, sidecar } of sidecars)
    named.set(file.id, splitExtension(named.get(of.id)!).stem + sidecar.ending);
  const all = [...files, ...sidecars.map((s) => s.file)];
  const propose = () =>
    proposeNames(
      all.map((file) => toName(file, noParts)),
      named,
      others,
    );
  // What goes with a recording that keeps its name keeps its own.
  const staying = new Set(propose().flatMap((p) => (p.fault ? [p.id] : [])));
  for (const { of, file } of sidecars) if (staying.has(of.id)) named.set(file.id, file.name);
  const proposed = propose();
  const { here, elsewhere } = await usesOfFiles({ db }, projectId);
  return all.map((file, i) => ({
    mediaFileId: file.id,
    placeName: project.places.get(file.placeId)!.name,
    folder: file.folder,
    from: file.name,
    to: proposed[i]!.to,
    fault: proposed[i]!.fault,
    isSidecar: i >= files.length,
    clips: [...(here.get(file.id) ?? [])],
    elsewhere: [...(elsewhere.get(file.id) ?? [])],
  }));
}

const noParts: NamingParts = { date: '', project: '', reel: '', scene: '', take: '' };
const toName = (file: MediaFileRecord, parts: NamingParts): ToName => ({
  id: file.id,
  folder: folderKey(file),
  name: file.name,
  isSequence: file.sequence !== null,
  parts,
});

/** By place and folder, in each as they were recorded; numbers are given in this order. */
function inOrder(files: readonly MediaFileRecord[], { places }: ProjectState): MediaFileRecord[] {
  const key = (file: MediaFileRecord) => `${places.get(file.placeId)!.name}/${file.folder}`;
  const byText = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
  const startOf = ({ facts }: MediaFileRecord) =>
    facts && facts.timecodeSource !== 'none' && facts.rate ? (facts.start * facts.rate.den) / facts.rate.num : 0;
  return files.toSorted((a, b) => byText(key(a), key(b)) || startOf(a) - startOf(b) || byText(a.name, b.name));
}

function partsOf(file: MediaFileRecord, { clip, matched }: ClipState, project: string): NamingParts {
  return {
    date: new Date(file.modifiedMs).toISOString().slice(0, 10).replaceAll('-', ''),
    project,
    reel: file.facts?.reel ?? matched.reel ?? '',
    scene: notedValue(clip, 'scene'),
    take: notedValue(clip, 'take'),
  };
}

/** Sidecars of these files, and the names in their folders that stay. */
async function besideOf({ db }: Looking, files: readonly MediaFileRecord[]) {
  const moving = new Set(files.map((f) => f.id));
  const lying = await lyingBeside({ db }, files);
  const sidecars = [...lying.values()].flatMap((there) => sidecarsAmong(there, ({ id }) => moving.has(id)));
  for (const { file } of sidecars) moving.add(file.id);
  return { sidecars, others: namesStaying(lying, moving) };
}
