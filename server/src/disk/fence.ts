import { realpath, stat } from 'node:fs/promises';
import { isAbsolute, relative, resolve, sep } from 'node:path';
import { UserProblem } from '../problems.ts';

/** Whether `path` is `root` or lies under it. Both must be real paths, without links. */
export function isInside(root: string, path: string): boolean {
  const way = relative(root, path);
  return way === '' || (way !== '..' && !way.startsWith(`..${sep}`) && !isAbsolute(way));
}

/**
 * The real path of an existing folder that a user named, provided it lies inside the allowed roots, links followed. A
 * name is judged here once; what is done there goes through `held.ts`, which judges again what it opens.
 */
export async function folderInsideRoots(path: string, roots: readonly string[]): Promise<string> {
  const asked = resolve(path);
  const outside = () => new UserProblem({ code: 'outside-roots', path: asked, roots });
  const realRoots = await existingRoots(roots);
  // Judged by its text first, so that nothing outside is even looked at.
  if (!isAbsolute(path) || path.includes('\0') || ![...roots, ...realRoots].some((root) => isInside(root, asked)))
    throw outside();
  const real = await realpath(asked).catch(() => null);
  const kind = real ? await stat(real).catch(() => null) : null;
  if (!real || !kind) throw new UserProblem({ code: 'folder-not-there', path: asked, for: 'use' });
  if (!realRoots.some((root) => isInside(root, real))) throw outside();
  if (!kind.isDirectory()) throw new UserProblem({ code: 'not-a-folder', path: asked });
  return real;
}

/** The allowed roots that exist, as real paths. */
export async function existingRoots(roots: readonly string[]): Promise<string[]> {
  const real = await Promise.all(roots.map((root) => realpath(root).catch(() => null)));
  return [...new Set(real.filter((root) => root !== null))];
}
