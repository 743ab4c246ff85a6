import { checkReels, type OnReel } from '../bins/checks.ts';
import { refusalOf, type AcceptanceProfile } from '../model/acceptance.ts';
import type { ClipId, MediaFileId, PlaceId } from '../model/ids.ts';
import type { Facts } from '../model/media.ts';
import { nameKey, safeName } from '../paths/names.ts';
import { sameRate, type Rate } from '../time/rate.ts';
import type { HealthCheck, HealthFinding, HealthSubject, NameFault } from './findings.ts';
import { isAtHome, type Home } from './home.ts';

/** A file that clips of the project are tied to. */
export type FileToCheck = {
  readonly id: MediaFileId;
  readonly placeId: PlaceId;
  readonly folder: string;
  readonly name: string;
  readonly sizeInBytes: number;
  readonly facts: Facts | null;
  /** The same for the same content; null where nothing was measured. */
  readonly fingerprint: string | null;
  readonly isTried: boolean;
  readonly clipIds: readonly ClipId[];
};
/** A file that no project uses. */
export type FileBeside = Pick<FileToCheck, 'id' | 'placeId' | 'folder' | 'name' | 'sizeInBytes'>;
export type PlaceToCheck = {
  readonly id: PlaceId;
  readonly name: string;
  /** On this machine. */
  readonly path: string;
  readonly isRemovable: boolean;
  readonly room: { readonly freeInBytes: number; readonly totalInBytes: number } | null;
};
export type ClipToCheck = OnReel & {
  readonly id: ClipId;
  readonly name: string;
  readonly setAside: { readonly as: 'parked' | 'waived'; readonly reason: string; readonly days: number } | null;
};

export type HealthInput = {
  readonly home: Home | null;
  readonly places: readonly PlaceToCheck[];
  readonly files: readonly FileToCheck[];
  readonly beside: readonly FileBeside[];
  readonly clips: readonly ClipToCheck[];
  /** Fingerprints that files of more than one place have. */
  readonly copied: ReadonlySet<string>;
  /** Of the timelines that nothing nests. */
  readonly timelineRates: readonly Rate[];
  readonly acceptance: AcceptanceProfile | null;
  /** Of a drive, what should stay free. */
  readonly headroomShare: number;
};

/** Whoever set something aside for longer has forgotten it. */
const mostDaysAside = 7;
/** Where browsers and people put down what they mean to put elsewhere. */
const inPassing = /^(desktop|downloads?|schreibtisch|bureau|escritorio|descargas|t[ée]l[ée]chargements|scrivania)$/i;
/** At the root of every card, by the standards for cameras (DCF) and for memory cards (PRIVATE). */
const cardRoots = /^(dcim|private)$/i;

/** Everything that may go wrong with a project's media later, in the order of `healthChecks`. */
export function checkHealth(input: HealthInput): HealthFinding[] {
  const { files, home, copied } = input;
  const at = new Paths(input.places);
  const found = (check: HealthCheck, list: readonly FileToCheck[], subject?: (file: FileToCheck) => HealthSubject) =>
    list.map((file) => ofFile(check, file, subject?.(file) ?? { what: 'file', path: at.path(file) }));
  return [
    ...found('outside-home', home ? files.filter((file) => !isAtHome(home, file)) : []),
    ...found(
      'in-passing',
      files.filter((file) => at.folders(file).some((folder) => inPassing.test(folder))),
    ),
    ...found(
      'on-card',
      files.filter((file) => at.place(file)?.isRemovable || cardRoots.test(file.folder.split('/')[0]!)),
    ),
    ...found(
      'only-copy',
      files.filter(({ fingerprint }) => fingerprint !== null && !copied.has(fingerprint)),
    ),
    ...overHeadroom(input),
    ...namesakes(files, at),
    ...unsafeNames(files, at),
    ...caseTwins(input, at),
    ...reels(input),
    ...otherRates(input, at),
    ...refused(input, at),
    ...found(
      'never-tried',
      files.filter((file) => !file.isTried),
    ),
    ...unused(input, at),
    ...leftAside(input),
  ];
}

/** Checks that ask for something which nobody said: which folder is home, what is accepted, at which rate is cut. */
export const notAsked = ({ home, acceptance, timelineRates }: HealthInput): HealthCheck[] => [
  ...(home ? [] : (['outside-home'] as const)),
  ...(acceptance ? [] : (['not-accepted'] as const)),
  ...(timelineRates.length > 0 ? [] : (['other-rate'] as const)),
];

