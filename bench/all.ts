import { benchMatching } from './matching.ts';
import { machine, say } from './measure.ts';
import { benchWalking } from './walking.ts';

say(`Measured on ${machine()}.`);
await benchMatching();
await benchWalking();
