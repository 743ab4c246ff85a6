import { prepareClip, type PreparedClip, sameRecording } from '@legame/core/match';
import type { MediaFileId } from '@legame/core/model';
import type { ClipState } from '../clips/state.ts';

/** Which clips of one act want which file: one file is never given to different recordings. */
export class Owners {
  readonly #byFile = new Map<MediaFileId, ClipState[]>();
  /** Few clips share a file: only those are made ready. */
  readonly #prepared = new Map<ClipState, PreparedClip>();

  constructor(wanted: readonly { readonly state: ClipState; readonly mediaFileId: MediaFileId }[]) {
    for (const { state, mediaFileId } of wanted) {
      const list = this.#byFile.get(mediaFileId);
      if (list) list.push(state);
      else this.#byFile.set(mediaFileId, [state]);
    }
  }

  isContested(state: ClipState, mediaFileId: MediaFileId): boolean {
    return (this.#byFile.get(mediaFileId) ?? []).some(
      (other) => other !== state && !sameRecording(this.#of(state), this.#of(other)),
    );
  }

  #of(state: ClipState): PreparedClip {
    const prepared = this.#prepared.get(state) ?? prepareClip(state.matched);
    this.#prepared.set(state, prepared);
    return prepared;
  }
}
