import { prepareClip, type PreparedClip, sameRecording } from '@legame/core/match';
import type { MediaFileId } from '@legame/core/model';
import type { ProjectState } from '../clips/state.ts';

/** Which clips of one act want which file: one file is never given to different recordings. */
export class Owners {
  readonly #byFile = new Map<MediaFileId, PreparedClip[]>();

  constructor(
    wanted: readonly { readonly state: ProjectState['states'][number]; readonly mediaFileId: MediaFileId }[],
  ) {
    for (const { state, mediaFileId } of wanted) {
      const clip = prepareClip(state.matched);
      const list = this.#byFile.get(mediaFileId);
      if (list) list.push(clip);
      else this.#byFile.set(mediaFileId, [clip]);
    }
  }

  isContested({ matched }: ProjectState['states'][number], mediaFileId: MediaFileId): boolean {
    const own = prepareClip(matched);
    return (this.#byFile.get(mediaFileId) ?? []).some((other) => !sameRecording(own, other));
  }
}
