import { useEffect, useState } from 'react';
import type { MatchRules } from '@legame/core/match';
import { acts } from '../../api/acts.ts';
import type { RuleTrial } from '../../workers/ruleTrial.ts';
import { ruleTrials } from '../../workers/trials.ts';

/** Decides all dark clips under these rules, in the worker, whenever rules, links or scope change. */
export function useRuleTrial(
  projectId: string,
  rules: MatchRules | null,
  only: readonly string[] | null,
): RuleTrial | null {
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
