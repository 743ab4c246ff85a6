import { basename, join, relative } from 'node:path';
import type { z } from 'zod';
import type { acceptedCopySchema, Job } from '@legame/core/contract';
import { defaultHeadroomShare, roomAfter } from '@legame/core/consolidate';
import { acceptsAll, refusalOf, type Facts, type ProjectId } from '@legame/core/model';
import { safeName, splitExtension } from '@legame/core/paths';
import { sameRate } from '@legame/core/time';
import { enqueue } from '../queue/queue.ts';
import { endureAsync } from '../disk/conditions.ts';
import { folderInsideRoots, isInside } from '../disk/fence.ts';
import { withFileOf, type Ground } from '../disk/held.ts';
import { roomOf } from '../disk/room.ts';
import { FencedFolder, requireWritable } from '../disk/writing.ts';
import { Ours } from '../made/ours.ts';
import { UserProblem } from '../problems.ts';
import { pathInPlace, readMediaFile } from '../media/read.ts';
import { ReaderProcess } from '../media/readerProcess.ts';
import { encoderFor, transcode } from '../media/transcode.ts';
import { acceptedCopyStore, type CopyCodec } from '../stores/acceptedCopies.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { groundOf, placeStore, type PlaceRecord } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { loadProject } from '../clips/project.ts';
import type { Context, JobContext } from '../context.ts';
import { indexPlace } from '../places/indexPlace.ts';
import { linkClips } from '../links/link.ts';

/**
 * Begins to make a copy of a film in a form that the project accepts, in a folder of a place: same name, same frames,
 * same timecode and reel. When it is proven, it is linked in the original's stead; the original stays as it is.
 */
export async function startAcceptedCopy(
  { db, config }: Context,
  projectId: ProjectId,
  request: z.infer<typeof acceptedCopySchema>,
): Promise<Job> {
  const file = await mediaFileStore.getMediaFile(db, request.mediaFileId);
  if (file.facts?.kind !== 'picture' || !file.facts.rate || file.sequence)
    throw new UserProblem({ code: 'not-a-film', file: file.name, mediaFileId: file.id });
  const folder = await folderInsideRoots(request.targetFolder, config.roots);
  await placeOf(await placeStore.listPlaces(db), folder);
  await requireWritable({ path: folder });
  await requireRoom(folder, file.facts, request.codec);
  const refusal = await refusalOfCopy({ db }, projectId, file.facts, request.codec);
  if (refusal) throw new UserProblem({ code: 'copy-not-accepted', refusal });
  return db.transaction(async (trx) => {
    const id = await acceptedCopyStore.insert(trx, { projectId, mediaFileId: file.id, folder, codec: request.codec });
    return enqueue(trx, 'accepted-copy', { copyId: id }, file.name, { on: file.placeId });
  });
}

/** What the project would say of the copy. Its rate is the original's: another would not be the same frames. */
async function refusalOfCopy(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  facts: Facts,
  codec: z.infer<typeof acceptedCopySchema>['codec'],
) {
  const profile = (await projectStore.getProject(db, projectId)).acceptance ?? acceptsAll;
  const encoder = encoderFor({ codec, ...profile }, facts);
  const isDeep = encoder.arguments.some((a) => a.includes('10le'));
  return refusalOf(
    {
      ...facts,
      container: encoder.extension === 'mkv' ? 'matroska' : 'mov',
      codec,
      bitDepth: isDeep ? 10 : 8,
      chroma: codec === 'h264' ? '4:2:0' : '4:2:2',
      raster: null,
    },
    profile,
  );
}

/** About how many bytes a pixel takes in each form, on the safe side. */
const bytesPerPixel = { ffv1: 1.4, dnxhd: 0.9, h264: 0.3, mjpeg: 0.5 } as const;

/** Says before anything begins that the copy would not fit beside the headroom. */
async function requireRoom(folder: string, facts: Facts, codec: CopyCodec): Promise<void> {
  const room = await roomOf(folder);
  if (!room) return;
  const pixels = (facts.raster?.width ?? 1920) * (facts.raster?.height ?? 1080) * (facts.length ?? 0);
  const needed = Math.ceil(pixels * bytesPerPixel[codec]);
  const { fits, usableInBytes } = roomAfter(needed, { ...room, headroomShare: defaultHeadroomShare });
  if (fits) return;
  throw new UserProblem({ code: 'no-room', for: 'copy', folder, neededInBytes: needed, usableInBytes });
}

