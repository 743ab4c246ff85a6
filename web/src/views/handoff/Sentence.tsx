import { divisions, folderings, nameTokensKnown, strangeTokens, treatmentsOf } from '@legame/core/consolidate';
import type { HandoffChoices, HandoffLayout } from '@legame/core/contract';
import {
  codingText,
  cutsParts,
  divisionText,
  folderingText,
  layoutText,
  listed,
  treatmentText,
} from '@legame/words/handoffs';
import { count } from '@legame/words/numbers';
import type { ShownTimeline } from '../../api/timelines.ts';
import { chosenOf, rangeOf, type Draft } from './draft.ts';
import { AlongWord, ProvenWord } from './AlongWords.tsx';
import { CodingWord, RefusedWord } from './CodingWords.tsx';
import { ReceiverWord } from './ReceiverWord.tsx';
import { TargetWords } from './TargetWords.tsx';
import { TimelinesIn } from './TimelinesIn.tsx';
import { ClipsWord, NumberIn, OneOf, TextIn, Word } from '../../parts/Word.tsx';

const layouts: readonly { id: HandoffLayout; title: string; words: string }[] = [
  { id: 'folder', title: layoutText.folder, words: 'media, and every document as it came in, opening on it' },
  { id: 'otiod', title: layoutText.otiod, words: 'media and one document of all timelines' },
  { id: 'otioz', title: layoutText.otioz, words: 'the same, stored in a zip; it cannot go on where it stopped' },
];
const optionsOf = <T extends string>(ids: readonly T[], text: Readonly<Record<T, string>>) =>
  ids.map((id) => ({ id, title: text[id] }));

/** The plan as one sentence whose words are its choices. */
export function Sentence({
  projectId,
  draft,
  timelines,
  hasRefused,
  onChange,
}: {
  projectId: string;
  draft: Draft;
  timelines: readonly ShownTimeline[];
  /** There are films in it that the receiver cannot use. */
  hasRefused: boolean;
  onChange: (change: Partial<Draft>) => void;
}) {
  const { choices } = draft;
  const choose = (change: Partial<HandoffChoices>) => onChange({ choices: { ...choices, ...change } });
  const treatment = (what: 'picture' | 'sound' | 'still') => (
    <Word says={treatmentText[choices[what]]} what={what}>
      {(close) => (
        <OneOf
          options={optionsOf(treatmentsOf[what], treatmentText)}
          chosen={choices[what]}
          onChoose={(id) => {
            choose({ [what]: id });
            close();
          }}
        />
      )}
    </Word>
  );
  return (
    <p className="text-[17px] leading-8" aria-label="the plan">
      Hand{' '}
      {draft.clips && (
        <>
          <ClipsWord
            says={count(draft.clips.length, 'chosen clip')}
            instead="All that the timelines show, instead"
            onAll={() => onChange({ clips: null })}
          />{' '}
          of{' '}
        </>
      )}
      <TimelinesWord draft={draft} timelines={timelines} onChange={onChange} /> over to{' '}
      <ReceiverWord projectId={projectId} choices={choices} choose={choose} /> as{' '}
      <Word says={draft.name || 'no name yet'} what="name of the new folder" isWanted={!draft.name.trim()}>
        {(close) => (
          <TextIn
            label="name of the new folder"
            value={draft.name}
            onDone={close}
            onChange={(name) => onChange({ name })}
          />
        )}
      </Word>
      : picture {treatment('picture')}
      {choices.picture === 'transcode' && <CodingWord choices={choices} choose={choose} />}
      {(hasRefused || choices.receiver || choices.transcodesRefused) &&
        choices.picture !== 'transcode' &&
        choices.picture !== 'leave' && <RefusedWord choices={choices} choose={choose} />}
      , sound {treatment('sound')}
      {choices.sound === 'transcode' && ` to ${codingText.wave}`}, stills {treatment('still')}
      {cutsParts(choices) && (
        <>
          , with <HandlesWord choices={choices} choose={choose} /> of handles and{' '}
          <Word
            says={`${divisionText[choices.division]}${choices.division === 'span' && choices.gapInFrames > 0 ? `, joined over ${count(choices.gapInFrames, 'frame')}` : ''}`}
            what="files"
          >
            {() => <DivisionIn choices={choices} choose={choose} />}
          </Word>
        </>
      )}
      , and with them{' '}
      <AlongWord draft={{ ...draft, projectId }} choose={choose} onBins={(bins) => onChange({ bins })} />;{' '}
      <FolderingWord choices={choices} choose={choose} />, named{' '}
      <Word says={choices.pattern} what="names" isWanted={strangeTokens(choices.pattern).length > 0}>
        {(close) => <PatternIn pattern={choices.pattern} choose={choose} onDone={close} />}
      </Word>
      , as{' '}
      <Word says={layoutText[draft.layout]} what="form of the set">
        {(close) => (
          <OneOf
            options={layouts}
            chosen={draft.layout}
            onChoose={(layout) => {
              onChange({ layout });
              close();
            }}
          />
        )}
      </Word>
      , onto <TargetWords draft={draft} onChange={onChange} />, proven by{' '}
      <ProvenWord choices={choices} choose={choose} />.
    </p>
  );
}

