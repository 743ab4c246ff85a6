import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Checked } from '@legame/core/contract';
import type { HealthCheck } from '@legame/core/health';
import { count } from '@legame/words/numbers';
import { useAppDispatch } from '../../app/store.ts';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { filterStatus, pickMany } from '../../session/selection.ts';

type Remedy = {
  readonly label: string;
  readonly title: string;
  readonly isMain: boolean;
  readonly onDo: () => void;
};
type RemedyName = 'ledger' | 'bins' | 'hand-off' | 'trial' | 'take-up';

/** What can be done about what a check found, the nearest first. */
const remediesOf: Readonly<Record<HealthCheck, readonly RemedyName[]>> = {
  'outside-home': ['ledger'],
  'in-passing': ['ledger'],
  'on-card': ['ledger'],
  'only-copy': ['hand-off', 'ledger'],
  headroom: [],
  'same-name': ['ledger', 'hand-off'],
  'unsafe-name': ['hand-off', 'ledger'],
  'case-twins': ['hand-off', 'ledger'],
  'reel-missing': ['bins'],
  'reel-overlaps': ['bins'],
  'other-rate': ['ledger'],
  'not-accepted': ['ledger'],
  'never-tried': ['trial', 'ledger'],
  unused: [],
  'left-aside': ['take-up', 'ledger'],
};

/** The remedies of a check, each for all that is open of it. */
export function useRemedies(projectId: string, { check, clipIds }: Checked) {
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const [startTrial, trial] = storage.useStartTrialMutation();
  const [setAside, aside] = api.useSetAsideMutation();
  const [said, setSaid] = useState<string | null>(null);
  const go = (screen: string) => void navigate(`/projects/${projectId}/${screen}`);
  const select = () => {
    dispatch(filterStatus('all'));
    dispatch(pickMany(clipIds));
  };
  const clips = count(clipIds.length, 'clip');
  const done = (words: string) => () => setSaid(words);
  const remedies: Readonly<Record<RemedyName, Omit<Remedy, 'isMain'>>> = {
    ledger: {
      label: 'Show in the ledger',
      title: `Selects ${clips} there`,
      onDo: () => {
        select();
        go('ledger');
      },
    },
    bins: {
      label: 'Show in bins',
      title: `Selects ${clips} there`,
      onDo: () => {
        select();
        go('bins');
      },
    },
    'hand-off': {
      label: 'Hand them off…',
      title: 'Plans a handoff of them; nothing is written yet',
      onDo: () => void navigate(`/projects/${projectId}/handoff`, { state: { clips: clipIds } }),
    },
    trial: {
      label: 'Read them to the end',
      title: 'Decodes them once, in a fenced process; the read log shows how far it is',
      onDo: () =>
        void startTrial({ projectId, scope: 'chosen', clipIds })
          .unwrap()
          .then(done('They are being read. What fails shows as unreadable, with the frame.'), () => undefined),
    },
    'take-up': {
      label: 'Take them up again',
      title: `${clips} become something to do again; undo takes it back`,
      onDo: () =>
        void setAside({ projectId, clipIds, as: null })
          .unwrap()
          .then(done(`${clips} taken up again.`), () => undefined),
    },
  };
  const actions =
    clipIds.length === 0 ? [] : remediesOf[check].map((name, i) => ({ ...remedies[name], isMain: i === 0 }));
  return { actions, isBusy: trial.isLoading || aside.isLoading, said, error: trial.error ?? aside.error };
}
