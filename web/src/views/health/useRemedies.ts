import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Checked } from '@legame/core/contract';
import type { HealthCheck } from '@legame/core/health';
import type { ClipId } from '@legame/core/model';
import { count } from '@legame/words/numbers';
import { useAppDispatch } from '../../app/store.ts';
import { health } from '../../api/health.ts';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { filterStatus, pickMany } from '../../session/selection.ts';

type Remedy = {
  readonly label: string;
  readonly title: string;
  readonly isMain: boolean;
  readonly onDo: () => void;
};
type RemedyName = 'ledger' | 'bins' | 'hand-off' | 'rename' | 'trial' | 'take-up';

/** What can be done about what a check found, the nearest first. */
const remediesOf: Readonly<Record<HealthCheck, readonly RemedyName[]>> = {
  'outside-home': ['ledger'],
  'in-passing': ['ledger'],
  'on-card': ['ledger'],
  'only-copy': ['hand-off', 'ledger'],
  headroom: [],
  'same-name': ['ledger', 'rename', 'hand-off'],
  'unsafe-name': ['rename', 'hand-off', 'ledger'],
  'case-twins': ['rename', 'hand-off', 'ledger'],
  'reel-missing': ['bins'],
  'reel-overlaps': ['bins'],
  'other-rate': ['ledger'],
  'not-accepted': ['ledger'],
  'never-tried': ['trial', 'ledger'],
  unused: [],
  'left-aside': ['take-up', 'ledger'],
};

/** The remedies of a check, each for all that is open of it: which clips that are is asked when one is chosen. */
export function useRemedies(projectId: string, { check, clips: n }: Checked) {
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const [askClips, asked] = health.useLazyHealthClipsQuery();
  const [startTrial, trial] = storage.useStartTrialMutation();
  const [setAside, aside] = api.useSetAsideMutation();
  const [said, setSaid] = useState<string | null>(null);
  const clips = count(n, 'clip');
  const withClips = (run: (clipIds: readonly ClipId[]) => unknown) => () =>
    void askClips({ projectId, check })
      .unwrap()
      .then(run)
      // What failed is told by its own answer.
      .catch(() => undefined);
  const select = (screen: string) =>
    withClips((clipIds) => {
      dispatch(filterStatus('all'));
      dispatch(pickMany(clipIds));
      return navigate(`/projects/${projectId}/${screen}`);
    });
  const remedies: Readonly<Record<RemedyName, Omit<Remedy, 'isMain'>>> = {
    ledger: { label: 'Show in the ledger', title: `Selects ${clips} there`, onDo: select('ledger') },
    bins: { label: 'Show in bins', title: `Selects ${clips} there`, onDo: select('bins') },
    'hand-off': {
      label: 'Hand them off…',
      title: 'Plans a handoff of them; nothing is written yet',
      onDo: withClips((clipIds) => navigate(`/projects/${projectId}/handoff`, { state: { clips: clipIds } })),
    },
    rename: {
      label: 'Rename their files…',
      title: 'Proposes other names; nothing is renamed yet',
      onDo: withClips((clipIds) => navigate(`/projects/${projectId}/naming`, { state: { clips: clipIds } })),
    },
    trial: {
      label: 'Read them to the end',
      title: 'Decodes them once, in a fenced process; the read log shows how far it is',
      onDo: withClips(async (clipIds) => {
        await startTrial({ projectId, scope: 'chosen', clipIds }).unwrap();
        setSaid('They are being read. What fails shows as unreadable, with the frame.');
      }),
    },
    'take-up': {
      label: 'Take them up again',
      title: `${clips} become something to do again; undo takes it back`,
      onDo: withClips(async (clipIds) => {
        await setAside({ projectId, clipIds, as: null }).unwrap();
        setSaid(`${clips} taken up again.`);
      }),
    },
  };
  const actions = n === 0 ? [] : remediesOf[check].map((name, i) => ({ ...remedies[name], isMain: i === 0 }));
  const isBusy = asked.isFetching || trial.isLoading || aside.isLoading;
  return { actions, isBusy, said, error: asked.error ?? trial.error ?? aside.error };
}
