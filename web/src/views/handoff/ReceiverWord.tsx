import { codings, type Coding } from '@legame/core/consolidate';
import type { HandoffChoices, ProjectAcceptance } from '@legame/core/contract';
import { receiverText } from '@legame/words/handoffs';
import { storage } from '../../api/storage.ts';
import { AcceptanceFields } from '../../parts/AcceptanceFields.tsx';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { OneOf, Word } from '../../parts/Word.tsx';

/** For whom it is: whoever takes what the project accepts, or somebody who can use only some of it. */
export function ReceiverWord({
  projectId,
  choices,
  choose,
}: {
  projectId: string;
  choices: HandoffChoices;
  choose: (change: Partial<HandoffChoices>) => void;
}) {
  return (
    <Word says={receiverText(choices.receiver)} what="receiver">
      {(close) => <ReceiverIn projectId={projectId} choices={choices} choose={choose} onDone={close} />}
    </Word>
  );
}

function ReceiverIn({
  projectId,
  choices: { receiver, coding },
  choose,
  onDone,
}: Parameters<typeof ReceiverWord>[0] & { onDone: () => void }) {
  const { data, error } = storage.useAcceptanceQuery(projectId);
  if (!data) return <Waiting what="what there is to choose from" error={error} />;
  return (
    <div className="flex flex-col gap-3">
      <OneOf
        options={[
          { id: 'any', title: 'any receiver', words: 'who can use what this project accepts' },
          {
            id: 'own',
            title: 'a receiver who can use only some',
            words: 'what they cannot use is told, and transcoded if you say so',
          },
        ]}
        chosen={receiver ? 'own' : 'any'}
        onChoose={(id) => {
          if (id === 'any') {
            choose({ receiver: null, transcodesRefused: false });
            onDone();
          } else
            choose({
              receiver: receiver ?? data.profile,
              transcodesRefused: true,
            });
        }}
      />
      {receiver && (
        <AcceptanceFields
          profile={receiver}
          found={withCodings(data.found)}
          onChange={(profile) => choose({ receiver: profile, coding: codingFor(profile, coding) })}
        />
      )}
    </div>
  );
}

/** What films become for them: as before where they can use that, else the first that they can. */
const codingFor = ({ codecs }: ProjectAcceptance['profile'], coding: Coding): Coding =>
  codecs.length === 0 || codecs.includes(coding) ? coding : (codings.find((one) => codecs.includes(one)) ?? coding);

/** What the project's media are, and what they can become. */
const withCodings = (found: ProjectAcceptance['found']): ProjectAcceptance['found'] => ({
  ...found,
  containers: [...new Set([...found.containers, 'mov', 'matroska'])],
  codecs: [...new Set([...found.codecs, ...codings])],
});
