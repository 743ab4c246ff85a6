import { isDeepStrictEqual } from 'node:util';
import type { Clip, ClipId, DocumentId, ProjectId } from '@legame/core/model';
import { statusWhileAway } from '@legame/core/state';
import type { Database, Transaction } from '../db/database.ts';
import { together } from '../db/together.ts';
import { tell } from '../events/tell.ts';
import { clipKeyStore } from '../stores/clipKeys.ts';
import { documentStore } from '../stores/documents.ts';
import { clipRowStore, type KeptRow, type Used } from '../stores/clipRows.ts';
import type { KnownFile } from '../stores/mediaFiles.ts';
import { feltRows, manyRows, staleRowStore } from '../stores/staleRows.ts';
import type { PlaceRecord } from '../stores/places.ts';
import { clipRow, turning } from './row.ts';
import { ratesOf, usedBy } from './screenTime.ts';
import { certainFile, type ClipState, likeliestFile, loadClips, sharedBy, type SomeClips, stateOf } from './state.ts';

/** So many clips are looked at together: what is made of them at once is bounded. */
const atOnce = 2000;
const unused: Used = { bin: [], uses: 0, usedSeconds: 0 };

/**
 * Who only looks waits so long for rows that somebody else makes anew, and for a change of files that is being written,
 * as the end of a large walk.
 */
const lookersPatienceMs = 500;

/**
 * Makes the rows anew of clips that something touched since: what any list shows of a clip is as true as if it were
 * derived at this moment. Costs next to nothing where nothing changed. Who only looks does not wait while somebody else
 * makes very many anew, or has yet to: the first of them are there at once, and all is told when it is done. `known` has
 * files at hand.
 */
export async function renewRows(
  db: Database,
  projectId: ProjectId,
  { onlyLooks = false, known }: { onlyLooks?: boolean; known?: KnownFile | undefined } = {},
): Promise<void> {
  if (!(await staleRowStore.isStale(db, projectId))) return;
  if (!onlyLooks)
    return together(db, `rows ${projectId}`, () => renewStale(db, projectId, { patienceMs: null, known }));
  if (await staleRowStore.isBeingRenewed(db, projectId)) return;
  return together(db, `rows ${projectId} for a look`, async () => {
    const { notes } = await staleRowStore.countNoted(db, projectId);
    return notes < manyRows ? renewStale(db, projectId, { patienceMs: lookersPatienceMs }) : renewFirst(db, projectId);
  });
}

/**
 * What an act or a newer document did to very many clips is in their rows before the worker begins what takes longer.
 * Those of a document that has just come in have nothing to show before they are matched.
 */
export async function renewShown(db: Database, projectId: ProjectId, known?: KnownFile): Promise<void> {
  const { notes } = await staleRowStore.countNoted(db, projectId);
  if (notes >= manyRows && (await staleRowStore.countUnshown(db, projectId)) < manyRows)
    await renewRows(db, projectId, { known });
}

async function renewStale(
  db: Database,
  projectId: ProjectId,
  { patienceMs, known }: { patienceMs: number | null; known?: KnownFile | undefined },
): Promise<void> {
  const begun = performance.now();
  await db.transaction(async (trx) => {
    const stale = await staleRowStore.takeStale(trx, projectId, { patienceMs });
    if (!stale) return;
    const isOfDocuments = [...stale.values()].includes(true);
    if (isOfDocuments)
      for (const id of await clipRowStore.listEnriched(trx, projectId)) if (!stale.has(id)) stale.set(id, false);
    await makeRows(trx, projectId, stale, { known });
    if (isOfDocuments) await clipRowStore.renumber(trx, projectId);
    // Somebody may have been shown what was before.
    const isLong = performance.now() - begun > lookersPatienceMs / 2;
    if (isLong || stale.size >= feltRows) await tell(trx, 'project', projectId);
  });
}

/**
 * Of very many that are to be made anew, only the first in the list. Where documents are behind them, those alone if no
 * list shows any yet: what else of them there is, comes all at once.
 */
async function renewFirst(db: Database, projectId: ProjectId): Promise<void> {
  await db.transaction(async (trx) => {
    if (!(await staleRowStore.isOnesTurn(trx, projectId, lookersPatienceMs))) return;
    const { areOfDocuments } = await staleRowStore.countNoted(trx, projectId);
    const first = areOfDocuments
      ? await staleRowStore.listFirstUnshown(trx, projectId, feltRows)
      : await staleRowStore.takeFirst(trx, projectId, feltRows);
    await makeRows(trx, projectId, new Map(first.map((id) => [id, areOfDocuments])));
  });
}

/**
 * Of a document of very many clips that has just come in, the first are in the list as soon as it is. They stay noted, for
 * they are looked at once more with all the others. `clips` in the order of the document.
 */
