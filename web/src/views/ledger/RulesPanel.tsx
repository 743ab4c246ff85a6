import { useEffect, useState } from 'react';
import { attributes, type Attribute, type MatchRules, type RuleWeight } from '@legame/core/match';
import type { MediaKind } from '@legame/core/model';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { count } from '@legame/words/numbers';
import { attributeWords } from '@legame/words/statuses';
import { trialDecisions, type RuleTrial, type TrialDecision } from '../../workers/ruleTrial.ts';
import { ruleTrials } from '../../workers/trials.ts';
import { SearchedFolders } from './SearchedFolders.tsx';

const weights: readonly (readonly [RuleWeight, string, string])[] = [
  ['must', 'must', 'A file that differs in it is refused'],
  ['counts', 'counts', 'A difference keeps a link from being certain'],
  ['ignored', 'ignored', 'It is shown, and does nothing'],
];
const kinds: readonly MediaKind[] = ['picture', 'sound', 'still', 'sequence'];
const decisionWords: Readonly<Record<TrialDecision, string>> = {
  certain: 'certain',
  likely: 'likely',
  possible: 'to choose',
  refused: 'refused',
  nothing: 'no file',
};

/** What matching goes by, attribute by attribute. Each change says what it would do before it is in force. */
export function RulesPanel({
  projectId,
  chosen,
  onClose,
}: {
  projectId: string;
  chosen: readonly string[];
  onClose: () => void;
}) {
  const project = api.useProjectQuery(projectId);
  const sets = acts.useRuleSetsQuery(projectId);
  const places = storage.usePlacesQuery();
  const [setRules, saved] = acts.useSetRulesMutation();
  const [keepSets, kept] = acts.useKeepRuleSetsMutation();
  const [draft, setDraft] = useState<MatchRules | null>(null);
  const [onlyChosen, setOnlyChosen] = useState(false);
  const [setName, setSetName] = useState('');
  const [linkCertain, linked] = api.useLinkCertainMutation();
  const rules = draft ?? project.data?.rules;
  const trial = useRuleTrial(projectId, rules ?? null, onlyChosen ? chosen : null);
  if (!rules || !sets.data || !project.data) return <Waiting what="the rules" error={project.error ?? sets.error} />;
  const change = (part: Partial<MatchRules>) => setDraft({ ...rules, ...part });
  const weigh = (attribute: Attribute, weight: RuleWeight) =>
    change({ weights: { ...rules.weights, [attribute]: weight } });
  const isSame = JSON.stringify(rules) === JSON.stringify(project.data.rules);
  const named = sets.data.find((set) => JSON.stringify(set.rules) === JSON.stringify(rules));
  const own = sets.data.filter((set) => !set.shipped).map(({ name, rules: r }) => ({ name, rules: r }));
  const option = (key: 'ignoreCase' | 'ignoreExtension' | 'acrossRates', label: string, title: string) => (
    <label className="flex items-center gap-1.5" title={title}>
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={rules[key]}
        onChange={(e) => change({ [key]: e.target.checked })}
      />
      {label}
    </label>
  );
  return (
    <section className="flex h-full flex-col" aria-label="match rules">
      <div className="min-h-0 flex-1 overflow-auto p-3.5 pb-2">
        <h2 className="text-[15px] font-semibold">What matching goes by</h2>
        <div className="mt-2 flex flex-wrap gap-1.5" role="group" aria-label="sets of rules">
          {sets.data.map((set) => (
            <button
              key={set.name}
              type="button"
              aria-pressed={named?.name === set.name}
              className={`rounded border px-2 py-0.5 ${named?.name === set.name ? 'border-base-content font-semibold' : 'border-base-300'}`}
              onClick={() => setDraft(set.rules)}
            >
              {set.name}
            </button>
          ))}
        </div>
        <table className="mt-2 w-full">
          <tbody>
            {attributes.map((attribute) => (
              <tr key={attribute} className="line-b">
                <th scope="row" className="py-[3px] text-left font-normal">
                  {attributeWords[attribute]}
                </th>
                <td className="py-[3px] text-right">
                  <span className="inline-flex" role="radiogroup" aria-label={attributeWords[attribute]}>
                    {weights.map(([weight, word, title]) => {
                      const isOn = rules.weights[attribute] === weight;
                      return (
                        <button
                          key={weight}
                          type="button"
                          role="radio"
                          aria-checked={isOn}
                          title={title}
                          className={`border border-l-0 px-2 text-[12px] first:rounded-l first:border-l last:rounded-r ${isOn ? 'border-base-300 bg-base-content text-base-100' : 'border-base-300 text-quiet hover:bg-base-200'}`}
                          onClick={() => weigh(attribute, weight)}
                        >
                          {word}
                        </button>
                      );
                    })}
                  </span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="mt-2 grid grid-cols-2 gap-1">
          {option('ignoreCase', 'ignore case', 'BOWL.MOV is bowl.mov')}
          {option('ignoreExtension', 'ignore the ending', 'bowl.mxf is bowl.mov')}
          {option('acrossRates', 'across rates', '24 is 23.976: the same count at another speed')}
          <label className="flex items-center gap-1.5" title="The codec is not looked at">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={rules.weights.codec === 'ignored'}
              onChange={(e) => weigh('codec', e.target.checked ? 'ignored' : 'counts')}
            />
            any codec
          </label>
          <label
            className="flex items-center gap-1.5"
            title="The trial, and linking what is certain, look at these alone"
          >
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              disabled={chosen.length === 0}
              checked={onlyChosen && chosen.length > 0}
              onChange={(e) => setOnlyChosen(e.target.checked)}
            />
            only the selection ({chosen.length})
          </label>
        </div>
        <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
          <span className="text-quiet">Kinds:</span>
          {kinds.map((kind) => {
            const isOn = rules.kinds === null || rules.kinds.includes(kind);
            const others = (rules.kinds ?? kinds).filter((k) => k !== kind);
            const all = [...others, kind];
            return (
              <label key={kind} className="flex items-center gap-1">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={isOn}
                  onChange={() => change({ kinds: isOn ? others : all.length === kinds.length ? null : all })}
                />
                {kind}
              </label>
            );
          })}
        </div>
        <SearchedFolders places={places.data ?? []} within={rules.within} onChange={(within) => change({ within })} />
        {trial && <TrialChanges trial={trial} />}
      </div>
      <div className="line-t flex flex-wrap items-center gap-1.5 px-3.5 py-2">
        {trial && <TrialCounts trial={trial} isSame={isSame} />}
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={isSame || saved.isLoading}
          onClick={() => void setRules({ projectId, rules }).then(() => setDraft(null))}
        >
          Match by these
        </button>
        <button type="button" className="btn btn-plain btn-sm" disabled={isSame} onClick={() => setDraft(null)}>
          As they were
        </button>
        {isSame && trial && trial.after.certain > 0 && (
          <button
            type="button"
            className="btn btn-plain btn-sm"
            disabled={linked.isLoading}
            onClick={() => void linkCertain({ projectId, ...(onlyChosen && chosen.length ? { clipIds: chosen } : {}) })}
          >
            Link {trial.after.certain} certain
          </button>
        )}
        <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
          Close
        </button>
        <form
          className="flex w-full gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            const name = setName.trim();
            if (!name) return;
            void keepSets({ projectId, sets: [...own.filter((s) => s.name !== name), { name, rules }] });
            setSetName('');
          }}
        >
          <input
            className="input input-sm flex-1"
            placeholder="keep these under a name"
            aria-label="name of the set"
            maxLength={60}
            value={setName}
            onChange={(e) => setSetName(e.target.value)}
          />
          <button type="submit" className="btn btn-plain btn-sm" disabled={setName.trim() === ''}>
            Keep
          </button>
          {named && !named.shipped && (
            <button
              type="button"
              className="btn btn-plain btn-sm"
              onClick={() => void keepSets({ projectId, sets: own.filter((s) => s.name !== named.name) })}
            >
              Drop “{named.name}”
            </button>
          )}
        </form>
        <ProblemNote error={saved.error ?? kept.error ?? linked.error} onClose={saved.reset} />
      </div>
    </section>
  );
}

/** How many dark clips would be decided how, before and after; always in sight, for it is what a rule is changed for. */
function TrialCounts({ trial, isSame }: { trial: RuleTrial; isSame: boolean }) {
  return (
    <div className="w-full" role="status" aria-label="what the rules would decide">
      <p>
        {isSame
          ? 'Of the dark clips, under these rules:'
          : trial.changed === 0
            ? 'No dark clip would be decided otherwise.'
            : `${count(trial.changed, 'dark clip')} would be decided otherwise; nothing is linked by this.`}
      </p>
      <dl className="my-1 grid grid-cols-5 gap-x-2">
        {trialDecisions.map((decision) => {
          const [before, after] = [trial.before[decision], trial.after[decision]];
          return (
            <div key={decision} data-decision={decision}>
              <dt className="truncate text-[12px] text-quiet">{decisionWords[decision]}</dt>
              <dd className="font-mono">
                {before}
                {before !== after && <b> → {after}</b>}
              </dd>
            </div>
          );
        })}
      </dl>
    </div>
  );
}

function TrialChanges({ trial }: { trial: RuleTrial }) {
  return (
    <ul className="mt-2" aria-label="clips that would be decided otherwise">
      {trial.changes.slice(0, 60).map((c) => (
        <li key={c.clipId} className="flex gap-2 py-0.5 text-[12px]">
          <span className="min-w-0 flex-1 truncate font-mono" title={`${c.name} → ${c.file}`}>
            {c.name}
          </span>
          <span className="text-quiet">
            {decisionWords[c.from]} → <b className="text-base-content">{decisionWords[c.to]}</b>
          </span>
        </li>
      ))}
      {trial.changed > 60 && <li className="text-quiet">and {trial.changed - 60} more</li>}
    </ul>
  );
}

/** Decides all dark clips under these rules, in the worker, whenever rules, links or scope change. */
function useRuleTrial(projectId: string, rules: MatchRules | null, only: readonly string[] | null): RuleTrial | null {
  const weighed = acts.useWeighedQuery(projectId);
  const [trial, setTrial] = useState<RuleTrial | null>(null);
  const [loaded, setLoaded] = useState<unknown>(null);
  useEffect(() => {
    if (!weighed.data) return;
    let isCurrent = true;
    void ruleTrials()
      .load(weighed.data)
      .then(() => isCurrent && setLoaded(weighed.data));
    return () => {
      isCurrent = false;
    };
  }, [weighed.data]);
  useEffect(() => {
    if (!loaded || !rules) return;
    let isCurrent = true;
    void ruleTrials()
      .try(rules, only)
      .then((result) => isCurrent && setTrial(result));
    return () => {
      isCurrent = false;
    };
  }, [loaded, rules, only]);
  return trial;
}
