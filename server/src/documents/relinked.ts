import type { Looking } from '../context.ts';
import { dirname, isAbsolute, join, relative } from 'node:path';
import type { ExportQuery } from '@legame/core/contract';
import { formatOf, relinkDocument, type NewReference, type Relinked } from '@legame/core/formats';
import { rangeReadAs, readAs, type DocumentId, type Edit, type EditEvent } from '@legame/core/model';
import { splitExtension } from '@legame/core/paths';
import type { Database } from '../db/database.ts';
import { UserProblem } from '../problems.ts';
import { documentStore, type DocumentRecord } from '../stores/documents.ts';
import { bodyOf } from './bringIn.ts';
import { loadProject } from '../clips/project.ts';
import { type ClipState } from '../clips/state.ts';

/**
 * What the references of a clip shall say: of the event or reference that stands at this address, or of the clip as such
 * (null). Null leaves them as they stand.
 */
export type ReferenceTo = (state: ClipState, address: string | null) => NewReference | null;

/** The brought-in document with only its references changed, by what `referenceTo` says of each. */
export async function relinkedContent(
  db: Database,
  document: DocumentRecord,
  states: readonly ClipState[],
  referenceTo: ReferenceTo,
): Promise<Relinked & { relinked: number }> {
  const content = await documentStore.getContent(db, document.id);
  const changes = new Map<string, NewReference>();
  let relinked = 0;
  for (const state of states) {
    if (state.clip.documentId !== document.id) continue;
    const before = changes.size;
    for (const address of state.clip.addresses) {
      const reference = referenceTo(state, address);
      if (reference) changes.set(address, { ...reference, rate: state.clip.asStated.rate });
    }
    if (changes.size > before) relinked += 1;
  }
  return { ...relinkDocument(content, document.format, changes, document.reading), relinked };
}

/**
 * The edit of a document with its clips remembering what `referenceTo` says, for writing it in another format. A clip
 * whose events are served by several files becomes as many clips. Clips that are read otherwise than the document states
 * them are written as their files count: the same frames, rightly named.
 */
export function relinkedEdit(
  document: DocumentRecord,
  states: readonly ClipState[],
  referenceTo: ReferenceTo,
): { edit: Edit; relinked: number } {
  const own = states.filter((s) => s.clip.documentId === document.id);
  const byKey = new Map(own.map((s) => [s.clip.key, s]));
  const clips = new Map<string, Edit['clips'][number]>();
  const relinked = new Set<string>();
  /** The key of the clip that remembers this reference. */
  const keyFor = (state: ClipState, reference: NewReference | null): string => {
    const body = bodyOf(state.clip);
    const plain = { ...body, ...readAs(body, state.clip.interpretation) };
    if (reference) relinked.add(body.key);
    const path = reference?.path ?? plain.remembered;
    for (let n = 1; ; n += 1) {
      const key = n === 1 ? body.key : `${body.key}#${n}`;
      const known = clips.get(key);
      if (known && known.remembered !== path) continue;
      if (!known) {
        const { reel = plain.reel, available = plain.available } = reference ?? {};
        clips.set(key, { ...plain, key, remembered: path, reel, available });
      }
      return key;
    }
  };
  const asRead = (event: EditEvent): EditEvent => {
    const state = event.clipKey === null ? undefined : byKey.get(event.clipKey);
    if (!state) return event;
    const { clip } = state;
    const how = clip.interpretation;
    const source = how && event.source ? rangeReadAs(event.source, { ...clip, ...clip.asStated }, how) : event.source;
    return { ...event, source, clipKey: keyFor(state, referenceTo(state, event.address)) };
  };
  const timelines = document.timelines.map((t) => ({ ...t, events: t.events.map(asRead) }));
  for (const state of own) if (!clips.has(state.clip.key)) keyFor(state, referenceTo(state, null));
  const { title, bins } = document;
  // In the order of the document, parts of one clip together.
  const order = new Map(own.map((s, i) => [s.clip.key, i]));
  const placeOf = (key: string) => order.get(key.replace(/#\d+$/, '')) ?? order.get(key) ?? 0;
  const sorted = [...clips.values()].toSorted((a, b) => placeOf(a.key) - placeOf(b.key));
  return { edit: { title, bins, timelines, clips: sorted }, relinked: relinked.size };
}

export type Exported = {
  readonly name: string;
  readonly content: Uint8Array;
  readonly relinked: number;
  readonly reencoded: boolean;
};

/**
 * A document for use elsewhere: every clip that has its file refers to it, by a path as the receiving machine knows it.
 * In its own format only references (and reels, if asked for) change; in another one it is written anew.
 */
export async function exportDocument({ db }: Looking, documentId: DocumentId, query: ExportQuery): Promise<Exported> {
  const document = await documentStore.getDocument(db, documentId);
  const { states } = await loadProject(db, document.projectId);
  const pathOf = pathsFor(query);
  const withReels = query.reels === 'true';
  const referenceTo: ReferenceTo = ({ status, tied }) => {
    if (!tied || (status.status !== 'linked' && status.status !== 'short')) return null;
    const reel = withReels ? (tied.file.facts?.reel ?? undefined) : undefined;
    return { path: pathOf(tied), sequence: tied.file.sequence, reel };
  };
  const isOwn =
    (query.format ?? document.format) === document.format && query.timeline === undefined && query.track === undefined;
  if (isOwn) {
    const { bytes, reencoded, relinked } = await relinkedContent(db, document, states, referenceTo);
    return { name: document.name, content: bytes, relinked, reencoded };
  }
  const format = formatOf(query.format ?? document.format);
  const { edit, relinked } = relinkedEdit(document, states, referenceTo);
  const { timeline: timelineKey, track } = query;
  if (timelineKey !== undefined && !edit.timelines.some((t) => t.key === timelineKey))
    throw new UserProblem({ code: 'no-such-timeline', document: document.name });
  if (format.id === 'edl' && edit.timelines.length === 0)
    throw new UserProblem({ code: 'no-timeline', document: document.name });
  const text = format.write(edit, { timelineKey, track });
  const stem = splitExtension(document.name).stem;
  const name = `${[stem, ...(track ? [track] : [])].join('_')}.${format.extensions[0]!}`;
  return { name, content: new TextEncoder().encode(text), relinked, reencoded: false };
}

/** How a file's path is written: whole, seen from the folder the document will lie in, or under the receiver's roots. */
function pathsFor({ paths, folder, roots }: ExportQuery): (tied: NonNullable<ClipState['tied']>) => string {
  const whole = ({ place, file }: NonNullable<ClipState['tied']>) => join(place.path, file.folder, file.name);
  switch (paths) {
    case 'absolute':
      return whole;
    case 'relative': {
      if (!folder || !isAbsolute(folder)) throw new UserProblem({ code: 'folder-wanted-for-relative-paths' });
      return (tied) => relative(folder, whole(tied)) || dirname(whole(tied));
    }
    case 'place-roots':
      return ({ place, file }) => {
        const root = roots?.[place.id];
        // Without a word about a place, its own name under /Volumes says most to most machines.
        const base = (root ?? `/Volumes/${place.name}`).replaceAll('\\', '/').replace(/\/+$/, '');
        return [base, ...(file.folder === '' ? [] : [file.folder]), file.name].join('/');
      };
  }
}
