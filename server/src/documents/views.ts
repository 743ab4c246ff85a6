import type { Looking } from '../context.ts';
import { compareEdits } from '@legame/core/compare';
import { tracksOfTimeline } from '@legame/core/formats';
import type { DocumentId, PlaceId, ProjectId } from '@legame/core/model';
import { isDark } from '@legame/core/state';
import type { Comparison, DocumentView, PlaceDocuments } from '@legame/core/contract';
import { loadProject } from '../clips/project.ts';
import type { Context } from '../context.ts';
import { listDocumentsIn } from '../disk/documents.ts';
import { notFound, UserProblem } from '../problems.ts';
import { clipKeyStore } from '../stores/clipKeys.ts';
import { type DocumentRecord, documentStore } from '../stores/documents.ts';
import { logMappingStore } from '../stores/logMappings.ts';
import { groundOf, placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';

export async function listDocuments({ db }: Looking, projectId: ProjectId): Promise<DocumentView[]> {
  await projectStore.getProject(db, projectId);
  const [documents, counts, replaced] = await Promise.all([
    documentStore.listDocuments(db, projectId),
    clipKeyStore.countByDocument(db, projectId),
    documentStore.listReplaced(db, projectId),
  ]);
  return documents.map((d) => viewDocument(d, counts.get(d.id) ?? 0, replaced.get(d.id) ?? null));
}

export async function getDocument(context: Context, id: DocumentId): Promise<DocumentView> {
  const { projectId } = await documentStore.getDocument(context.db, id);
  const document = (await listDocuments(context, projectId)).find((d) => d.id === id);
  if (!document) throw notFound('document');
  return document;
}

const viewDocument = (document: DocumentRecord, clips: number, replacedAt: Date | null): DocumentView => ({
  id: document.id,
  name: document.name,
  format: document.format,
  title: document.title,
  reading: document.reading,
  choices: document.choices,
  sizeInBytes: document.sizeInBytes,
  broughtInAt: document.broughtInAt.toISOString(),
  replacedAt: replacedAt?.toISOString() ?? null,
  folder: document.folder,
  mediaInside:
    document.mediaInside.length === 0
      ? null
      : {
          files: document.mediaInside.length,
          sizeInBytes: document.mediaInside.reduce((sum, f) => sum + f.sizeInBytes, 0),
        },
  clips,
  bins: document.bins.length,
  timelines: document.timelines.map((t) => ({
    key: t.key,
    name: t.name,
    rate: t.rate,
    counting: t.counting,
    lengthInFrames: t.length,
    events: t.events.length,
    top: t.top,
    tracks: tracksOfTimeline(t),
  })),
  remarks: document.remarks,
});

/** What changed from the former version of a document to the present one, and what of it is dark. */
export async function compareWithFormer({ db }: Looking, id: DocumentId): Promise<Comparison> {
  const [document, former] = await Promise.all([documentStore.getDocument(db, id), documentStore.findFormer(db, id)]);
  if (!former) throw notFound('former-version');
  const { states } = await loadProject(db, document.projectId);
  const own = new Map(states.filter((s) => s.clip.documentId === id).map((s) => [s.clip.key, s]));
  const changes = compareEdits(
    { title: former.title, bins: [], clips: former.clips, timelines: former.timelines },
    {
      title: document.title,
      bins: document.bins,
      clips: [...own.values()].map((s) => s.clip),
      timelines: document.timelines,
    },
  );
  const shown = <T extends { clipKey: string | null }>({ clipKey: _, ...event }: T) => event;
  const clipOf = (event: { clipKey: string | null } | null) => {
    const state = event?.clipKey ? own.get(event.clipKey) : undefined;
    return { clipId: state?.clip.id ?? null, isDark: state ? isDark(state.status.status) : false };
  };
  return {
    former: {
      name: former.name,
      broughtInAt: former.broughtInAt.toISOString(),
      replacedAt: former.replacedAt.toISOString(),
    },
    timelines: changes.map((timeline) => ({
      ...timeline,
      kept: timeline.kept.map((event) => ({ ...shown(event), ...clipOf(event) })),
      changes: timeline.changes.map((change) => {
        const event = change.kind === 'removed' ? null : change.event;
        return {
          kind: change.kind,
          event: event && shown(event),
          before: change.kind === 'added' ? null : shown(change.before),
          byFrames: change.kind === 'moved' ? change.byFrames : null,
          headFrames: change.kind === 'trimmed' ? change.headFrames : null,
          tailFrames: change.kind === 'trimmed' ? change.tailFrames : null,
          ...clipOf(event),
        };
      }),
    })),
  };
}

/** What columns of a log with these headers were said to be, the last time. */
export const knownRoles = (...args: Parameters<typeof logMappingStore.findRoles>) => logMappingStore.findRoles(...args);

/** What one folder of a place holds that could be brought in. Nothing is opened; hidden names are left out. */
export async function listPlaceDocuments(context: Context, placeId: PlaceId, folder: string): Promise<PlaceDocuments> {
  const place = await placeStore.getPlace(context.db, placeId);
  const found = await listDocumentsIn(groundOf(place), folder);
  if (!found) {
    throw new UserProblem({ code: 'folder-not-there', path: folder || place.name, for: 'documents' });
  }
  const documents = found.documents.map(({ name, sizeInBytes, isBundleFolder }) => ({
    name,
    sizeInBytes,
    isBundleFolder,
  }));
  return { folder, folders: found.folders, documents };
}
