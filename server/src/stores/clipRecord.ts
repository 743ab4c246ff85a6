import { z } from 'zod';
import {
  becauseSchema,
  candidateSchema,
  clipSchema,
  decisionSchema,
  interpretationSchema,
  notedSchema,
  standingSchema,
  whySchema,
  type Because,
  type CandidateRecord,
} from '@legame/core/contract';
import type { Noted } from '@legame/core/bins';
import type { Decision, Standing, Why } from '@legame/core/match';
import {
  readAs,
  type Clip,
  type ClipId,
  type Counted,
  type DocumentId,
  type Interpretation,
  type Known,
  type MediaFileId,
  type ProjectId,
} from '@legame/core/model';
import type { PackedClip } from '@legame/core/project';
import type { Seen } from '@legame/core/state';
import type { Database, Transaction } from '../db/database.ts';
import { trusted } from './trusted.ts';

export type LinkMaker = 'rule' | 'hand' | 'carry' | 'cause' | 'follow';
export type LinkRecord = {
  readonly mediaFileId: MediaFileId;
  readonly by: LinkMaker;
  readonly seen: Seen;
  /** What it rested on when it was made; absent in links from before that was kept. */
  readonly because?: Because | null | undefined;
};
/** A link of a project that was brought in, to a file that no place here holds yet. */
export type AwaitedLink = NonNullable<PackedClip['link']>;
export type SetAside = { readonly as: 'parked' | 'waived'; readonly reason: string };

/**
 * A clip with its link, what a person decided about it, and what matching last proposed. Its addresses are as its
 * interpretation reads them; `asStated` is how the document counts.
 */
export type ClipRecord = Clip & {
  readonly asStated: Counted;
  readonly interpretation: Interpretation | null;
  /** No rule, carry or cause may change its link. */
  readonly pinned: boolean;
  readonly known: Known | null;
  readonly id: ClipId;
  readonly projectId: ProjectId;
  readonly documentId: DocumentId;
  readonly setAside: SetAside | null;
  /** A person untied it on purpose. */
  readonly takenOffline: boolean;
  /** What people note of it: its bin, its label, values of columns. */
  readonly noted: Noted | null;
  readonly link: LinkRecord | null;
  readonly declined: readonly MediaFileId[];
  readonly proposal: {
    readonly whereRemembered: MediaFileId | null;
    readonly decision: Decision;
    readonly why: Why;
    readonly candidates: readonly CandidateRecord[];
    readonly standing: Standing;
  } | null;
};

/** At which rate a clip of a document counts, as the document states it. */
export type StatedRate = Pick<ClipRecord, 'documentId' | 'key'> & { readonly asStated: Pick<Counted, 'rate'> };

/** A clip that the present version of its document has no more is retired: out of sight, with all that was decided of it. */
export type Retirable = { readonly retired: boolean };

const number = z.number().nullable().default(null);
const text = z.string().nullable().default(null);
const seenSchema = z.object({
  sizeInBytes: z.number(),
  start: number,
  length: number,
  writtenMs: number,
  fingerprint: text,
  fullHash: text,
  codec: text,
  channels: number,
  sampleRate: number,
});
const rowSchema = z.object({
  id: z.custom<ClipId>(),
  project_id: z.custom<ProjectId>(),
  document_id: z.custom<DocumentId>(),
  body: trusted(clipSchema),
  set_aside: z.object({ as: z.enum(['parked', 'waived']), reason: z.string() }).nullable(),
  media_file_id: z.custom<MediaFileId>().nullable(),
  interpretation: trusted(interpretationSchema.nullable()),
  pinned: z.boolean(),
  made_by: z.enum(['rule', 'hand', 'carry', 'cause', 'follow']).nullable(),
  seen: seenSchema.nullable(),
  because: trusted(becauseSchema.nullable()),
  taken_offline: z.boolean(),
  noted: trusted(notedSchema.nullable()),
  declined: z.array(z.custom<MediaFileId>()).nullable(),
  where_remembered: z.custom<MediaFileId>().nullable(),
  decision: trusted(decisionSchema.nullable()),
  why: trusted(whySchema.nullable()),
  candidates: trusted(z.array(candidateSchema).nullable()),
  standing: trusted(standingSchema.nullable()),
});

/** Field by field: copying a record of thousands of rows by `...` and adding to it takes fifty times as long. */
export function toClipRecord(row: unknown): ClipRecord {
  const r = rowSchema.parse(row);
  const { rate, counting, available, used } = r.body;
  const clip = readAs(r.body, r.interpretation);
  return {
    key: clip.key,
    name: clip.name,
    reel: clip.reel,
    remembered: clip.remembered,
    kind: clip.kind,
    rate: clip.rate,
    counting: clip.counting,
    available: clip.available,
    raster: clip.raster,
    used: clip.used,
    isTrimmedAway: clip.isTrimmedAway,
    binKey: clip.binKey,
    addresses: clip.addresses,
    metadata: clip.metadata,
    asStated: { rate, counting, available, used },
    interpretation: r.interpretation,
    pinned: r.pinned,
    known: r.seen && knownOnce(r.seen),
    id: r.id,
    projectId: r.project_id,
    documentId: r.document_id,
    setAside: r.set_aside,
    takenOffline: r.taken_offline,
    noted: r.noted,
    link:
      r.media_file_id && r.made_by && r.seen
        ? { mediaFileId: r.media_file_id, by: r.made_by, seen: r.seen, because: r.because }
        : null,
    declined: r.declined ?? [],
    proposal:
      r.decision && r.why && r.standing
        ? {
            whereRemembered: r.where_remembered,
            decision: r.decision,
            why: r.why,
            candidates: r.candidates ?? [],
            standing: r.standing,
          }
        : null,
  };
}

/** What was known of its media when it was linked. */
const knownOnce = ({ sizeInBytes, writtenMs, fingerprint, fullHash, codec, channels, sampleRate }: Seen): Known => ({
  sizeInBytes,
  writtenMs,
  fingerprint,
  fullHash,
  codec,
  channels,
  sampleRate,
});

/** Clips with all that a record of them is made of. */
export const clipQuery = (db: Database | Transaction) =>
  db('clips')
    .leftJoin('links', 'links.clip_id', 'clips.id')
    .leftJoin('clip_notes', 'clip_notes.clip_id', 'clips.id')
    .leftJoin('proposals', 'proposals.clip_id', 'clips.id')
    .select(
      'clips.id',
      'clips.project_id',
      'clips.document_id',
      'clips.body',
      'clips.set_aside',
      'clips.interpretation',
      'clips.pinned',
      'clips.taken_offline',
      'clip_notes.noted',
      'links.media_file_id',
      'links.made_by',
      'links.seen',
      'links.because',
      'proposals.where_remembered',
      'proposals.decision',
      'proposals.why',
      'proposals.candidates',
      'proposals.standing',
      db.raw('(select array_agg(media_file_id::text) from declined where declined.clip_id = clips.id) as declined'),
    );
