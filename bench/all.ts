import { benchFacts } from './facts.ts';
import { benchFormats } from './formats.ts';
import { benchMatching } from './matching.ts';
import { machine, say } from './measure.ts';
import { benchWalking } from './walking.ts';

/** Names of parts as arguments measure only those. */
const parts = { formats: benchFormats, matching: benchMatching, walking: benchWalking, facts: benchFacts };
const asked = process.argv.slice(2);

say(`Measured on ${machine()}.`);
for (const [name, bench] of Object.entries(parts)) if (asked.length === 0 || asked.includes(name)) await bench();
