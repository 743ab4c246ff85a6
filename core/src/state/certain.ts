import type { Decision } from '../match/decision.ts';
import type { MediaFileId } from '../model/ids.ts';
import { isDark, type StatusName } from './status.ts';

/** What is asked to know whether a rule links a clip. */
export type ToLink = {
  /** Null where it was not matched yet. */
  readonly decision: Decision | null;
  readonly status: StatusName;
  /** A person set it aside, whatever its status is for other reasons. */
  readonly isSetAside: boolean;
  readonly takenOffline: boolean;
  /** The file that it is tied to now. */
  readonly tiedTo: MediaFileId | null;
};

/**
 * The file that a rule would link this clip to now: it is dark, or would be if its nests showed it; nobody set it aside or
 * untied it on purpose; and its one certain candidate is not what it is tied to already. The one place where this is said;
 * screens are told.
 */
export function certainLink({ decision, status, isSetAside, takenOffline, tiedTo }: ToLink): MediaFileId | null {
  const isOpen = isDark(status) || status === 'unshown';
  if (decision?.kind !== 'certain' || !isOpen || isSetAside || takenOffline) return null;
  return decision.mediaFileId === tiedTo ? null : decision.mediaFileId;
}
