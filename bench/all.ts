import { benchClients } from './clients.ts';
import { benchFacts } from './facts.ts';
import { benchFaults } from './faults/all.ts';
import { benchFormats } from './formats.ts';
import { benchFuzz } from './fuzz.ts';
import { benchHandoff } from './handoff.ts';
import { benchLarge } from './large.ts';
import { benchLive } from './live.ts';
import { benchMatching } from './matching.ts';
import { machine, say } from './measure.ts';
import { benchTruth, million } from './truth.ts';
import { benchTrimming } from './trimming.ts';
import { benchWalking } from './walking.ts';
import { benchWorkers } from './workers.ts';

/** Names of parts as arguments measure only those. */
const parts = {
  formats: benchFormats,
  matching: benchMatching,
  truth: () => benchTruth(),
  walking: benchWalking,
  facts: benchFacts,
  trimming: benchTrimming,
  handoff: benchHandoff,
  live: () => benchLive(),
  clients: benchClients,
  workers: benchWorkers,
};
/** Takes minutes, gigabytes or patience, so only when it is asked for. */
const largeParts = {
  million: () => benchTruth(million),
  large: () => benchLarge(),
  faults: () => benchFaults(),
  fuzz: () => benchFuzz(),
};
const asked = process.argv.slice(2);

say(`Measured on ${machine()}.`);
for (const [name, bench] of Object.entries(parts)) if (asked.length === 0 || asked.includes(name)) await bench();
for (const [name, bench] of Object.entries(largeParts)) if (asked.includes(name)) await bench();
