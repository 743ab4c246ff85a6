import { useState } from 'react';
import type { MatchRules } from '@legame/core/match';
import { ruleSetSchema } from '@legame/core/contract';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { NameForm } from '../../parts/NameForm.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { RulesForm } from './RulesForm.tsx';
import { OutcomeChanges, OutcomeCounts } from './RuleOutcomeNotes.tsx';
import { useRuleOutcome } from './useRuleOutcome.ts';

/** What matching goes by. Each change says what it would do before it is in force. */
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
  const [setRules, saved] = acts.useSetRulesMutation();
  const [linkCertain, linked] = api.useLinkCertainMutation();
  const [draft, setDraft] = useState<MatchRules | null>(null);
  const [onlyChosen, setOnlyChosen] = useState(false);
  const rules = draft ?? project.data?.rules;
  const outcome = useRuleOutcome(projectId, rules ?? null, onlyChosen ? chosen : null);
  if (!rules || !project.data) return <Waiting what="the rules" error={project.error} />;
  const isSame = JSON.stringify(rules) === JSON.stringify(project.data.rules);
  return (
    <section className="flex h-full flex-col" aria-label="match rules">
      <div className="min-h-0 flex-1 overflow-auto p-3.5 pb-2">
        <h2 className="text-[15px] font-semibold">What matching goes by</h2>
        <SetsOfRules projectId={projectId} rules={rules} onTake={setDraft} />
        <RulesForm rules={rules} onChange={(part) => setDraft({ ...rules, ...part })}>
          <label
            className="flex items-center gap-1.5"
            title="The outcome, and linking what is certain, look at these alone"
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
        </RulesForm>
        {outcome && <OutcomeChanges outcome={outcome} />}
      </div>
      <div className="line-t flex flex-wrap items-center gap-1.5 px-3.5 py-2">
        {outcome && <OutcomeCounts outcome={outcome} isSame={isSame} />}
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={isSame || saved.isLoading}
          onClick={() =>
            void setRules({ projectId, rules })
              .unwrap()
              .then(
                () => setDraft(null),
                // What was refused stays in hand, beside why.
                () => undefined,
              )
          }
        >
          Match by these
        </button>
        <button type="button" className="btn btn-plain btn-sm" disabled={isSame} onClick={() => setDraft(null)}>
          As they were
        </button>
        {isSame && outcome && outcome.after.certain > 0 && (
          <button
            type="button"
            className="btn btn-plain btn-sm"
            disabled={linked.isLoading}
            onClick={() => void linkCertain({ projectId, ...(onlyChosen && chosen.length ? { clipIds: chosen } : {}) })}
          >
            Link {outcome.after.certain} certain
          </button>
        )}
        <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
          Close
        </button>
        <KeepRules projectId={projectId} rules={rules} />
        <ProblemNote error={saved.error ?? linked.error} onClose={saved.reset} />
      </div>
    </section>
  );
}

const same = (a: MatchRules, b: MatchRules) => JSON.stringify(a) === JSON.stringify(b);

/** Sets of rules under a name, to begin from. */
function SetsOfRules({
  projectId,
  rules,
  onTake,
}: {
  projectId: string;
  rules: MatchRules;
  onTake: (rules: MatchRules) => void;
}) {
  const sets = acts.useRuleSetsQuery(projectId);
  if (!sets.data) return <Waiting what="sets of rules" error={sets.error} />;
  return (
    <div className="mt-2 flex flex-wrap gap-1.5" role="group" aria-label="sets of rules">
      {sets.data.map((set) => (
        <button
          key={set.name}
          type="button"
          aria-pressed={same(set.rules, rules)}
          className={`rounded border px-2 py-0.5 ${same(set.rules, rules) ? 'border-base-content font-semibold' : 'border-base-300'}`}
          onClick={() => onTake(set.rules)}
        >
          {set.name}
        </button>
      ))}
    </div>
  );
}

/** Keeps these rules under a name, or drops a set that was kept. */
function KeepRules({ projectId, rules }: { projectId: string; rules: MatchRules }) {
  const sets = acts.useRuleSetsQuery(projectId);
  const [keepSets, kept] = acts.useKeepRuleSetsMutation();
  const own = (sets.data ?? []).filter((set) => !set.shipped).map(({ name, rules: r }) => ({ name, rules: r }));
  const named = own.find((set) => same(set.rules, rules));
  const keep = (list: typeof own) => keepSets({ projectId, sets: list });
  return (
    <>
      <NameForm
        className="w-full"
        schema={ruleSetSchema.shape.name}
        label="name of the set"
        hint="keep these under a name"
        verb="Keep"
        onName={(name) => keep([...own.filter((s) => s.name !== name), { name, rules }]).unwrap()}
      >
        {named && (
          <button
            type="button"
            className="btn btn-plain btn-sm"
            onClick={() => void keep(own.filter((s) => s.name !== named.name))}
          >
            Drop “{named.name}”
          </button>
        )}
      </NameForm>
      <ProblemNote error={kept.error} onClose={kept.reset} />
    </>
  );
}
