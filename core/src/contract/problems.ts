import type { RenameFault } from '../naming/index.ts';
import type { NotBroughtHome } from './health.ts';
import type { BinPath } from '../bins/noted.ts';
import type { BinFault } from '../bins/tree.ts';
import type { Detail } from '../remarks/detail.ts';
import { z } from 'zod';
import type { ListFault } from '../mhl/index.ts';
import type { MediaFileId } from '../model/ids.ts';
import type { Refusal } from '../model/media.ts';
import type { PackageFault } from '../project/package.ts';
import type { RateProposal, ReadFault } from '../remarks/remark.ts';

/** What a request, a job or a handoff asked for and did not find. */
export type Wanted =
  | 'act'
  | 'address'
  | 'bundle'
  | 'checkpoint'
  | 'cleared-file'
  | 'clip'
  | 'copy'
  | 'document'
  | 'file'
  | 'former-version'
  | 'handoff'
  | 'index'
  | 'job'
  | 'kept-picture'
  | 'media-file'
  | 'place'
  | 'project'
  | 'timeline'
  | 'replaced-document'
  | 'set-check'
  | 'trial-read';

/** Why a file is not put back where the edit says. */
export type NotPutBack =
  | { readonly code: 'clip-gone' }
  | { readonly code: 'not-tied'; readonly clip: string }
  | { readonly code: 'lies-there'; readonly clip: string }
  | { readonly code: 'unreadable'; readonly clip: string }
  | { readonly code: 'sequence'; readonly file: string }
  | { readonly code: 'no-path'; readonly clip: string }
  | { readonly code: 'no-place'; readonly path: string }
  | { readonly code: 'place-away'; readonly place: string }
  | { readonly code: 'place-read-only'; readonly place: string }
  | { readonly code: 'taken'; readonly name: string; readonly folder: string };

/**
 * What can go wrong through a user's doing or through storage: a stable code, and what a sentence needs. Sentences are
 * made by `words`, HTTP's numbers by the server's routes. Anything else that is thrown is a fault of Legame's own.
 */
