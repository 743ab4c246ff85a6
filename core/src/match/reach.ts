import type { MediaFileId } from '../model/ids.ts';
import type { Rate } from '../time/rate.ts';
import type { MatchResult } from './match.ts';
import type { PreparedFile } from './prepare.ts';
import { keysAnswered, keysAsked } from './retrieve.ts';

/**
 * What of a storage can change what matching found for a set of clips: files that share a key with one of them, that lie
 * in a folder to which their neighbours point, or that were weighed. Everything else may come and go.
 */
export class Reach {
  readonly #keys = new Set<string>();
  readonly #folders = new Set<string>();
  readonly #files = new Set<MediaFileId>();
  readonly #rates: readonly Rate[];

  constructor(results: readonly Pick<MatchResult, 'clip' | 'candidates' | 'whereRemembered'>[]) {
    const rates = new Map<string, Rate>();
    for (const { clip, candidates, whereRemembered } of results) {
      for (const key of keysAsked(clip)) this.#keys.add(key);
      const { rate } = clip.clip;
      rates.set(`${rate.num}/${rate.den}`, rate);
      if (whereRemembered) this.#files.add(whereRemembered);
      for (const { file } of candidates) {
        this.#files.add(file.id);
        this.#folders.add(folderKey(file));
      }
    }
    this.#rates = [...rates.values()];
  }

  /** Whether a file that is there, new or changed, could be a candidate or a rival of any clip. */
  reaches = (file: PreparedFile): boolean =>
    this.#files.has(file.id) ||
    this.#folders.has(folderKey(file)) ||
    keysAnswered(file, this.#rates).some((key) => this.#keys.has(key));

  /** Whether a file that went was one. */
  knows = (id: MediaFileId): boolean => this.#files.has(id);
}

const folderKey = ({ placeId, folder }: PreparedFile): string => `${placeId}/${folder}`;
