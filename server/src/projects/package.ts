import { decodeText, encodeText } from '@legame/core/formats';
import { nothingKnown, type ClipId, type MediaFileId, type ProjectId } from '@legame/core/model';
import { safeName } from '@legame/core/paths';
import {
  packProject,
  unpackProject,
  type DocumentToPack,
  type PackedClip,
  type PackedFile,
  type PackageFault,
} from '@legame/core/project';
import { seenOf, type Seen } from '@legame/core/state';
import type { Database, Transaction } from '../db/database.ts';
import { UserProblem } from '../problems.ts';
import { clipNoteStore } from '../stores/clipNotes.ts';
import { clipStore, type ClipRecord, type LinkRecord } from '../stores/clips.ts';
import { documentStore } from '../stores/documents.ts';
import { layoutStore } from '../stores/layouts.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { placeStore, type PlaceRecord } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { pullStore } from '../stores/pulls.ts';
import { bodyOf, bringIn } from '../documents/bringIn.ts';
import type { Context, Looking } from '../context.ts';
import { startMatch } from '../matching/matchProject.ts';
import { tell } from '../events/tell.ts';

/** Where a recording lies in a set, and whether it is there byte for byte as it was, or as a part. */
export type LiesInSet = {
  readonly folder: string;
  readonly name: string;
  readonly sizeInBytes: number;
  readonly isWhole: boolean;
};
/** A set that a project goes along with: by its recordings, and to which of them each clip is tied now. */
export type SetOfProject = {
  readonly name: string;
  readonly files: ReadonlyMap<MediaFileId, LiesInSet>;
  readonly tied: ReadonlyMap<ClipId, MediaFileId>;
};

/**
 * A whole project as one OTIO collection: documents, how they are read, what was decided of clips, rules, and the desk
 * around them. With a set its links lead into that, and so do those of clips that were tied without a link.
 */
export async function exportProject(
  { db }: Pick<Context, 'db'>,
  id: ProjectId,
  set: SetOfProject | null = null,
): Promise<{ name: string; content: string }> {
  const project = await projectStore.getProject(db, id);
  const [documents, clips, places, requests, layouts] = await Promise.all([
    documentStore.listDocuments(db, id),
    clipStore.listClips(db, id),
    placeStore.listPlaces(db),
    pullStore.listRequests(db, id),
    layoutStore.listOwn(db, id),
  ]);
  const fileIds = [
    ...clips.flatMap((c) => [...(c.link ? [c.link.mediaFileId] : []), ...c.declined]),
    ...(set?.files.keys() ?? []),
  ];
  const files = new Map((await mediaFileStore.listByIds(db, fileIds)).map((f) => [f.id, f]));
  const awaited = new Map((await clipStore.listAwaiting(db)).map((a) => [a.clipId, a.awaited]));
  const placesById = new Map(places.map((p) => [p.id, p]));
  const packFile = (fileId: MediaFileId): PackedFile | null => {
    const file = files.get(fileId);
    const place = file && placesById.get(file.placeId);
    if (!file || !place) return null;
    const { folder, name } = file;
    return { place: { name: place.name, knownAs: [...place.knownAs] }, folder, name, ...measured(seenOf(file)) };
  };
  const packInSet = (clip: ClipRecord): PackedClip['link'] => {
    const fileId = set?.tied.get(clip.id);
    const lies = fileId && set?.files.get(fileId);
    if (!set || !lies) return null;
    const { folder, name, sizeInBytes, isWhole } = lies;
    const file = isWhole ? files.get(fileId) : undefined;
    // Of a part nothing is known yet but that it is there.
    const known = file ? measured(seenOf(file)) : { start: null, length: null, fingerprint: null, fullHash: null };
    const place = { name: set.name, knownAs: [] };
    return { place, folder, name, ...known, sizeInBytes, by: clip.link?.by ?? 'rule' };
  };
  const packClip = (clip: ClipRecord): PackedClip => {
    const file = clip.link && packFile(clip.link.mediaFileId);
    const { key, name, reel, remembered, setAside } = clip;
    return {
      key,
      name,
      reel,
      remembered,
      link:
        packInSet(clip) ??
        (clip.link && file
          ? { ...file, ...measured(clip.link.seen), by: clip.link.by }
          : (awaited.get(clip.id) ?? null)),
      setAside,
      declined: clip.declined.flatMap((d) => packFile(d) ?? []),
      interpretation: clip.interpretation,
      pinned: clip.pinned,
      noted: clip.noted,
    };
  };
  const isDecided = (c: ClipRecord) =>
    c.link !== null ||
    set?.tied.has(c.id) ||
    c.setAside !== null ||
    c.interpretation !== null ||
    c.pinned ||
    c.noted !== null ||
    c.declined.length > 0 ||
    awaited.has(c.id);
  const toPack = await Promise.all(
    documents.map(async (document): Promise<DocumentToPack> => {
      const decoded = decodeText(await documentStore.getContent(db, document.id))!;
      const own = clips.filter((c) => c.documentId === document.id);
      const { name, format, title, bins, timelines, folder, reading } = document;
      return {
        name,
        format,
        encoding: decoded.encoding,
        reading: { ...reading, columns: reading.columns && [...reading.columns] },
        folder,
        clips: own.filter(isDecided).map(packClip),
        text: decoded.text,
        edit: { title, bins, timelines, clips: own.map(bodyOf) },
      };
    }),
  );
  const content = packProject(
    {
      kind: 'project',
      version: 1,
      name: project.name,
      rules: project.rules,
      ruleSets: [...project.ruleSets],
      bins: [...project.bins],
      labels: [...project.labels],
      acceptance: project.acceptance,
      preferredForm: project.preferredForm,
      folders: project.folders,
      namePattern: project.namePattern,
      layouts,
      pulls: [...requests].map(([key, request]) => ({ key, request })),
    },
    toPack,
  );
  return { name: `${safeName(project.name)}.otio`, content };
}

