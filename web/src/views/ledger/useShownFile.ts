import { useState } from 'react';
import type { ClipDetail, WeighedFile } from '@legame/core/contract';
import { api } from '../../api/legame.ts';

/** Which file stands beside a clip: one that a person pointed at, the tied one, else a candidate. */
export function useShownFile(clipId: string, clip: ClipDetail | undefined) {
  const [pointed, setPointed] = useState<string | null>(null);
  const [candidateAt, setCandidateAt] = useState(0);
  const [lookAround, setLookAround] = useState(false);
  const weighed = api.useWeighQuery({ clipId, mediaFileId: pointed ?? '' }, { skip: pointed === null });
  const candidates: readonly WeighedFile[] = clip?.candidatesInFull ?? [];
  const isTied = clip !== undefined && clip.tiedFile !== null;
  // The file it was linked to is gone, and one candidate is certain: that one is what there is to look at.
  const isLost = clip?.status.status === 'missing' && clip.decision === 'certain';
  const showsTied = isTied && !lookAround && !isLost;
  const shown = pointed
    ? (weighed.currentData ?? null)
    : showsTied
      ? (clip?.tiedFile ?? null)
      : (candidates[candidateAt] ?? null);
  return {
    shown,
    isShownTied: shown !== null && shown.file.id === clip?.tiedFile?.file.id,
    isPointed: pointed !== null,
    isAmongCandidates: pointed === null && !showsTied,
    pointError: weighed.error,
    candidates,
    candidateAt,
    isTied,
    lookAround,
    setCandidateAt,
    setLookAround,
    setPointed,
    /** What was looked at is what there is now. */
    settle: () => {
      setPointed(null);
      setLookAround(false);
    },
  };
}
export type ShownFile = ReturnType<typeof useShownFile>;
