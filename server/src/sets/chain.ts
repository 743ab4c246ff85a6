import { chainName, listFolder, readChain, type Link } from '@legame/core/mhl';
import type { FencedFolder, FileIdentity } from '../disk/writing.ts';

/** A chain is a few lines a generation. */
const longestInBytes = 5_000_000;

export type Chain = {
  readonly path: string;
  readonly text: string;
  readonly seen: FileIdentity;
  readonly links: readonly Link[];
};

/** The chain of the lists that lie in a folder of a set: null where there is none, `broken` where it is no chain. */
export async function chainIn(folder: FencedFolder, inside = ''): Promise<Chain | 'broken' | null> {
  const path = [inside, listFolder, chainName].filter(Boolean).join('/');
  const seen = await folder.look(path);
  if (!seen) return null;
  if (!seen.isFile || seen.sizeInBytes > longestInBytes) return 'broken';
  const file = await folder.open(path);
  try {
    const text = await file.readFile('utf8');
    const links = readChain(text);
    return links ? { path, text, seen, links } : 'broken';
  } finally {
    await file.close();
  }
}
