import { createInterface } from 'node:readline';
import { useBay } from './conditions.ts';
import { useFence } from './held.ts';
import { Lookout } from './lookout.ts';
import { lookRequestSchema } from './presence.ts';

/**
 * A process that does nothing but look whether folders are there and answer. Work in the house holds up neither it nor
 * its sense of time; a share that stalls holds up one of its threads and nobody else.
 */
const lookout = new Lookout(process.cwd());
let bay: string | null = null;
let fence = '';

for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity })) {
  const request = lookRequestSchema.parse(JSON.parse(line));
  if (request.bay !== bay) useBay((bay = request.bay));
  // Its own folder is what it measures by.
  if (request.fence.join('\n') !== fence) {
    fence = request.fence.join('\n');
    useFence([...request.fence, process.cwd()]);
  }
  void lookout.look(request.path).then((presence) => {
    process.stdout.write(`${JSON.stringify({ id: request.id, presence })}\n`);
  });
}
// Whoever asked is gone; a look that stalls must not keep this process.
process.exit(0);
