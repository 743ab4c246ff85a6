import { join } from 'node:path';
import { relinkDocument, type DocumentId, type NewReference } from '@legame/core';
import type { Database } from '../db/database.ts';
import { documentStore } from '../stores/documents.ts';
import { loadProject, type ClipState } from './clipViews.ts';

/**
 * The brought-in document with only its references changed, by what `referenceTo` says of each clip; null leaves a
 * clip's references as they stand.
 */
export async function relinkedContent(
  db: Database,
  documentId: DocumentId,
  states: readonly ClipState[],
  referenceTo: (state: ClipState) => NewReference | null,
): Promise<Uint8Array> {
  const document = await documentStore.getDocument(db, documentId);
  const content = await documentStore.getContent(db, documentId);
  const changes = new Map<string, NewReference>();
  for (const state of states) {
    if (state.clip.documentId !== documentId) continue;
    const reference = referenceTo(state);
    if (reference) for (const address of state.clip.addresses) changes.set(address, reference);
  }
  return relinkDocument(content, document.format, changes);
}

/** The document for use on this machine: every clip that has its file refers to it by its absolute path. */
export async function exportDocument(
  db: Database,
  documentId: DocumentId,
): Promise<{ name: string; content: Uint8Array }> {
  const document = await documentStore.getDocument(db, documentId);
  const { states } = await loadProject(db, document.projectId);
  const content = await relinkedContent(db, documentId, states, ({ status, tied }) =>
    tied && (status.status === 'linked' || status.status === 'short')
      ? { path: join(tied.place.path, tied.file.folder, tied.file.name), sequence: tied.file.sequence }
      : null,
  );
  return { name: document.name, content };
}
