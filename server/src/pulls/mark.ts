import { basename } from 'node:path/posix';
import { stretchAsked, vaultHolder, type Act, type MarkPulls } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import { nameKey } from '@legame/core/paths';
import { requestFor, type DeskRow } from '@legame/core/report';
import type { Context } from '../context.ts';
import { askShelf } from '../drives/bay.ts';
import { viewDriveBay } from '../drives/views.ts';
import { act } from '../history/act.ts';
import type { PullChange } from '../stores/journal.ts';
import { projectStore } from '../stores/projects.ts';
import { pullStore } from '../stores/pulls.ts';
import { lookAtDesk } from './look.ts';

/**
 * Says of sources that they were asked for, are here or cannot be had, or takes that back. What is asked of the tape vault
 * is asked there at once; of what it does not hold that is said with the same act.
 */
export async function markPulls(context: Context, projectId: ProjectId, said: MarkPulls): Promise<Act> {
  const keys = new Set(said.keys);
  // Outside of the turn, where the project as it was looked at last is at hand.
  const rows = (await lookAtDesk(context, projectId, said)).filter((row) => keys.has(row.key));
  const isOfVault = said.mark === 'asked' && said.holder === vaultHolder && context.config.drives !== null;
  const vault = isOfVault ? await shelvedFor(context, rows) : null;
  const done = await projectStore.inTurn(context.db, projectId, async (trx) => {
    const requests = await pullStore.listRequests(trx, projectId);
    const at = new Date().toISOString();
    const changes = rows.flatMap((row): PullChange[] => {
      const before = requests.get(row.key) ?? null;
      if (said.mark === null) return before ? [{ what: 'pull', key: row.key, before, after: null }] : [];
      const isUnknownToVault = vault !== null && !vault.has(row.key);
      const mark = isUnknownToVault ? 'not-to-be-had' : said.mark;
      // What comes, or does not, comes from whoever was asked, where nobody says otherwise.
      const isAnswer = mark !== 'asked';
      const holder = said.holder || (isAnswer && before ? before.holder : '');
      const note = said.note || (isAnswer && before ? before.note : '');
      // What was said of other stretches of it is not taken back by what is said of this one.
      const besides = stretchAsked(said) && before ? before.ranges : [];
      const after = requestFor(row, { mark, holder, note, at, isUnknownToVault }, besides);
      return [{ what: 'pull', key: row.key, before, after }];
    });
    return act(trx, projectId, 'mark-pulls', changes);
  });
  for (const path of new Set([...(vault?.values() ?? [])].flat())) await askShelf(context, { shelf: 'vault', path });
  return done;
}

/** What the vault holds for each row, by file name, and is not on its way already. */
async function shelvedFor(context: Context, rows: readonly DeskRow<unknown>[]): Promise<Map<string, string[]>> {
  const { shelved } = await viewDriveBay(context);
  const held = shelved.filter((file) => file.shelf === 'vault');
  return new Map(
    rows.flatMap((row) => {
      const files = held.filter((file) => nameKey(basename(file.path)) === nameKey(row.file));
      return files.length === 0 ? [] : [[row.key, files.filter((f) => !f.coming).map((f) => f.path)] as const];
    }),
  );
}