/** Where files lie, in words and on this machine. */
class Paths {
  readonly #places: ReadonlyMap<PlaceId, PlaceToCheck>;
  /** Thousands of files lie in one folder. */
  readonly #folders = new Map<string, readonly string[]>();
  constructor(places: readonly PlaceToCheck[]) {
    this.#places = new Map(places.map((place) => [place.id, place]));
  }
  place = ({ placeId }: Pick<FileBeside, 'placeId'>): PlaceToCheck | undefined => this.#places.get(placeId);
  folderPath = ({ placeId, folder }: Pick<FileBeside, 'placeId' | 'folder'>): string =>
    [this.#places.get(placeId)?.name ?? '', folder].filter(Boolean).join('/');
  path = (file: Pick<FileBeside, 'placeId' | 'folder' | 'name'>): string => `${this.folderPath(file)}/${file.name}`;
  folders = (file: Pick<FileBeside, 'placeId' | 'folder'>): readonly string[] => {
    const path = `${this.place(file)?.path ?? ''}/${file.folder}`;
    const known = this.#folders.get(path);
    if (known) return known;
    const folders = path.split('/');
    this.#folders.set(path, folders);
    return folders;
  };
}

/** Of several together: one more is another finding, that nobody has accepted. */
const groupKey = (key: string, members: readonly unknown[]): string => `${key} ${members.length}`;

const ofFile = (check: HealthCheck, file: FileToCheck, subject: HealthSubject): HealthFinding => ({
  check,
  key: file.id,
  subject,
  clipIds: file.clipIds,
  mediaFileIds: [file.id],
  placeId: file.placeId,
  sizeInBytes: file.sizeInBytes,
});
const ofFiles = (check: HealthCheck, key: string, files: readonly FileToCheck[], subject: HealthSubject) => ({
  check,
  key,
  subject,
  clipIds: files.flatMap((f) => f.clipIds),
  mediaFileIds: files.map((f) => f.id),
  placeId: null,
  sizeInBytes: files.reduce((sum, f) => sum + f.sizeInBytes, 0),
});
const ofClips = (check: HealthCheck, key: string, clipIds: readonly ClipId[], subject: HealthSubject) => ({
  check,
  key,
  subject,
  clipIds,
  mediaFileIds: [],
  placeId: null,
  sizeInBytes: 0,
});

/** Only of places that hold something of the project. */
function overHeadroom({ places, files, headroomShare }: HealthInput): HealthFinding[] {
  const holding = new Set(files.map((file) => file.placeId));
  return places.flatMap(({ id, name, room }): HealthFinding[] => {
    const wantedInBytes = Math.ceil((room?.totalInBytes ?? 0) * headroomShare);
    if (!room || !holding.has(id) || room.freeInBytes >= wantedInBytes) return [];
    const subject = { what: 'place', name, freeInBytes: room.freeInBytes, wantedInBytes } as const;
    return [{ ...ofClips('headroom', id, [], subject), placeId: id }];
  });
}

/** Recordings of one name: whatever goes by names alone cannot tell them apart. Copies of one are no namesakes. */
function namesakes(files: readonly FileToCheck[], at: Paths): HealthFinding[] {
  return [...byKey(files, (file) => nameKey(file.name))].flatMap(([key, list]) => {
    if (list.length === 1) return [];
    const contents = new Set(list.map((file) => file.fingerprint ?? file.id));
    if (contents.size < 2) return [];
    return [
      ofFiles('same-name', groupKey(key, list), list, { what: 'files', name: list[0]!.name, paths: list.map(at.path) }),
    ];
  });
}

/** What a name has that some file system does not take; null where all take it. */
export function nameFaultOf(name: string): NameFault | null {
  if (safeName(name) === name) return null;
  if (/[<>:"/\\|?*\p{Cc}]/u.test(name)) return 'characters';
  if (/[. ]$/.test(name)) return 'ending';
  if (name.normalize('NFC') !== name) return 'form';
  return safeName(name).length < name.length ? 'length' : 'device';
}

function unsafeNames(files: readonly FileToCheck[], at: Paths): HealthFinding[] {
  const faults = new Map<string, NameFault | null>();
  const faultOf = (name: string) => {
    const known = faults.get(name);
    if (known !== undefined) return known;
    const fault = nameFaultOf(name);
    faults.set(name, fault);
    return fault;
  };
  const ofFolders = new Map<string, string | null>();
  const unsafeFolder = (folder: string) => {
    const known = ofFolders.get(folder);
    if (known !== undefined) return known;
    const part = folder.split('/').find((name) => name !== '' && faultOf(name) !== null) ?? null;
    ofFolders.set(folder, part);
    return part;
  };
  return files.flatMap((file) => {
    const part = unsafeFolder(file.folder) ?? (faultOf(file.name) === null ? null : file.name);
    if (part === null) return [];
    const subject = { what: 'name', path: at.path(file), part, fault: faultOf(part)!, safe: safeName(part) } as const;
    return [ofFile('unsafe-name', file, subject)];
  });
}

/** Names of one folder that are alike to file systems that fold case or Unicode form: there is room for one of them. */
function caseTwins({ files, beside }: HealthInput, at: Paths): HealthFinding[] {
  const keyOf = (file: FileBeside) => `${file.placeId} ${nameKey(`${file.folder}/${file.name}`)}`;
  // Of a hundred thousand files few are twins: only for those a list is made.
  const first = new Map<string, FileBeside>();
  const twins = new Map<string, FileBeside[]>();
  for (const list of [files, beside])
    for (const file of list) {
      const key = keyOf(file);
      const before = first.get(key);
      if (!before) first.set(key, file);
      else twins.set(key, [...(twins.get(key) ?? [before]), file]);
    }
  if (twins.size === 0) return [];
  const used = new Map(files.map((file) => [file.id, file]));
  return [...twins].flatMap(([key, list]) => {
    const ours = list.flatMap((file) => used.get(file.id) ?? []);
    if (ours.length === 0) return [];
    const subject = { what: 'files', name: ours[0]!.name, paths: list.map(at.path) } as const;
    return [ofFiles('case-twins', groupKey(key, list), ours, subject)];
  });
}

function reels({ clips }: HealthInput): HealthFinding[] {
  const byId = new Map<string, ClipToCheck>(clips.map((clip) => [clip.id, clip]));
  return checkReels(clips).flatMap((finding): HealthFinding[] => {
    const concerned = finding.ids.map((id) => byId.get(id)!);
    if (finding.code === 'reel-overlaps') {
      const names = [...new Set(concerned.map((clip) => clip.name))];
      const ids = concerned.map((clip) => clip.id);
      return [ofClips('reel-overlaps', groupKey(finding.reel, ids), ids, { what: 'reel', reel: finding.reel, names })];
    }
    return concerned.map(({ id, name }) => ofClips('reel-missing', id, [id], { what: 'clip', name }));
  });
}

/** Picture at a rate that no timeline has, where there are timelines. */
function otherRates({ files, timelineRates }: HealthInput, at: Paths): HealthFinding[] {
  const [usual] = timelineRates;
  if (!usual) return [];
  return files.flatMap((file) => {
    const rate = file.facts?.kind === 'picture' ? file.facts.rate : null;
    if (!rate || timelineRates.some((known) => sameRate(known, rate))) return [];
    return [ofFile('other-rate', file, { what: 'rate', path: at.path(file), rate, usual })];
  });
}

function refused({ files, acceptance }: HealthInput, at: Paths): HealthFinding[] {
  if (!acceptance) return [];
  return files.flatMap((file) => {
    const refusal = file.facts && refusalOf(file.facts, acceptance);
    return refusal ? [ofFile('not-accepted', file, { what: 'refused', path: at.path(file), refusal })] : [];
  });
}

/** What nobody uses, by folder, in places that hold something of the project. */
function unused({ files, beside }: HealthInput, at: Paths): HealthFinding[] {
  const holding = new Set(files.map((file) => file.placeId));
  const folders = byKey(
    beside.filter((file) => holding.has(file.placeId)),
    (file) => `${file.placeId}/${file.folder}`,
  );
  return [...folders].map(([key, list]) => ({
    check: 'unused',
    key: groupKey(key, list),
    subject: { what: 'folder', path: at.folderPath(list[0]!), files: list.length },
    clipIds: [],
    mediaFileIds: list.map((file) => file.id),
    placeId: list[0]!.placeId,
    sizeInBytes: list.reduce((sum, file) => sum + file.sizeInBytes, 0),
  }));
}

const leftAside = ({ clips }: HealthInput): HealthFinding[] =>
  clips.flatMap(({ id, name, setAside }) =>
    setAside && setAside.days > mostDaysAside
      ? [ofClips('left-aside', id, [id], { what: 'left', name, ...setAside })]
      : [],
  );

function byKey<T>(list: readonly T[], keyOf: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of list) {
    const key = keyOf(item);
    const known = groups.get(key);
    if (known) known.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}
