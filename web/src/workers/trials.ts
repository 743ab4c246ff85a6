import { wrap, type Remote } from 'comlink';
import { RuleTrials } from './ruleTrial.ts';

type Trials = Remote<RuleTrials>;
let trials: Trials | null = null;

/** The trial of rules in its worker, so that deciding twenty thousand clips anew holds up neither hand nor screen. */
export function ruleTrials(): Trials {
  trials ??= start();
  return trials;
}

function start(): Trials {
  // Only where there are no workers at all, which is in tests, does it run in the page.
  if (typeof Worker === 'undefined') return inPage(new RuleTrials());
  return wrap<RuleTrials>(new Worker(new URL('./rules.worker.ts', import.meta.url), { type: 'module' }));
}

const inPage = (own: RuleTrials): Trials =>
  ({
    load: (...args: Parameters<RuleTrials['load']>) => Promise.resolve(own.load(...args)),
    try: (...args: Parameters<RuleTrials['try']>) => Promise.resolve(own.try(...args)),
  }) as unknown as Trials;
