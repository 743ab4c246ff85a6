import { expose } from 'comlink';
import { RuleTrials } from './ruleTrial.ts';

expose(new RuleTrials());
