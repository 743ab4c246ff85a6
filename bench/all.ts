import { benchMatching } from './matching.ts';
import { benchFormats } from './formats.ts';
import { machine, say } from './measure.ts';
import { benchWalking } from './walking.ts';

say(`Measured on ${machine()}.`);
await benchFormats();
await benchMatching();
await benchWalking();
