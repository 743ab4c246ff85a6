import { useEffect, useState } from 'react';
import type { MatchRules } from '@legame/core/match';
import { acts } from '../../api/acts.ts';
import type { RuleOutcome } from '../../workers/ruleOutcome.ts';
import { ruleTester } from '../../workers/ruleTester.ts';

/** Decides all dark clips under these rules, in the worker, whenever rules, links or scope change. */
export function useRuleOutcome(
  projectId: string,
  rules: MatchRules | null,
  only: readonly string[] | null,
): RuleOutcome | null {
  const weighed = acts.useWeighedQuery(projectId);
  const [outcome, setOutcome] = useState<RuleOutcome | null>(null);
  const [loaded, setLoaded] = useState<unknown>(null);
  useEffect(() => {
    if (!weighed.data) return;
    let isCurrent = true;
    void ruleTester()
      .load(weighed.data)
      .then(() => isCurrent && setLoaded(weighed.data));
    return () => {
      isCurrent = false;
    };
  }, [weighed.data]);
  useEffect(() => {
    if (!loaded || !rules) return;
    let isCurrent = true;
    void ruleTester()
      .try(rules, only)
      .then((result) => isCurrent && setOutcome(result));
    return () => {
      isCurrent = false;
    };
  }, [loaded, rules, only]);
  return outcome;
}