function TimelinesWord({
  draft,
  timelines,
  onChange,
}: {
  draft: Draft;
  timelines: readonly ShownTimeline[];
  onChange: (change: Partial<Draft>) => void;
}) {
  const chosen = chosenOf(draft, timelines);
  const ranges = chosen.map((t) => rangeOf(t, draft.stretches[t.id]));
  const isWrong = ranges.some((r) => r && 'wrong' in r);
  const named = (t: ShownTimeline, i: number) => (ranges[i] ? `a stretch of ${t.name}` : t.name);
  const says =
    timelines.length === 0
      ? 'all clips'
      : chosen.length === timelines.length && timelines.length > 2 && ranges.every((r) => r === null)
        ? `all ${timelines.length} timelines`
        : chosen.length > 3
          ? `${chosen.length} timelines${ranges.some(Boolean) ? ', stretches of some' : ''}`
          : listed(chosen.map(named)) || 'no timeline';
  return (
    <Word says={says} what="timelines" isWanted={isWrong || (timelines.length > 0 && chosen.length === 0)}>
      {() => <TimelinesIn draft={draft} timelines={timelines} onChange={onChange} />}
    </Word>
  );
}

type Choosing = { choices: HandoffChoices; choose: (change: Partial<HandoffChoices>) => void };

function HandlesWord({ choices, choose }: Choosing) {
  return (
    <Word says={count(choices.handlesInFrames, 'frame')} what="handles">
      {() => (
        <NumberIn
          label="frames before and after each use"
          value={choices.handlesInFrames}
          most={100_000}
          onChange={(handlesInFrames) => choose({ handlesInFrames })}
        />
      )}
    </Word>
  );
}

function DivisionIn({ choices, choose }: Choosing) {
  return (
    <>
      <OneOf
        options={optionsOf(divisions, divisionText)}
        chosen={choices.division}
        onChoose={(division) => choose({ division })}
      />
      {choices.division === 'span' && (
        <div className="mt-2">
          <NumberIn
            label="frames of gap that are joined over"
            value={choices.gapInFrames}
            most={1_000_000}
            onChange={(gapInFrames) => choose({ gapInFrames })}
          />
        </div>
      )}
    </>
  );
}

function FolderingWord({ choices, choose }: Choosing) {
  const { foldering, levels } = choices;
  return (
    <Word
      says={`${folderingText[foldering]}${foldering === 'as-source' && levels !== null ? `, ${count(levels, 'level')}` : ''}`}
      what="folders"
    >
      {() => (
        <>
          <OneOf
            options={optionsOf(folderings, folderingText)}
            chosen={foldering}
            onChoose={(id) => choose({ foldering: id })}
          />
          {foldering === 'as-source' && (
            <label className="mt-2 flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={levels === null}
                onChange={(e) => choose({ levels: e.target.checked ? null : 1 })}
              />
              all levels, with the drive’s name
            </label>
          )}
          {foldering === 'as-source' && levels !== null && (
            <NumberIn
              label="levels kept, counted from the file"
              value={levels}
              most={50}
              onChange={(n) => choose({ levels: n })}
            />
          )}
        </>
      )}
    </Word>
  );
}

/** Names are put together of these; what is not known of a recording takes its separator along. */
function PatternIn({
  pattern,
  choose,
  onDone,
}: {
  pattern: string;
  choose: (change: Partial<HandoffChoices>) => void;
  onDone: () => void;
}) {
  const strange = strangeTokens(pattern);
  return (
    <div className="flex flex-col gap-2">
      <TextIn label="names" value={pattern} onChange={(next) => choose({ pattern: next })} onDone={onDone} />
      <div className="flex flex-wrap gap-1">
        {nameTokensKnown.map((token) => (
          <button
            key={token}
            type="button"
            className="btn btn-plain btn-xs font-mono"
            onClick={() => choose({ pattern: `${pattern}${/[}\w]$/.test(pattern) ? '_' : ''}{${token}}` })}
          >
            {`{${token}}`}
          </button>
        ))}
      </div>
      {strange.length > 0 && (
        <p className="text-missing">Nobody knows what {listed(strange.map((s) => `{${s}}`))} should be.</p>
      )}
      <p className="text-quiet">
        A part also gets where it starts, {'{start}'}, unless {'{start}'} or {'{n}'} is in its name already. Names that
        would be alike go into folders of their own.
      </p>
    </div>
  );
}