/**
 * Makes a project of what `exportProject` wrote, here or in another Legame. Links to files that no place here holds yet
 * wait for them, and are tied as soon as an index finds them where they should be.
 */
export async function importProject({ db }: Looking, bytes: Uint8Array, fileName: string): Promise<ProjectId> {
  const refuse = (fault: PackageFault) => new UserProblem({ code: 'project-not-read', name: fileName, fault });
  const decoded = decodeText(bytes);
  if (!decoded) throw refuse({ code: 'not-text' });
  const unpacked = unpackProject(decoded.text);
  if (!unpacked.ok) throw refuse(unpacked.fault);
  const { project: pack, texts } = unpacked;
  return db.transaction(async (trx) => {
    const project = await projectStore.createProject(trx, pack.name);
    await projectStore.setRules(trx, project.id, pack.rules);
    await projectStore.setRuleSets(trx, project.id, pack.ruleSets);
    await projectStore.setBins(trx, project.id, pack.bins);
    await projectStore.setLabels(trx, project.id, pack.labels);
    if (pack.acceptance) await projectStore.setAcceptance(trx, project.id, pack.acceptance);
    await projectStore.setPreferredForm(trx, project.id, pack.preferredForm);
    await projectStore.setFolders(trx, project.id, pack.folders);
    await projectStore.setNamePattern(trx, project.id, pack.namePattern);
    for (const { table, ...layout } of pack.layouts)
      await layoutStore.put(trx, { projectId: project.id, table }, { ...layout, forAll: false });
    await pullStore.setRequests(trx, project.id, pack.pulls);
    for (const [i, document] of pack.documents.entries()) {
      const id = await bringIn({ db: trx }, project.id, {
        name: document.name,
        bytes: encodeText({ text: texts[i]!, encoding: document.encoding }),
        reading: document.reading,
        folder: document.folder,
        beside: true,
      });
      const clips = await clipStore.listOfDocument(trx, id);
      await decideAgain(trx, document.clips, clips);
    }
    await settleAwaited(trx);
    await startMatch(trx, project.id, project.name);
    await tell(trx, 'documents', project.id);
    await tell(trx, 'project', project.id);
    return project.id;
  });
}

