import { codings } from '@legame/core/consolidate';
import type { HandoffChoices } from '@legame/core/contract';
import { codingText } from '@legame/words/handoffs';
import { OneOf, Word } from '../../parts/Word.tsx';

type Choosing = { choices: HandoffChoices; choose: (change: Partial<HandoffChoices>) => void };

const codingWords = {
  ffv1: 'every picture as it was; in Matroska, large',
  dnxhd: 'every frame by itself, 8 or 10 bits; in QuickTime',
  h264: 'small and not for further work, 8 bits; in QuickTime',
  mjpeg: 'every frame by itself, 8 bits; in QuickTime',
} as const;
/** What films become. */
export function CodingWord({ choices, choose }: Choosing) {
  return (
    <>
      {' '}
      to{' '}
      <Word says={codingText[choices.coding]} what="coding">
        {(close) => (
          <OneOf
            options={codingsSaid}
            chosen={choices.coding}
            onChoose={(coding) => {
              choose({ coding });
              close();
            }}
          />
        )}
      </Word>
    </>
  );
}
const codingsSaid = codings.map((id) => ({ id, title: codingText[id], words: codingWords[id] }));

/** What becomes of films that the receiver cannot use. */
export function RefusedWord({ choices, choose }: Choosing) {
  const says = (isTranscoded: boolean) => (isTranscoded ? 'transcoded' : 'left behind');
  return (
    <>
      {' '}
      (what {choices.receiver ? 'the receiver cannot use' : 'this project does not accept'}{' '}
      <Word says={says(choices.transcodesRefused)} what="films that are not accepted">
        {(close) => (
          <OneOf
            options={(['yes', 'no'] as const).map((id) => ({ id, title: says(id === 'yes') }))}
            chosen={choices.transcodesRefused ? 'yes' : 'no'}
            onChoose={(id) => {
              choose({ transcodesRefused: id === 'yes' });
              close();
            }}
          />
        )}
      </Word>
      {choices.transcodesRefused && <CodingWord choices={choices} choose={choose} />})
    </>
  );
}