export type Problem =
  // What was asked.
  | { readonly code: 'not-found'; readonly what: Wanted }
  | { readonly code: 'request-not-understood'; readonly said: readonly string[] }
  | { readonly code: 'too-large'; readonly limitInBytes: number }
  | { readonly code: 'foreign-origin' }
  | { readonly code: 'no-session' }
  | { readonly code: 'internal'; readonly detail: string | null }
  // Documents and projects.
  /** Reading it would take more time or memory than any document should. */
  | {
      readonly code: 'document-overwhelms';
      readonly name: string;
      readonly by: 'time' | 'memory';
      readonly seconds: number;
    }
  | { readonly code: 'document-not-read'; readonly name: string; readonly fault: ReadFault }
  | {
      readonly code: 'rate-needed';
      readonly name: string;
      readonly fault: ReadFault;
      readonly proposals: readonly RateProposal[];
    }
  | { readonly code: 'columns-needed'; readonly name: string; readonly columns: number; readonly fault: ReadFault }
  | { readonly code: 'document-known-already'; readonly name: string; readonly documentId: string }
  | { readonly code: 'project-not-read'; readonly name: string; readonly fault: PackageFault }
  | { readonly code: 'no-such-timeline'; readonly document: string }
  | { readonly code: 'no-timeline'; readonly document: string }
  | { readonly code: 'folder-wanted-for-relative-paths' }
  | { readonly code: 'no-bundle'; readonly path: string; readonly place: string | null; readonly lacks: string }
  | { readonly code: 'zip-broken'; readonly name: string }
  | { readonly code: 'part-damaged'; readonly name: string; readonly detail: Detail }
  // Paths and places.
  | { readonly code: 'outside-roots'; readonly path: string; readonly roots: readonly string[] }
  | { readonly code: 'outside-folder'; readonly path: string; readonly folder: string }
  | { readonly code: 'link-leads-out'; readonly path: string; readonly folder: string }
  | { readonly code: 'in-no-place'; readonly path: string }
  | { readonly code: 'folder-not-there'; readonly path: string; readonly for: 'use' | 'writing' | 'documents' }
  | { readonly code: 'not-a-folder'; readonly path: string }
  | { readonly code: 'not-a-file'; readonly path: string }
  /** A folder lies there, but not the one that was known: another drive, or the folder under a drive that is away. */
  | { readonly code: 'another-folder-there'; readonly path: string }
  | { readonly code: 'folder-closed'; readonly path: string; readonly place: string | null }
  | {
      readonly code: 'place-known-already';
      readonly path: string;
      readonly how: 'same' | 'inside' | 'around';
      readonly place: string;
      readonly placePath: string;
      readonly placeId: string;
    }
  | {
      readonly code: 'place-away';
      readonly place: string;
      readonly path: string | null;
      readonly for: 'use' | 'index' | 'index-later' | 'unpack';
    }
  | { readonly code: 'place-stalls'; readonly place: string; readonly doing: 'listing' | 'measuring' }
  | { readonly code: 'file-stalls'; readonly path: string }
  | { readonly code: 'file-away'; readonly file: string; readonly place: string; readonly for: 'copy' | 'picture' }
  | { readonly code: 'not-in-place'; readonly path: string; readonly place: string }
  | { readonly code: 'not-hashed'; readonly file: string; readonly place: string }
  | { readonly code: 'sequence-has-no-hash'; readonly file: string }
  | { readonly code: 'no-drive-bay' }
  | { readonly code: 'no-such-drive'; readonly drive: string }
  | { readonly code: 'not-on-shelf'; readonly path: string }
  // Writing and copying.
  | { readonly code: 'target-not-writable'; readonly path: string; readonly why: 'read-only' | 'permission' }
  | {
      readonly code: 'target-exists';
      readonly path: string;
      readonly when: 'planned' | 'written' | 'running' | 'copied';
    }
  | { readonly code: 'name-not-possible'; readonly path: string; readonly why: 'too-long' | 'characters' }
  | {
      readonly code: 'drive-failed';
      readonly path: string;
      readonly why: 'not-answering' | 'file-too-large' | 'too-many-open';
    }
  | { readonly code: 'drive-full'; readonly path: string }
  | {
      readonly code: 'no-room';
      readonly for: 'copy' | 'bundle' | 'handoff';
      readonly folder: string;
      readonly neededInBytes: number;
      readonly usableInBytes: number;
    }
  | { readonly code: 'reads-back-differently'; readonly path: string; readonly inside: string | null }
  /** What was cut out of a file is not, picture for picture, what lies in it. */
  | { readonly code: 'trim-not-proven'; readonly path: string; readonly detail: Detail }
  | { readonly code: 'source-unreadable'; readonly path: string }
  | { readonly code: 'source-changed'; readonly path: string; readonly since: 'planned' | 'begun' }
  | { readonly code: 'copy-changed'; readonly path: string }
  // Handoffs.
  | { readonly code: 'nothing-to-gather'; readonly leftOut: number }
  | { readonly code: 'folder-claimed'; readonly path: string }
  | { readonly code: 'handoff-finished' }
  | { readonly code: 'handoff-running' }
  | { readonly code: 'handoff-not-running' }
  | { readonly code: 'job-given-up' }
  | { readonly code: 'files-not-copied'; readonly failed: number; readonly of: number; readonly first: Problem | null }
  // Received sets.
  | { readonly code: 'no-hash-list'; readonly folder: string }
  | { readonly code: 'hash-list-broken'; readonly path: string; readonly fault: ListFault }
  | { readonly code: 'hash-chain-broken'; readonly path: string }
  | { readonly code: 'set-has-no-timeline'; readonly folder: string }
  // Links, causes and their history.
  | { readonly code: 'bin-refused'; readonly bin: BinPath; readonly why: BinFault }
  | { readonly code: 'label-unknown' }
  | { readonly code: 'nothing-to-undo' }
  | { readonly code: 'nothing-to-redo' }
  | { readonly code: 'undo-overtaken' }
  | { readonly code: 'rename-refused'; readonly name: string; readonly to: string; readonly why: RenameFault }
  | { readonly code: 'rename-overtaken'; readonly name: string }
  | { readonly code: 'rename-of-others'; readonly files: number; readonly by: readonly string[] }
  | { readonly code: 'restored-already'; readonly path: string }
  | { readonly code: 'cause-gone' }
  | { readonly code: 'cause-needs-a-person' }
  | { readonly code: 'nothing-to-put-back'; readonly why: NotPutBack | null }
  | { readonly code: 'no-home' }
  | { readonly code: 'home-read-only'; readonly place: string }
  | { readonly code: 'nothing-to-bring-home'; readonly why: NotBroughtHome | null }
  | {
      readonly code: 'no-room-at-home';
      readonly place: string;
      readonly wantedInBytes: number;
      readonly usableInBytes: number;
    }
  | {
      readonly code: 'not-all-brought-home';
      readonly files: number;
      readonly of: number;
      /** The first that was not, and why. */
      readonly path: string;
      readonly because: Problem;
    }
  | { readonly code: 'put-back-not-indexed'; readonly file: string; readonly place: string }
  // Reading, pictures and copies.
  | { readonly code: 'nothing-to-try'; readonly scope: 'chosen' | 'used' | 'culprit' }
  | {
      readonly code: 'picture-not-made';
      readonly file: string;
      readonly what: 'picture' | 'preview';
      readonly why: 'set-apart' | 'not-read' | 'not-decoded';
      readonly detail: Detail | null;
    }
  | { readonly code: 'targets-alike'; readonly path: string }
  | { readonly code: 'not-a-film'; readonly file: string; readonly mediaFileId: MediaFileId }
  | { readonly code: 'copy-not-accepted'; readonly refusal: Refusal }
  | { readonly code: 'copy-in-no-place'; readonly folder: string }
  | { readonly code: 'copy-not-made'; readonly file: string; readonly detail: Detail }
  | { readonly code: 'copy-not-indexed'; readonly path: string; readonly place: string };
export type ProblemCode = Problem['code'];

/** A problem as jobs and handoffs keep it: made by the server itself. */
export const problemSchema = z.custom<Problem>(
  (value) => typeof value === 'object' && value !== null && 'code' in value && typeof value.code === 'string',
  { error: 'expected a problem with a code' },
);

/** A failed request's answer, RFC 9457. `code` is stable; `title` and `detail` are for people. */
export const problemDetailsSchema = z.looseObject({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  code: z.string(),
  detail: z.string(),
});
export type ProblemDetails = z.infer<typeof problemDetailsSchema>;
