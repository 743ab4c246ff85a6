import { attributes, type Decision } from '@legame/core/match';
import type { Because, ClipDetail } from '@legame/core/contract';
import { formWords, interpretationWords } from '@legame/words/causes';
import { count } from '@legame/words/numbers';
import { attributeWords, listWords } from '@legame/words/statuses';

/** Why the best candidate is the best, or why a person has to say; copies and forms of it; how the clip is read. */
export function DecisionNote({ clip }: { clip: ClipDetail }) {
  const forms = clip.renditions.filter((r) => r.mediaFileId !== clip.tied?.mediaFileId);
  const said = clip.fullDecision && !clip.tied ? decisionWords(clip.fullDecision) : '';
  const because = clip.linkedBecause && clip.tied ? becauseWords(clip.linkedBecause, clip.tied.by) : '';
  return (
    <>
      {(said || because) && <p className="mt-1 text-quiet">{said || because}</p>}
      {clip.interpretation && (
        <p className="mt-1">
          Its timecode is counted otherwise than the edit states it:{' '}
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

const makers: Readonly<Record<NonNullable<ClipDetail['tied']>['by'], string>> = {
  rule: 'Linked by rule',
  hand: 'Linked by hand',
  carry: 'Carried over',
  cause: 'Linked by mending a cause',
  follow: 'Followed',
  remembered: 'Where the edit says',
};

/** What a link rested on when it was made: grounds, witnesses, and the best rival with what it was behind in. */
export function becauseWords({ grounds, witnesses, second, verdicts }: Because, by: keyof typeof makers): string {
  const agreed = attributes.filter((a, i) => verdicts[i] === 'agrees' && a !== 'folder').map((a) => attributeWords[a]);
  const rested = grounds
    ? groundsWords[grounds]
    : agreed.length > 0
      ? `${listWords(agreed)} agreed`
      : 'a person’s word alone';
  const borne = witnesses !== null && witnesses > 1 ? ` ${count(witnesses, 'recording')} bore it out alike.` : '';
  const rival = second
    ? ` The next best then was behind in ${listWords(second.behindIn.map((a) => attributeWords[a])) || 'nothing that counts'}.`
    : ' Nothing else came near then.';
  return `${makers[by]}: ${rested}.${borne}${rival}`;
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
    case 'unusable':
      return 'It is the file that the edit means, by name and folder, and it cannot be read.';
    case 'refused':
      return `Refused: ${listWords(decision.differs.map((a) => attributeWords[a]))} must agree.`;
    case 'nothing':
      return '';
  }
}