export async function showFirst(
  trx: Transaction,
  projectId: ProjectId,
  documentId: DocumentId,
  clips: readonly (Pick<Clip, 'key' | 'rate'> & { readonly id: ClipId })[],
): Promise<void> {
  if (clips.length < manyRows || !(await staleRowStore.isOnesTurn(trx, projectId, lookersPatienceMs))) return;
  const document = await documentStore.getDocument(trx, documentId);
  const counts = await clipKeyStore.countByDocument(trx, projectId);
  const before = [...counts].reduce((sum, [id, count]) => (id === documentId ? sum : sum + count), 0);
  const first = clips.slice(0, feltRows);
  await makeRows(trx, projectId, new Map(first.map(({ id }) => [id, true])), {
    inDocuments: {
      used: usedBy([document], new Map([[documentId, clips]])),
      positions: new Map(first.map(({ id }, i) => [id, before + i])),
    },
  });
}

/** How documents use their clips, and where these stand in the list. */
type InDocuments = { readonly used: ReturnType<typeof usedBy>; readonly positions: ReadonlyMap<ClipId, number> | null };

async function inDocuments(trx: Transaction, projectId: ProjectId): Promise<InDocuments> {
  const documents = await documentStore.listDocuments(trx, projectId);
  return {
    used: usedBy(documents, ratesOf(await clipKeyStore.listRates(trx, projectId))),
    positions: await clipRowStore.listPositions(trx, projectId),
  };
}

/** Makes the rows of these clips; true where its document changed, with how that uses the clip and where it stands. */
async function makeRows(
  trx: Transaction,
  projectId: ProjectId,
  stale: ReadonlyMap<ClipId, boolean>,
  { inDocuments: asKnown, known }: { inDocuments?: InDocuments; known?: KnownFile | undefined } = {},
): Promise<void> {
  const isOfDocuments = [...stale.values()].includes(true);
  const { used, positions } =
    asKnown ?? (isOfDocuments ? await inDocuments(trx, projectId) : { used: () => unused, positions: null });
  const ids = [...stale.keys()];
  const shared = sharedBy(trx, projectId);
  for (let at = 0; at < ids.length; at += atOnce) {
    const some = ids.slice(at, at + atOnce);
    const clips = await loadClips(trx, projectId, some, { shared, known });
    const before = await clipRowStore.listUsed(
      trx,
      some.filter((id) => !stale.get(id)),
    );
    const rows = clips.states.map((state) => keptRow(state, clips, before.get(state.clip.id) ?? used(state.clip)));
    await clipRowStore.putRows(trx, projectId, rows, positions);
    const there = new Set(rows.map((r) => r.clipId));
    await clipRowStore.dropRows(
      trx,
      some.filter((id) => !there.has(id)),
    );
  }
}

/** What is kept of a clip: its row while the place of its file is there, and while it is away. */
export function keptRow(state: ClipState, clips: SomeClips, used: Used): KeptRow {
  const { clip, tied } = state;
  const likeliestId = likeliestFile(clip);
  const there = tied && !tied.place.there ? whileThere(state, tied.place, clips) : state;
  const away = tied && { clip, tied, status: statusWhileAway({ clip, setAside: clip.setAside }) };
  return {
    bin: used.bin,
    uses: used.uses,
    usedSeconds: used.usedSeconds,
    clipId: clip.id,
    tiedId: tied?.file.id ?? null,
    placeId: tied?.place.id ?? null,
    likeliestId,
    likeliestPlaceId: (likeliestId && clips.files.get(likeliestId)?.placeId) ?? null,
    isUnusable: clip.proposal?.decision.kind === 'unusable',
    there: {
      json: JSON.stringify(clipRow(there, clips, used)),
      status: there.status.status,
      isCertain: certainFile(there) !== null,
    },
    away: away && {
      json: JSON.stringify(turning(away)),
      status: away.status.status,
      isCertain: certainFile(away) !== null,
    },
  };
}

const whileThere = (state: ClipState, place: PlaceRecord, { files, places, acceptance }: SomeClips): ClipState =>
  stateOf(state.clip, files, new Map(places).set(place.id, { ...place, there: true }), acceptance, state.matched);

/**
 * Derives every row of a project anew and holds what is kept against it. The clips whose rows differ, are missing, or
 * stand elsewhere in the list; all, where that is counted wrongly; none, if all is well.
 */
export async function differingRows(db: Database, projectId: ProjectId): Promise<ClipId[]> {
  for (;;) {
    await renewRows(db, projectId);
    // Of one moment: what changes while it is looked at would seem to differ.
    const differing = await db.transaction(
      async (trx) => ((await staleRowStore.isStale(trx, projectId)) ? null : await compareRows(trx, projectId)),
      { isolationLevel: 'repeatable read' },
    );
    if (differing) return differing;
  }
}

async function compareRows(trx: Transaction, projectId: ProjectId): Promise<ClipId[]> {
  const clips = await loadClips(trx, projectId, null);
  const documents = await documentStore.listDocuments(trx, projectId);
  const kept = await clipRowStore.listKept(trx, projectId);
  const used = usedBy(documents, ratesOf(clips.states.map((s) => s.clip)));
  const derived = clips.states.map((state) => keptRow(state, clips, used(state.clip)));
  const { total } = await clipRowStore.stateOfList(trx, projectId);
  if (total !== kept.length) return derived.map((row) => row.clipId);
  return Array.from({ length: Math.max(derived.length, kept.length) }).flatMap((_, i) =>
    isDeepStrictEqual(derived[i], kept[i]) ? [] : [(derived[i] ?? kept[i])!.clipId],
  );
}
