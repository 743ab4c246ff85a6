import { basename, join } from 'node:path';
import type { SetList } from '@legame/core/contract';
import {
  ignored,
  listFolder,
  wantedHash,
  type CheckState,
  type HashedFile,
  type Hashes,
  type HashName,
  type ListRead,
} from '@legame/core/mhl';
import type { JobContext } from '../context.ts';
import type { Database } from '../db/database.ts';
import { excluder } from '../disk/exclusions.ts';
import type { FencedFolder } from '../disk/writing.ts';
import type { ReaderProcess } from '../media/readerProcess.ts';
import { fromList, type Part } from '../media/readerTalk.ts';
import { UserProblem } from '../problems.ts';
import { setCheckStore, type FoundFile, type SetCheckRecord } from '../stores/setChecks.ts';
import { chainIn } from './chain.ts';
import { stateOf } from './reckoning.ts';
import { unansweredOf } from './unanswered.ts';

const patienceMs = 20_000;
const rowsAtOnce = 2000;

/** Lists of one folder of a set: its own, or those of a set that was put into it. */
type History = { readonly folder: string; readonly lists: readonly string[] };

/** Learns what lies in a set and what its lists say of it, and judges every file as far as that goes. */
export async function learnSet(
  job: JobContext,
  reader: ReaderProcess,
  check: SetCheckRecord,
  folder: FencedFolder,
): Promise<void> {
  const { db } = job;
  await setCheckStore.clearFiles(db, check.id);
  const { listPaths, unlisted } = await learnFiles(job, reader, check, folder);
  const histories = historiesOf(listPaths);
  if (histories.length === 0) throw new UserProblem({ code: 'no-hash-list', folder: check.folder });
  const [lists, listsGone, patterns]: [SetList[], string[], string[]] = [[], [], [...ignored]];
  for (const history of histories) {
    const chain = await chainIn(folder, history.folder);
    const links = chain && chain !== 'broken' ? chain.links : [];
    for (const path of history.lists) {
      const { read, c4 } = await learnList(job, reader, check, folder, { path, in: history.folder });
      const link = links.find((l) => l.name === basename(path));
      const unnamed = chain === 'broken' ? 'chain-broken' : 'unchained';
      lists.push(listOf(path, read, link ? (link.c4 === c4 ? 'same' : 'other') : unnamed));
      if (read.ok) patterns.push(...read.ignored);
    }
    const there = new Set(history.lists.map((path) => basename(path)));
    for (const { name } of links) if (!there.has(name)) listsGone.push(join(history.folder, listFolder, name));
  }
  const broken = lists.find((list) => list.fault !== null);
  if (broken?.fault && lists.every((list) => list.fault !== null))
    throw new UserProblem({ code: 'hash-list-broken', path: broken.path, fault: broken.fault });
  await judgeAll(db, check, patterns);
  await setCheckStore.suspectMoved(db, check.id);
  await setCheckStore.recogniseHandoff(db, check.id);
  await setCheckStore.setLists(db, check.id, { lists, listsGone, unlisted });
}

/** Every file of the set, hidden ones as well; the lists are told apart from what they tell of. */
async function learnFiles(
  { db, signal, report }: JobContext,
  reader: ReaderProcess,
  check: SetCheckRecord,
  folder: FencedFolder,
) {
  const listPaths: string[] = [];
  let [pending, done, writing]: [FoundFile[], number, Promise<unknown>] = [[], 0, Promise.resolve()];
  const flush = () => {
    const files = pending;
    pending = [];
    if (files.length > 0) writing = writing.then(() => setCheckStore.addFound(db, check.id, files));
  };
  const onPart = (part: Part) => {
    if (part.part !== 'files') return;
    for (const { folder: lies, name, sizeInBytes, modifiedMs } of part.files.map(fromList)) {
      const path = lies === '' ? name : `${lies}/${name}`;
      if (isOfLists(path)) listPaths.push(path);
      else pending.push({ path, sizeInBytes, modifiedMs });
    }
    done += part.files.length;
    if (pending.length >= rowsAtOnce) flush();
    void report({ done, of: null, unit: 'files', doing: { code: 'listing', folder: part.folder } });
  };
  const { path: root, is } = folder.ground;
  const listed = await reader.ask(
    { do: 'list', root, is, folder: '', excluded: [], everything: true },
    { patienceMs, signal, onPart },
  );
  if (listed.part !== 'listed') throw unansweredOf(listed, root);
  flush();
  await writing;
  return { listPaths, unlisted: [...listed.skipped.unlisted, ...listed.skipped.unnameable] };
}

