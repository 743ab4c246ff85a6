import type { ReadFault } from '@legame/core/remarks';
import { UserProblem } from '../problems.ts';

/** Why a document was not read, for the person who brought it. */
export function problemOfFault(fault: ReadFault, name: string): UserProblem {
  switch (fault.code) {
    case 'rate-needed':
      return new UserProblem({ code: 'rate-needed', name, fault, proposals: fault.proposals });
    case 'columns-needed':
      return new UserProblem({ code: 'columns-needed', name, columns: fault.columns.headers.length, fault });
    default:
      return new UserProblem({ code: 'document-not-read', name, fault });
  }
}
