import { expose } from 'comlink';
import { RuleTester } from './ruleOutcome.ts';

expose(new RuleTester());
