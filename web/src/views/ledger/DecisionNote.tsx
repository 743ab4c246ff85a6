import type { Decision } from '@legame/core';
import type { ClipDetail } from '@legame/core/contract';
import { formWords, interpretationWords } from '../../words/causes.ts';
import { count } from '../../words/numbers.ts';
import { attributeWords, listWords } from '../../words/statuses.ts';

/** Why the best candidate is the best, or why a person has to say; copies and forms of it; how the clip is read. */
export function DecisionNote({ clip }: { clip: ClipDetail }) {
  const forms = clip.renditions.filter((r) => r.mediaFileId !== clip.tied?.mediaFileId);
  const said = clip.fullDecision && !clip.tied ? decisionWords(clip.fullDecision) : '';
  return (
    <>
      {said && <p className="mt-1 text-quiet">{said}</p>}
      {clip.interpretation && (
        <p className="mt-1">
          Its timecode is read otherwise than the edit states it:{' '}
          <span className="font-mono">{interpretationWords(clip.interpretation, clip.rate)}</span>.
        </p>
      )}
      {clip.pinned && <p className="mt-1">Pinned: no rule, carry or cause changes its link.</p>}
      {forms.length > 0 && (
        <p className="mt-1 text-quiet">
          This recording is here in other forms too:{' '}
          {listWords(
            forms.map((f) => `${formWords[f.form]} ${[f.placeName, f.folder, f.name].filter(Boolean).join('/')}`),
          )}
          .
        </p>
      )}
    </>
  );
}

const groundsWords = {
  content: 'its bytes are those it was linked to before',
  'name-timecode-length': 'name, timecode and length identify it',
  'reel-timecode-length': 'reel, timecode and length identify it',
  'name-reel-timecode': 'name, reel and timecode identify it',
} as const;

/** A decision in a sentence, with how far the next candidate stands behind. */
export function decisionWords(decision: Decision): string {
  switch (decision.kind) {
    case 'certain': {
      const { second, copies, grounds } = decision;
      const behind = second?.behindIn.length
        ? ` The next is behind in ${listWords(second.behindIn.map((a) => attributeWords[a]))}.`
        : ' Nothing else comes near.';
      const same =
        copies.length > 0 ? ` ${count(copies.length, 'copy', 'copies')} of the same bytes lie elsewhere.` : '';
      return `Certain: ${groundsWords[grounds]}.${behind}${same}`;
    }
    case 'ask':
      return decision.reason === 'not-enough-known'
        ? `${decision.certainty === 'likely' ? 'Likely' : 'Possible'}: it fits, but too little is known to be certain.`
        : '';
    case 'refused':
      return `Refused: ${listWords(decision.differs.map((a) => attributeWords[a]))} must agree.`;
    case 'nothing':
      return '';
  }
}
