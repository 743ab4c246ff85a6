import type { ReadFault } from '@legame/core/remarks';
import { UserProblem } from '../problems.ts';

/** Why a document was not read, for the person who brought it: what is wrong, where, and what to do. */
export function problemOfFault(fault: ReadFault, name: string): UserProblem {
  const refuse = (detail: string) => new UserProblem('document-not-read', 422, detail, { fault });
  switch (fault.code) {
    case 'rate-needed':
      return new UserProblem(
        'rate-needed',
        422,
        `"${name}" does not say its frame rate. Choose the rate it counts at; the likeliest comes first.`,
        { fault, proposals: fault.proposals },
      );
    case 'columns-needed':
      return new UserProblem(
        'columns-needed',
        422,
        `None of the ${fault.columns.headers.length} columns of "${name}" is known by its name. Say which of them holds the clip's name, file or reel.`,
        { fault },
      );
    case 'document-empty':
      return refuse(`"${name}" is empty. Export it again from where it comes from.`);
    case 'document-not-text':
      return refuse(
        `"${name}" is not a text file, so it is no EDL, OTIO or log. If it is media, add the folder it lies in as a place.`,
      );
    case 'document-too-large':
      return refuse(
        `"${name}" holds more than ${Math.round(fault.limitInBytes / 1_048_576)} MB of text, more than any edit. It was not read.`,
      );
    case 'format-unknown':
      return refuse(
        `"${name}" is none of the formats Legame reads (${fault.known.join(', ')}). Nothing in it looks like one.`,
      );
    case 'json-broken':
      return refuse(
        `"${name}" is broken JSON at line ${fault.line}, column ${fault.column}: ${fault.detail}. It may have been cut off; export or copy it again.`,
      );
    case 'bundle-broken':
      return refuse(`"${name}" is no whole bundle: ${fault.detail}. Copy or export it again.`);
    case 'nested-too-deep':
      return refuse(`"${name}" nests deeper than ${fault.limit} levels, which no edit does. It was not read.`);
    case 'no-edit-inside':
      return refuse(`"${name}" holds no edit: it is ${fault.found}.`);
  }
}
