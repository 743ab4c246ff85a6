import type { WouldChange } from '@legame/core/contract';
import { compareEdits, sameClips, type EventChange } from '@legame/core/compare';
import type { DocumentId } from '@legame/core/model';
import type { Looking } from '../context.ts';
import { clipStore } from '../stores/clips.ts';
import { documentStore } from '../stores/documents.ts';
import { bodyOf, readIncoming, type Incoming } from './bringIn.ts';

/** What bringing a document in as the newer version of another would change: reads it, and keeps nothing. */
export async function wouldChange({ db }: Looking, id: DocumentId, incoming: Incoming): Promise<WouldChange> {
  const former = await documentStore.getDocument(db, id);
  const documents = await documentStore.listDocuments(db, former.projectId);
  const otherRates = documents.filter((d) => d.id !== id).flatMap((d) => d.timelines.map((t) => t.rate));
  const reading = { ...former.reading, ...incoming.reading };
  const { document, clips } = await readIncoming(db, { ...incoming, reading }, otherRates);
  const present = (await clipStore.listOfDocument(db, id)).filter((c) => !c.retired).map(bodyOf);
  const kept = sameClips(present, clips).size;
  const older = { title: former.title, bins: [], clips: present, timelines: former.timelines };
  const newer = { title: document.title, bins: [], clips, timelines: document.timelines };
  return {
    timelines: compareEdits(older, newer).map(({ name, only, kept: same, changes }) => {
      const count = (kind: EventChange['kind']) => changes.filter((change) => change.kind === kind).length;
      return {
        name,
        only,
        unchanged: same.length,
        added: count('added'),
        removed: count('removed'),
        moved: count('moved'),
        trimmed: count('trimmed'),
        reSourced: count('re-sourced'),
      };
    }),
    kept,
    fresh: clips.length - kept,
    gone: present.length - kept,
  };
}
