import { onReel } from '@legame/core/bins';
import {
  checkHealth,
  notAsked,
  proposeHome,
  type ClipToCheck,
  type FileBeside,
  type FileToCheck,
  type HealthCheck,
  type HealthFinding,
  type Home,
  type PlaceToCheck,
} from '@legame/core/health';
import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import { formatRate, type Rate } from '@legame/core/time';
import { loadProject } from '../clips/project.ts';
import { renewRows } from '../clips/renewal.ts';
import type { ProjectState } from '../clips/state.ts';
import type { Looking } from '../context.ts';
import type { Database } from '../db/database.ts';
import { isRemovable } from '../disk/removable.ts';
import { roomOf } from '../disk/room.ts';
import { clipRowStore } from '../stores/clipRows.ts';
import { findingKey, healthStore } from '../stores/health.ts';
import { journalStore } from '../stores/journal.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import type { PlaceRecord } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { settingsStore } from '../stores/settings.ts';

const dayMs = 24 * 3600_000;

export type Looked = {
  readonly findings: readonly HealthFinding[];
  readonly notAsked: readonly HealthCheck[];
  readonly home: Home | null;
  readonly proposedHome: Home | null;
  readonly files: number;
  readonly clips: number;
};

/** All that the checks of health find of a project at this moment. */
export async function lookAtHealth({ db }: Looking, projectId: ProjectId): Promise<Looked> {
  const [{ home: chosen }, project] = await Promise.all([
    projectStore.getProject(db, projectId),
    loadProject(db, projectId),
  ]);
  // A place that was taken off the list is nobody's home.
  const home = chosen && project.places.has(chosen.placeId) ? chosen : null;
  const files = filesInUse(project);
  const [places, beside, copied, clips] = await Promise.all([
    Promise.all([...project.places.values()].map(placeToCheck)),
    besides(db, files),
    mediaFileStore.listInSeveralPlaces(
      db,
      files.flatMap((f) => f.fingerprint ?? []),
    ),
    clipsToCheck(db, projectId, project),
  ]);
  const { acceptance } = project;
  const timelineRates = timelineRatesOf(project);
  const headroomShare = await settingsStore.headroomShare(db);
  const input = { home, places, files, beside, clips, copied, timelineRates, acceptance, headroomShare };
  return {
    findings: checkHealth(input),
    notAsked: notAsked(input),
    home,
    proposedHome: proposeHome(files),
    files: files.length,
    clips: clips.length,
  };
}

/** The same, with what one check found alone, and nobody accepted. */
export async function lookAtOpen(context: Looking, projectId: ProjectId, check: HealthCheck): Promise<Looked> {
  const [looked, accepted] = await Promise.all([
    lookAtHealth(context, projectId),
    healthStore.listAccepted(context.db, projectId),
  ]);
  return { ...looked, findings: looked.findings.filter((f) => f.check === check && !accepted.has(findingKey(f))) };
}

/** Files that are there, or on a drive that is away, and clips are tied to. */
function filesInUse({ states }: ProjectState): FileToCheck[] {
  const used = new Map<MediaFileId, FileToCheck & { clipIds: ClipId[] }>();
  for (const { clip, tied } of states) {
    if (!tied || tied.file.gone) continue;
    const { id, placeId, folder, name, sizeInBytes, facts, fingerprint, trial } = tied.file;
    const known = used.get(id);
    if (known) known.clipIds.push(clip.id);
    else {
      const isTried = trial !== null;
      used.set(id, { id, placeId, folder, name, sizeInBytes, facts, fingerprint, isTried, clipIds: [clip.id] });
    }
  }
  return [...used.values()];
}

async function placeToCheck({ id, name, path, there }: PlaceRecord): Promise<PlaceToCheck> {
  const [room, removable] = await Promise.all([there ? roomOf(path) : null, there ? isRemovable(path) : false]);
  return { id, name, path, isRemovable: removable, room };
}

/** Of the places in which files are used, what no project is tied to. */
async function besides(db: Database, files: readonly FileToCheck[]): Promise<FileBeside[]> {
  for (const project of await projectStore.listProjects(db)) await renewRows(db, project.id, { onlyLooks: true });
  const used = await clipRowStore.listTied(db);
  const places = [...new Set(files.map((f) => f.placeId))];
  const lists = await Promise.all(
    places.map(async (placeId) =>
      (await mediaFileStore.listForRoom(db, placeId)).flatMap((f) =>
        used.has(f.id) || f.isNoMedia ? [] : [{ placeId, ...f }],
      ),
    ),
  );
  return lists.flat();
}

async function clipsToCheck(db: Database, projectId: ProjectId, { states }: ProjectState): Promise<ClipToCheck[]> {
  const aside = states.filter((s) => s.clip.setAside).map((s) => s.clip.id);
  const since = await journalStore.listSetAsideAt(db, projectId, aside);
  const daysSince = (id: ClipId) => Math.floor((Date.now() - (since.get(id)?.getTime() ?? Date.now())) / dayMs);
  return states.map(({ clip, tied }) => {
    const { id, name, remembered, reel, kind, rate, available, setAside } = clip;
    return {
      id,
      name,
      setAside: setAside && { ...setAside, days: daysSince(id) },
      // What events use of it is no evidence here: only whole recordings can be held against each other.
      ...onReel({ name, remembered, reel, kind, rate, available, used: null, tied: tied?.file ?? null }),
    };
  });
}

/** Rates of timelines that stand by themselves, those of most events first. */
function timelineRatesOf({ documents }: ProjectState): Rate[] {
  const rates = new Map<string, { rate: Rate; events: number }>();
  for (const { top, rate, events } of documents.flatMap((d) => d.timelines)) {
    if (!top) continue;
    const known = rates.get(formatRate(rate)) ?? { rate, events: 0 };
    rates.set(formatRate(rate), { rate, events: known.events + events.length });
  }
  return [...rates.values()].sort((a, b) => b.events - a.events).map((r) => r.rate);
}