/** Gives clips what was decided of them where the project came from. */
async function decideAgain(
  trx: Transaction,
  packed: readonly PackedClip[],
  clips: readonly ClipRecord[],
): Promise<void> {
  const clipOf = clipFinder(packed, clips);
  const decided = packed.flatMap((was) => {
    const clip = clipOf(was);
    return clip ? [{ clipId: clip.id, was }] : [];
  });
  await clipStore.setAside(
    trx,
    decided.flatMap(({ clipId, was: { setAside } }) => (setAside ? [{ clipId, setAside }] : [])),
  );
  await clipStore.setInterpretations(
    trx,
    decided.flatMap(({ clipId, was: { interpretation } }) => (interpretation ? [{ clipId, interpretation }] : [])),
  );
  await clipNoteStore.setNotes(
    trx,
    decided.flatMap(({ clipId, was: { noted } }) => (noted ? [{ clipId, noted }] : [])),
  );
  await clipStore.setPinned(
    trx,
    decided.flatMap(({ clipId, was: { pinned } }) => (pinned ? [{ clipId, pinned }] : [])),
  );
  await clipStore.setAwaited(
    trx,
    decided.flatMap(({ clipId, was: { link } }) => (link ? [{ clipId, awaited: link }] : [])),
  );
  const finder = await fileFinder(trx);
  for (const { clipId, was } of decided)
    for (const declined of was.declined) {
      const file = finder(declined);
      if (file) await clipStore.decline(trx, clipId, file.id);
    }
}

type Named = Pick<PackedClip, 'key' | 'name' | 'reel' | 'remembered'>;

/**
 * Keys are a reader's own: they tell where it counts as it did then. Where a newer one counts differently, what a clip
 * says of itself tells, unless another says the same.
 */
export function clipFinder<C extends Named>(
  packed: readonly Named[],
  clips: readonly C[],
): (was: Named) => C | undefined {
  const identity = ({ name, reel, remembered }: Named) => JSON.stringify([name, reel, remembered]);
  const byKey = new Map(clips.map((clip) => [clip.key, clip]));
  const isCountedAsThen = packed.every((was) => {
    const now = byKey.get(was.key);
    return now !== undefined && identity(now) === identity(was);
  });
  if (isCountedAsThen) return ({ key }) => byKey.get(key);
  const alone = <T extends Named>(list: readonly T[]): Map<string, T> => {
    const all = new Map<string, T>();
    const several = new Set<string>();
    for (const clip of list) {
      const said = identity(clip);
      if (all.has(said)) several.add(said);
      all.set(said, clip);
    }
    return new Map([...all].filter(([said]) => !several.has(said)));
  };
  const [then, now] = [alone(packed), alone(clips)];
  return (was) => (then.has(identity(was)) ? now.get(identity(was)) : undefined);
}

/** What of the measures travels with a project. */
const measured = ({ sizeInBytes, start, length, fingerprint, fullHash }: Seen) => ({
  sizeInBytes,
  start,
  length,
  fingerprint,
  fullHash,
});

/** Ties clips that wait for their file to it, where a place now holds it. Returns whether any was tied. */
export async function settleAwaited(db: Database | Transaction): Promise<boolean> {
  const waiting = await clipStore.listAwaiting(db);
  if (waiting.length === 0) return false;
  const finder = await fileFinder(db);
  const links = waiting.flatMap(({ clipId, awaited }) => {
    const file = finder(awaited);
    const { by, sizeInBytes, start, length, fingerprint, fullHash } = awaited;
    const seen = { ...nothingKnown, sizeInBytes, start, length, fingerprint, fullHash };
    const link: LinkRecord | null = file && { mediaFileId: file.id, by, seen };
    return link ? [{ clipId, ...link }] : [];
  });
  await clipStore.putLinks(db, links);
  await clipStore.setAwaited(
    db,
    links.map(({ clipId }) => ({ clipId, awaited: null })),
  );
  return links.length > 0;
}

/** Finds a file by its path in a place of that name, or of a name that either side knows the other's place by. */
async function fileFinder(db: Database | Transaction): Promise<(packed: PackedFile) => MediaFileRecord | null> {
  // Inside a transaction one after another: it has one connection.
  const places = await placeStore.listPlaces(db);
  const files = await mediaFileStore.listPresent(db);
  const byPath = new Map<string, MediaFileRecord[]>();
  for (const file of files) {
    const path = `${file.folder}\u0000${file.name}`;
    byPath.set(path, [...(byPath.get(path) ?? []), file]);
  }
  const names = (place: Pick<PlaceRecord, 'name' | 'knownAs'>) =>
    [place.name, ...place.knownAs].map((n) => n.toLowerCase());
  const placeNames = new Map(places.map((p) => [p.id, names(p)]));
  return (packed) => {
    const wanted = names(packed.place);
    const found = (byPath.get(`${packed.folder}\u0000${packed.name}`) ?? []).filter((file) =>
      placeNames.get(file.placeId)?.some((n) => wanted.includes(n)),
    );
    // Two places that could be meant are a question, not an answer.
    return found.length === 1 ? found[0]! : null;
  };
}
