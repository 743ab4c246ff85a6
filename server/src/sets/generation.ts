import { createHash } from 'node:crypto';
import { hostname } from 'node:os';
import { basename } from 'node:path';
import {
  c4Of,
  chainName,
  generationName,
  lengthenChain,
  listFolder,
  writeChain,
  writeGeneration,
  type CheckState,
  type ListedFile,
} from '@legame/core/mhl';
import type { JobContext } from '../context.ts';
import type { Ours } from '../made/ours.ts';
import { xxh64Of } from '../media/hashing.ts';
import { UserProblem } from '../problems.ts';
import { setCheckStore, type SetCheckRecord } from '../stores/setChecks.ts';
import { version } from '../version.ts';
import { chainIn, type Chain } from './chain.ts';
import { filesOf } from './reckoning.ts';

const chainPath = `${listFolder}/${chainName}`;

const actions: Readonly<Partial<Record<CheckState, ListedFile['action']>>> = {
  verified: 'verified',
  moved: 'verified',
  changed: 'failed',
  new: 'original',
  unproven: 'original',
};

/**
 * Adds what was found to the lists of a set, as the next generation, and its name to their chain. The chain is the one
 * file of another's that is ever replaced: because it was asked for, in one step, and with all that stood in it.
 */
export async function addGeneration({ db }: JobContext, check: SetCheckRecord, ours: Ours): Promise<void> {
  const files: ListedFile[] = [];
  for await (const { state, path, listedPath, foundInBytes, modifiedMs, found, wanted } of filesOf(db, check.id)) {
    const action = actions[state];
    if (!action || foundInBytes === null || found.xxh64 === undefined) continue;
    const others = wanted && wanted !== 'xxh64' && found[wanted] ? { [wanted]: found[wanted] } : {};
    const modifiedAt = new Date(modifiedMs ?? 0);
    files.push({
      path,
      sizeInBytes: foundInBytes,
      modifiedAt,
      xxh64: found.xxh64,
      action,
      others,
      previousPath: listedPath,
    });
  }
  const before = await chainIn(ours.folder);
  if (before === 'broken') throw new UserProblem({ code: 'hash-chain-broken', path: ours.folder.resolve(chainPath) });
  const links = before?.links ?? [];
  // Named after when the check was asked for: one that goes on where it stopped writes the same list again.
  const at = check.createdAt;
  const known = links.findIndex(({ name }) => name.endsWith(stampOf(at, check)));
  const of = { number: known < 0 ? links.length + 1 : known + 1, folderName: basename(check.folder), at };
  const name = generationName(of);
  if (known < 0) {
    const tool = { name: 'Legame', version };
    const list = writeGeneration({ ...of, host: hostname(), tool, process: 'in-place', files }, xxh64Of);
    await ours.write(`${listFolder}/${name}`, list);
    const link = { name, c4: c4Of(createHash('sha512').update(list).digest()) };
    if (before === null) await ours.write(chainPath, writeChain([link]));
    else await replaceChain(ours, before, lengthenChain(before.text, link));
  }
  await setCheckStore.setGeneration(db, check.id, name);
}

/** All of a generation's name but its number, which is known only once the chain is read. */
const stampOf = (at: Date, { folder }: SetCheckRecord): string =>
  generationName({ number: 1, folderName: basename(folder), at }).slice(4);

async function replaceChain(ours: Ours, { seen }: Chain, chain: string | null): Promise<void> {
  if (chain === null) throw new UserProblem({ code: 'hash-chain-broken', path: ours.folder.resolve(chainPath) });
  await ours.note([chainPath]);
  const { aside } = ours.of(chainPath);
  await ours.folder.writeAside(aside, chain);
  if (!(await ours.folder.replace(chainPath, seen, aside)))
    throw new UserProblem({ code: 'target-exists', path: ours.folder.resolve(chainPath), when: 'written' });
}
