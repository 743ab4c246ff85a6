import { wrap, type Remote } from 'comlink';
import { RuleTester } from './ruleOutcome.ts';

type Tester = Remote<RuleTester>;
let tester: Tester | null = null;

/** The outcome of rules in its worker, so that deciding twenty thousand clips anew holds up neither hand nor screen. */
export function ruleTester(): Tester {
  tester ??= start();
  return tester;
}

function start(): Tester {
  // Only where there are no workers at all, which is in tests, does it run in the page.
  if (typeof Worker === 'undefined') return inPage(new RuleTester());
  return wrap<RuleTester>(new Worker(new URL('./rules.worker.ts', import.meta.url), { type: 'module' }));
}

const inPage = (own: RuleTester): Tester =>
  ({
    load: (...args: Parameters<RuleTester['load']>) => Promise.resolve(own.load(...args)),
    try: (...args: Parameters<RuleTester['try']>) => Promise.resolve(own.try(...args)),
  }) as unknown as Tester;
