import type { FolderState } from '@legame/core/contract';
import type { Content, TemplateFault, TemplateFolder } from '@legame/core/folders';

/** What goes into a folder. */
export const contentWords: Readonly<Record<Content, string>> = {
  picture: 'picture',
  sequence: 'image sequences',
  sound: 'sound',
  still: 'stills',
  other: 'what nobody knows the kind of',
};

export const templateLine = ({ path, takes }: TemplateFolder): string =>
  takes.length > 0 ? `${path} (${takes.map((c) => contentWords[c]).join(', ')})` : path;

/** What speaks against the folders, and what to do. */
export function templateFaultText({ why, path }: TemplateFault): string {
  switch (why) {
    case 'unsafe-name':
      return `“${path}” is a name that not every system takes: leave out / \\ : * ? " < > |, and dots or spaces at its end.`;
    case 'same-name':
      return `“${path}” stands there already, if only in other letters. Call it otherwise.`;
    case 'too-deep':
      return `“${path}” lies too deep. Put it higher up.`;
    case 'too-many':
      return 'These are too many folders. Take some away.';
    case 'no-parent':
      return `“${path}” lies in a folder that is not among them. Add that first.`;
    case 'taken-twice':
      return `Something would go into “${path}” and into another folder. Say one.`;
  }
}

export const folderStateWords: Readonly<Record<FolderState, string>> = {
  there: 'is there',
  absent: 'would be made',
  'file-there': 'a file has this name',
};
