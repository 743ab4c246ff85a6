import type { Look } from '@legame/core/compare';
import type { ClipId, MediaFileId } from '@legame/core/model';
import type { StatusName } from '@legame/core/state';
import { listBindings } from '../db/lists.ts';
import type { Database, Transaction } from '../db/database.ts';

/** The picture of a clip as it looked while it was linked. */
export type ClipPicture = {
  readonly mediaFileId: MediaFileId;
  readonly modifiedMs: number;
  readonly fileName: string;
  /** The frame of the file, from its first; and the same as the clip counts it. */
  readonly frame: number;
  readonly address: number;
  readonly look: Look | null;
  /** False where none could be made of that file. */
  readonly isMade: boolean;
  readonly takenAt: Date;
};

type Row = {
  media_file_id: MediaFileId;
  modified_ms: number;
  file_name: string;
  frame: number;
  address: string;
  look: string | null;
  is_made: boolean;
  taken_at: Date;
};

/** Only what is Linked looks as the clip does: what is Changed is another recording. */
const isAsItShould: readonly StatusName[] = ['linked', 'short'];

export const clipPictureStore = {
  async get(db: Database | Transaction, clipId: ClipId): Promise<ClipPicture | null> {
    const row = (await db('clip_pictures').where({ clip_id: clipId }).first()) as Row | undefined;
    if (!row) return null;
    return {
      mediaFileId: row.media_file_id,
      modifiedMs: row.modified_ms,
      fileName: row.file_name,
      frame: row.frame,
      address: Number(row.address),
      look: row.look,
      isMade: row.is_made,
      takenAt: row.taken_at,
    };
  },
  /** Of these names those that are clips. */
  async listKnown(db: Database | Transaction, names: readonly string[]): Promise<Set<string>> {
    const ids = (await db('clips')
      .whereRaw('id::text = any(?::text[])', listBindings([...names]))
      .pluck('id')) as ClipId[];
    return new Set(ids);
  },
  /** When those pictures were taken that are kept of these clips. */
  async listTaken(db: Database | Transaction, ids: readonly ClipId[]): Promise<Map<ClipId, Date>> {
    const rows = (await db('clip_pictures')
      .whereRaw('clip_id = any(?::uuid[]) and is_made', listBindings([...ids]))
      .select('clip_id', 'taken_at')) as Pick<Row & { clip_id: ClipId }, 'clip_id' | 'taken_at'>[];
    return new Map(rows.map((row) => [row.clip_id, row.taken_at]));
  },
  /** Clips may have been taken out meanwhile: those are passed over. */
  async put(db: Database | Transaction, clipId: ClipId, picture: Omit<ClipPicture, 'takenAt'>): Promise<void> {
    const { mediaFileId, modifiedMs, fileName, frame, address, look, isMade } = picture;
    await db.raw(
      `insert into clip_pictures (clip_id, media_file_id, modified_ms, file_name, frame, address, look, is_made)
       select id, ?, ?, ?, ?, ?, ?, ? from clips where id = ? for key share
       on conflict (clip_id) do update set media_file_id = excluded.media_file_id,
         modified_ms = excluded.modified_ms, file_name = excluded.file_name, frame = excluded.frame,
         address = excluded.address, look = excluded.look, is_made = excluded.is_made, taken_at = now()`,
      [mediaFileId, modifiedMs, fileName, frame, address, look, isMade, clipId],
    );
  },
  /**
   * Clips that are linked to something that can be seen, on a place that is there and quick, and of which no picture of
   * that file is kept; as rows stand, in the order of lists.
   */
  async listWanting(
    db: Database,
    most: number,
  ): Promise<{ readonly clipId: ClipId; readonly mediaFileId: MediaFileId }[]> {
    const { rows } = (await db.raw(
      `select clip_rows.clip_id as "clipId", files.id as "mediaFileId"
       from clip_rows
         join projects on projects.id = clip_rows.project_id
         join media_files as files on files.id = clip_rows.tied_id
         join places on places.id = files.place_id
         left join clip_pictures as kept on kept.clip_id = clip_rows.clip_id
       where projects.deleted_at is null and places.there and not places.slow
         and not files.gone and not files.quarantined and files.unreadable is null
         and files.facts->>'kind' in ('picture', 'sequence', 'still')
         and status_there = any(?::text[])
         and (kept.clip_id is null or kept.media_file_id <> files.id or kept.modified_ms <> files.modified_ms)
       order by clip_rows.project_id, clip_rows.position limit ?`,
      [isAsItShould as string[], most],
    )) as { rows: { clipId: ClipId; mediaFileId: MediaFileId }[] };
    return rows;
  },
};
