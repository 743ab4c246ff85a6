import type { MediaKind } from '../model/edit.ts';
import { nameKey, safeName } from '../paths/names.ts';

/** What a folder of a template can take: media of a kind, and files of which nobody knows the kind. */
export const contents = ['picture', 'sequence', 'sound', 'still', 'other'] as const satisfies readonly (
  MediaKind | 'other'
)[];
export type Content = (typeof contents)[number];

/** One folder by its path from the top, "/"-separated, and what goes into it. */
export type TemplateFolder = { readonly path: string; readonly takes: readonly Content[] };

/** The folders of a production, each after the one that it lies in. */
export type FolderTemplate = readonly TemplateFolder[];

/** What projects have that say nothing else. */
export const defaultTemplate: FolderTemplate = [
  { path: 'picture', takes: ['picture', 'sequence'] },
  { path: 'sound', takes: ['sound'] },
  { path: 'music', takes: [] },
  { path: 'stills', takes: ['still'] },
  { path: 'titles', takes: [] },
  { path: 'timelines', takes: [] },
  { path: 'papers', takes: [] },
  { path: 'out', takes: [] },
];

export const mostFolders = 200;
export const deepestFolder = 8;

export const nameOf = (path: string): string => path.slice(path.lastIndexOf('/') + 1);
export const parentOf = (path: string): string => path.slice(0, Math.max(0, path.lastIndexOf('/')));
export const depthOf = (path: string): number => path.split('/').length;
const isWithin = (path: string, folder: string): boolean => path === folder || path.startsWith(`${folder}/`);
const within = (folder: string, name: string): string => (folder === '' ? name : `${folder}/${name}`);

/** Where content of a kind goes, from the top; "" where no folder takes it. */
export const folderFor = (template: FolderTemplate, content: Content): string =>
  template.find((f) => f.takes.includes(content))?.path ?? '';

export const templateFaults = ['unsafe-name', 'same-name', 'too-deep', 'too-many', 'no-parent', 'taken-twice'] as const;
export type TemplateFault = { readonly why: (typeof templateFaults)[number]; readonly path: string };

/** The first thing that speaks against a template: every system must be able to make it, and nothing goes to two folders. */
export function faultOf(template: FolderTemplate): TemplateFault | null {
  const known = new Set<string>();
  const taken = new Set<Content>();
  for (const [i, { path, takes }] of template.entries()) {
    const name = nameOf(path);
    const fault = (why: TemplateFault['why']) => ({ why, path });
    if (i >= mostFolders) return fault('too-many');
    if (depthOf(path) > deepestFolder) return fault('too-deep');
    if (safeName(name) !== name || name === '.' || within(parentOf(path), name) !== path) return fault('unsafe-name');
    if (known.has(nameKey(path))) return fault('same-name');
    const parent = parentOf(path);
    if (parent !== '' && !template.slice(0, i).some((f) => f.path === parent)) return fault('no-parent');
    known.add(nameKey(path));
    for (const content of takes) {
      if (taken.has(content)) return fault('taken-twice');
      taken.add(content);
    }
  }
  return null;
}

/** Each folder before those in it, and folders of one parent in the order in which they stand. */
function inOrder(template: FolderTemplate, parent = ''): TemplateFolder[] {
  return template.filter((f) => parentOf(f.path) === parent).flatMap((f) => [f, ...inOrder(template, f.path)]);
}

/** With a new folder that takes nothing yet, last in its parent ("" is the top). */
export const withFolder = (template: FolderTemplate, parent: string, name: string): FolderTemplate =>
  inOrder([...template, { path: within(parent, name), takes: [] }]);

/** A name that no folder in that parent has yet. */
export function freeName(template: FolderTemplate, parent: string): string {
  const taken = new Set(template.filter((f) => parentOf(f.path) === parent).map((f) => nameKey(nameOf(f.path))));
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? 'new folder' : `new folder ${n}`;
    if (!taken.has(name)) return name;
  }
}

/** Without a folder and what lies in it; what it took goes to no folder. */
export const withoutFolder = (template: FolderTemplate, folder: string): FolderTemplate =>
  template.filter((f) => !isWithin(f.path, folder));

const movedTo = (template: FolderTemplate, folder: string, to: string): FolderTemplate =>
  inOrder(template.map((f) => (isWithin(f.path, folder) ? { ...f, path: to + f.path.slice(folder.length) } : f)));

/** With another name for a folder; what lies in it goes along. */
export const withName = (template: FolderTemplate, folder: string, name: string): FolderTemplate =>
  movedTo(template, folder, within(parentOf(folder), name));

/** With a folder put into another ("" is the top), with what lies in it. Into itself it cannot go. */
export const withParent = (template: FolderTemplate, folder: string, parent: string): FolderTemplate =>
  isWithin(parent, folder) || parentOf(folder) === parent
    ? template
    : movedTo(template, folder, within(parent, nameOf(folder)));

/** With a kind of content going to one folder, and no more to another; null: to none. */
export const withContent = (template: FolderTemplate, content: Content, folder: string | null): FolderTemplate =>
  template.map((f) => {
    const others = f.takes.filter((c) => c !== content);
    return { ...f, takes: f.path === folder ? [...others, content] : others };
  });