const isOfLists = (path: string): boolean =>
  path.split('/').at(-2) === listFolder || (!path.includes('/') && path.toLowerCase().endsWith('.mhl'));

/** Lists by the folder that they tell of, in the order in which they were made; those of the version before lie at the top. */
function historiesOf(paths: readonly string[]): History[] {
  const lists = paths.filter((path) => path.toLowerCase().endsWith('.mhl')).toSorted();
  const folderOf = (path: string) =>
    path
      .split('/')
      .slice(0, path.includes('/') ? -2 : -1)
      .join('/');
  const folders = [...new Set(lists.map(folderOf))].toSorted();
  return folders.map((folder) => {
    const own = lists.filter((path) => folderOf(path) === folder);
    const chained = own.filter((path) => path.includes('/'));
    return { folder, lists: chained.length > 0 ? chained : own };
  });
}

async function learnList(
  { db, signal, report }: JobContext,
  reader: ReaderProcess,
  check: SetCheckRecord,
  folder: FencedFolder,
  list: { readonly path: string; readonly in: string },
): Promise<{ read: ListRead; c4: string | null }> {
  let [done, writing]: [number, Promise<unknown>] = [0, Promise.resolve()];
  const add = async (files: readonly HashedFile[]) => {
    const within = (path: string) => (list.in === '' ? path : `${list.in}/${path}`);
    await setCheckStore.addListed(
      db,
      check.id,
      files.map((f) => ({
        ...f,
        path: within(f.path),
        previousPath: f.previousPath === null ? null : within(f.previousPath),
      })),
    );
    done += files.length;
    await report({ done, of: null, unit: 'files', doing: { code: 'reading', file: basename(list.path) } });
  };
  const onPart = (part: Part) => {
    if (part.part === 'hashes') writing = writing.then(() => add(part.files));
  };
  const { path: root, is } = folder.ground;
  const read = await reader.ask({ do: 'read-hash-list', root, is, path: list.path }, { patienceMs, signal, onPart });
  await writing;
  if (read.part !== 'list-read') throw unansweredOf(read, join(root, list.path));
  return read;
}

function listOf(path: string, read: ListRead, chain: SetList['chain']): SetList {
  const nobody = { madeAt: null, tool: null, host: null };
  return read.ok
    ? { path, files: read.files, ...read.about, chain, fault: null }
    : { path, files: 0, ...nobody, chain, fault: read.fault };
}

async function judgeAll(db: Database, check: SetCheckRecord, patterns: readonly string[]): Promise<void> {
  const isIgnored = excluder([...new Set(patterns.map((p) => p.replace(/^\/|\/$/g, '')))]);
  for (let key = '', isOver = false; !isOver;) {
    const files = await setCheckStore.listAfter(db, check.id, key, { limit: rowsAtOnce });
    isOver = files.length < rowsAtOnce;
    key = files.at(-1)?.key ?? key;
    const passed = files.filter((f) => f.listed === null && isIgnored(f.path));
    if (passed.length > 0)
      await setCheckStore.removeNew(
        db,
        check.id,
        passed.map((f) => f.key),
      );
    const judged = files.map((f) => {
      const state = stateOf(f, f.found);
      const wanted = f.listed && wantedHash(f.listed);
      return { key: f.key, state, wanted, toReckon: toReckon(state, wanted, check.addsGeneration, f.found) };
    });
    await setCheckStore.setJudged(db, check.id, judged);
  }
}

/** Which hashes of a file are still to be reckoned; null where none is. A generation that is added tells of all that is there. */
function toReckon(
  state: CheckState,
  wanted: HashName | null,
  addsGeneration: boolean,
  found: Hashes,
): HashName[] | null {
  const names = new Set<HashName>();
  if (state === 'waiting' && wanted) names.add(wanted);
  if (addsGeneration && state !== 'missing') {
    names.add('xxh64');
    if (wanted) names.add(wanted);
  }
  const left = [...names].filter((name) => found[name] === undefined);
  return left.length > 0 ? left : null;
}