async function placeOf(places: readonly PlaceRecord[], folder: string): Promise<PlaceRecord> {
  const place = places.find((p) => p.there && isInside(p.path, folder));
  if (place) return Promise.resolve(place);
  throw new UserProblem({ code: 'copy-in-no-place', folder });
}

/** Carries it out: written aside, measured, held against the original, named, indexed, linked. */
export async function makeAcceptedCopy(job: JobContext, id: string): Promise<void> {
  const { db, signal, report, readLog } = job;
  const copy = await acceptedCopyStore.get(db, id);
  const file = await mediaFileStore.getMediaFile(db, copy.mediaFileId);
  const from = await placeStore.getPlace(db, file.placeId);
  const { facts } = file;
  if (!from.there || !facts)
    throw new UserProblem({ code: 'file-away', file: file.name, place: from.name, for: 'copy' });
  const to = await placeOf(await placeStore.listPlaces(db), copy.folder);
  const target = await FencedFolder.of({ path: copy.folder });
  if (copy.madePath === null) {
    const { acceptance } = await projectStore.getProject(db, copy.projectId);
    const form = { codec: copy.codec, ...(acceptance ?? acceptsAll) };
    const { extension } = encoderFor(form, facts);
    const ours = await Ours.in(db, `copy:${id}`, target);
    const name = await freeName(target, splitExtension(file.name).stem, extension);
    await ours.note([name]);
    const { aside } = ours.of(name);
    try {
      await report({
        done: 0,
        of: null,
        unit: 'files',
        doing: { code: 'making-copy', file: file.name, codec: copy.codec },
      });
      const opened = readLog.open({
        what: 'copy',
        placeId: from.id,
        mediaFileId: file.id,
        path: `${from.name}/${pathInPlace(file)}`,
      });
      const complaint = await withFileOf(groundOf(from), pathInPlace(file), async (source) => {
        if (!(await endureAsync(join(from.path, pathInPlace(file)), { signal }))) return 'its drive does not answer';
        const made = await target.create(aside);
        try {
          return await transcode(source, made, facts, form, signal);
        } finally {
          await made.sync();
          await made.close();
        }
      });
      opened.close(complaint === null ? 'ok' : 'failed', complaint);
      if (complaint !== null) throw new UserProblem({ code: 'copy-not-made', file: file.name, detail: complaint });
      await report({ done: 0, of: null, unit: 'files', doing: { code: 'proving-copy', file: file.name } });
      await prove(target.ground, aside, facts, signal);
      await ours.name(name, null);
      await acceptedCopyStore.setMade(db, id, join(copy.folder, name));
    } finally {
      await target.discard(aside);
    }
  }
  const made = (await acceptedCopyStore.get(db, id)).madePath!;
  const folder = relative(to.path, copy.folder).split('\\').join('/');
  await indexPlace(job, { placeId: to.id, folder });
  const record = (await mediaFileStore.listInFolder(db, to.id, folder)).find((f) => f.name === basename(made));
  if (!record?.facts) throw new UserProblem({ code: 'copy-not-indexed', path: made, place: to.name });
  const { states } = await loadProject(db, copy.projectId);
  const links = states
    .filter((s) => s.tied?.file.id === file.id)
    .map((s) => ({ clipId: s.clip.id, mediaFileId: record.id }));
  if (links.length > 0) await linkClips({ db }, copy.projectId, { by: 'hand' }, links);
}

/** Frames, rate, start and reel of the copy must be those of the original. */
async function prove(folder: Ground, name: string, facts: Facts, signal: AbortSignal): Promise<void> {
  const reader = new ReaderProcess();
  try {
    const reading = await readMediaFile(reader, folder, { folder: '', name, sequence: null }, { signal });
    if (reading === 'aborted') throw new DOMException('Aborted', 'AbortError');
    const copy = reading.facts;
    const differs = (['length', 'start', 'counting', 'reel'] as const).filter((k) => copy?.[k] !== facts[k]);
    const isSame = copy?.rate && facts.rate && sameRate(copy.rate, facts.rate) && differs.length === 0;
    if (!isSame) throw new UserProblem({ code: 'copy-differs', in: differs.length > 0 ? differs : ['rate'] });
  } finally {
    reader.stop();
  }
}

async function freeName(folder: FencedFolder, stem: string, extension: string): Promise<string> {
  let name = safeName(`${stem}.${extension}`);
  for (let n = 2; await folder.has(name); n += 1) name = safeName(`${stem} (${n}).${extension}`);
  return name;
}
