import { openDatabase } from '../db/database.ts';
import { UserProblem } from '../problems.ts';
import { importProject } from '../projects/package.ts';
import type { DocumentAnswer, DocumentTask } from './apart.ts';
import { bringIn, readAgain, readIncoming } from './bringIn.ts';
import { wouldChange } from './wouldChange.ts';

/** A process that reads documents and keeps what it read, one after another (see `apart.ts`). */
const db = openDatabase(process.env.LEGAME_DATABASE ?? '');

process.on('message', (task: DocumentTask) => {
  carryOut(task).then(
    (said) => answer({ ok: true, said }),
    (error: unknown) =>
      answer({
        ok: false,
        problem: error instanceof UserProblem ? error.problem : null,
        detail: error instanceof Error ? (error.stack ?? error.message) : String(error),
      }),
  );
});
// Whoever asks is gone.
process.on('disconnect', () => process.exit(0));

const answer = (said: DocumentAnswer) => process.send?.(said);

async function carryOut(task: DocumentTask): Promise<string> {
  switch (task.do) {
    case 'bring-in':
      return bringIn({ db }, task.projectId, task.incoming);
    case 'read-again':
      await readAgain({ db }, task.documentId, task.reading);
      return task.documentId;
    case 'compare':
      return JSON.stringify(await wouldChange({ db }, task.replaces, task.incoming));
    case 'title': {
      // A list says no rate, and its title does not depend on it: at this one every frame number is possible.
      const reading = { rate: { num: 60, den: 1 } };
      const { format, title } = (await readIncoming(db, { ...task.incoming, reading }, [])).document;
      return JSON.stringify({ format, title });
    }
    case 'open-project':
      return importProject({ db }, task.bytes, task.name);
  }
}
