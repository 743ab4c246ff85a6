import type { Decision } from '../match/decision.ts';
import type { MediaFileId } from '../model/ids.ts';
import { isDark, type StatusName } from './status.ts';

/** What is asked to know whether a rule links a clip. */
export type ToLink = {
  /** Null where it was not matched yet. */
  readonly decision: Decision | null;
  readonly status: StatusName;
  readonly takenOffline: boolean;
  /** The file that it is tied to now. */
  readonly tiedTo: MediaFileId | null;
};

/**
 * The file that a rule would link this clip to now: it is dark, nobody set it aside or untied it on purpose, and its one
 * certain candidate is not what it is tied to already. The one place where this is said; screens are told.
 */
export function certainLink({ decision, status, takenOffline, tiedTo }: ToLink): MediaFileId | null {
  if (decision?.kind !== 'certain' || takenOffline || !isDark(status) || status === 'parked') return null;
  return decision.mediaFileId === tiedTo ? null : decision.mediaFileId;
}
