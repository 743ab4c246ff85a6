import { count } from '@legame/words/numbers';
import { ruledDecisions, type RuleOutcome, type RuledDecision } from '../../workers/ruleOutcome.ts';

const decisionWords: Readonly<Record<RuledDecision, string>> = {
  certain: 'certain',
  likely: 'likely',
  possible: 'to choose',
  refused: 'refused',
  nothing: 'no file',
};

/** How many dark clips would be decided how, before and after; always in sight, for it is what a rule is changed for. */
export function OutcomeCounts({ outcome, isSame }: { outcome: RuleOutcome; isSame: boolean }) {
  return (
    <div className="w-full" role="status" aria-label="what the rules would decide">
      <p>
        {isSame
          ? 'Of the dark clips, under these rules:'
          : outcome.changed === 0
            ? 'No dark clip would be decided otherwise.'
            : `${count(outcome.changed, 'dark clip')} would be decided otherwise; nothing is linked by this.`}
      </p>
      <dl className="my-1 grid grid-cols-5 gap-x-2">
        {ruledDecisions.map((decision) => {
          const [before, after] = [outcome.before[decision], outcome.after[decision]];
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

/** Clip by clip, what would be decided otherwise. */
export function OutcomeChanges({ outcome }: { outcome: RuleOutcome }) {
  return (
    <ul className="mt-2" aria-label="clips that would be decided otherwise">
      {outcome.changes.slice(0, 60).map((c) => (
        <li key={c.clipId} className="flex gap-2 py-0.5 text-[12px]">
          <span className="min-w-0 flex-1 truncate font-mono" title={`${c.name} → ${c.file}`}>
            {c.name}
          </span>
          <span className="text-quiet">
            {decisionWords[c.from]} → <b className="text-base-content">{decisionWords[c.to]}</b>
          </span>
        </li>
      ))}
      {outcome.changed > 60 && <li className="text-quiet">and {outcome.changed - 60} more</li>}
    </ul>
  );
}
