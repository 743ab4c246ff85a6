import { basename, join } from 'node:path';
import { judge } from '@legame/core/mhl';
import type { JobContext } from '../context.ts';
import type { Database } from '../db/database.ts';
import type { FencedFolder } from '../disk/writing.ts';
import type { Part } from '../media/readerTalk.ts';
import type { ReaderProcess } from '../media/readerProcess.ts';
import { UserProblem } from '../problems.ts';
import { setCheckStore, type SetCheckFile, type SetCheckRecord } from '../stores/setChecks.ts';
import { unansweredOf } from './unanswered.ts';

const patienceMs = 30_000;
const filesAtOnce = 500;

/** Reads the bytes of every file that is to be proven, a lane for each reader, and keeps what each gave at once. */
export async function reckonHashes(
  job: JobContext,
  readers: readonly ReaderProcess[],
  check: SetCheckRecord,
  folder: FencedFolder,
): Promise<void> {
  const { db, signal, report } = job;
  const { left, of } = await setCheckStore.bytesToReckon(db, check.id);
  let done = of - left;
  const reckonOne = async (reader: ReaderProcess, file: SetCheckFile) => {
    let read = 0;
    const onPart = (part: Part) => {
      if (part.part !== 'hashing') return;
      done += part.bytes - read;
      read = part.bytes;
      void report({ done, of, unit: 'bytes', doing: { code: 'hashing', file: basename(file.path) } });
    };
    const { path: root, is } = folder.ground;
    const by = [...(file.toReckon ?? [])];
    const end = await reader.ask({ do: 'hash', root, is, path: file.path, by }, { patienceMs, signal, onPart });
    done += (file.foundInBytes ?? 0) - read;
    if (end.part === 'hashed') {
      const found = { ...file.found, ...end.hashes };
      await setCheckStore.setReckoned(db, check.id, {
        key: file.key,
        state: stateOf(file, found),
        found,
        detail: null,
      });
      return;
    }
    const problem = unansweredOf(end, join(root, file.path));
    // The set itself is away: what is left can wait until it is back.
    if (!(problem instanceof UserProblem) || problem.code === 'another-folder-there') throw problem;
    if (!(await folder.look('.').catch(() => null)))
      throw new UserProblem({ code: 'folder-not-there', path: root, for: 'use' });
    const detail = end.part === 'failed' ? end.detail : problem.message;
    await setCheckStore.setReckoned(db, check.id, { key: file.key, state: 'unreadable', found: file.found, detail });
  };
  for (;;) {
    const files = await setCheckStore.listAfter(db, check.id, '', { limit: filesAtOnce, only: 'to-reckon' });
    if (files.length === 0) return;
    const queue = [...files];
    await Promise.all(
      readers.map(async (reader) => {
        for (let file = queue.shift(); file; file = queue.shift()) {
          signal.throwIfAborted();
          await reckonOne(reader, file);
        }
      }),
    );
  }
}

/** What is known of a file with these hashes of its bytes. */
export const stateOf = (file: SetCheckFile, hashes: SetCheckFile['found']) =>
  judge({
    listed: file.listed && { sizeInBytes: file.listedInBytes, hashes: file.listed },
    found: file.foundInBytes === null ? null : { sizeInBytes: file.foundInBytes },
    hashes,
  });

/** New files that are missing ones under another name, by their bytes; each stands for one. */
export async function pairMoved(db: Database, id: string): Promise<void> {
  const fresh = new Map<string, SetCheckFile>();
  for await (const file of filesOf(db, id, 'new'))
    for (const [name, hash] of Object.entries(file.found)) fresh.set(`${name} ${hash}`, file);
  if (fresh.size === 0) return;
  const taken = new Set<string>();
  for await (const file of filesOf(db, id, 'missing')) {
    const found = file.wanted && fresh.get(`${file.wanted} ${file.listed?.[file.wanted]}`);
    if (!found || taken.has(found.key)) continue;
    taken.add(found.key);
    await setCheckStore.setMoved(db, id, file, found);
  }
}

/** All files of a check in one state, or all that lie there, a stretch at a time. */
export async function* filesOf(db: Database, id: string, only?: 'new' | 'missing'): AsyncGenerator<SetCheckFile> {
  for (let key = ''; ;) {
    const files = await setCheckStore.listAfter(db, id, key, { limit: filesAtOnce, ...(only ? { only } : {}) });
    yield* files;
    if (files.length < filesAtOnce) return;
    key = files.at(-1)!.key;
  }
}
