import { dirname } from 'node:path';
import { UserProblem } from '../problems.ts';

/** The system's code of a failure, asked of its shape: errors of another realm are no instances of this one's Error. */
export const codeOf = (error: unknown): unknown =>
  typeof error === 'object' && error !== null && 'code' in error ? error.code : undefined;

/** A failed write as a sentence; what is not known to be the user's or the storage's is passed on as it is. */
export function writeProblem(error: unknown, path: string): unknown {
  switch (codeOf(error)) {
    case 'ENOSPC':
    case 'EDQUOT':
      return new UserProblem({ code: 'drive-full', path }, error);
    case 'EROFS':
      return new UserProblem({ code: 'target-not-writable', path, why: 'read-only' }, error);
    case 'EACCES':
    case 'EPERM':
      return new UserProblem({ code: 'target-not-writable', path, why: 'permission' }, error);
    case 'ENOENT':
    case 'ENOTDIR':
      return new UserProblem({ code: 'folder-not-there', path, for: 'writing' }, error);
    case 'ENAMETOOLONG':
      return new UserProblem({ code: 'name-not-possible', path, why: 'too-long' }, error);
    case 'EINVAL':
    case 'EILSEQ':
      return new UserProblem({ code: 'name-not-possible', path, why: 'characters' }, error);
    case 'EFBIG':
      return new UserProblem({ code: 'drive-failed', path, why: 'file-too-large' }, error);
    case 'EIO':
    case 'ENODEV':
    case 'ENXIO':
    case 'ESTALE':
    case 'EHOSTDOWN':
    case 'EHOSTUNREACH':
    case 'ENOTCONN':
    case 'ETIMEDOUT':
      return new UserProblem({ code: 'drive-failed', path, why: 'not-answering' }, error);
    case 'EMFILE':
    case 'ENFILE':
      return new UserProblem({ code: 'drive-failed', path, why: 'too-many-open' }, error);
    case 'ELOOP':
      return new UserProblem({ code: 'link-leads-out', path, folder: dirname(path) }, error);
    default:
      return error;
  }
}
