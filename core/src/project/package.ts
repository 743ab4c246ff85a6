import { isObject, memberOf, strictJson } from '../formats/otio/json.ts';
import { locate } from '../formats/otio/locate.ts';
import { otioOf } from '../formats/otio/write.ts';
import type { Edit } from '../model/edit.ts';
import { packageSchema, type PackedDocument, type ProjectPackage } from './schema.ts';

/** A document on its way out: its text as it was brought in, and what was read of it. */
export type DocumentToPack = PackedDocument & { readonly text: string; readonly edit: Edit };

/**
 * A whole project as one OTIO collection that any reader of OTIO opens: OTIO documents stand in it to the letter, lists
 * and logs as timelines and clips. What only Legame knows (the lists' own text, how documents are read, links, what was
 * parked or waived, rules) stands under the "legame" key of the collection's metadata.
 */
export function packProject(project: Omit<ProjectPackage, 'documents'>, documents: readonly DocumentToPack[]): string {
  const own: ProjectPackage = {
    ...project,
    documents: documents.map(({ text, edit: _, ...document }) =>
      document.format === 'otio' ? document : { ...document, text },
    ),
  };
  const parts = documents.map(({ format, text, edit }) => (format === 'otio' ? { otio: text } : { edit }));
  return collection(project.name, { legame: own }, parts);
}

/** Why a file is no project that can be taken in. */
export type PackageFault =
  | { readonly code: 'not-text' }
  | { readonly code: 'broken' }
  | { readonly code: 'no-project' }
  | { readonly code: 'not-understood'; readonly at: string; readonly detail: string }
  | { readonly code: 'document-missing'; readonly name: string };

export type UnpackedProject =
  | { readonly ok: true; readonly project: ProjectPackage; readonly texts: readonly string[] }
  | { readonly ok: false; readonly fault: PackageFault };

/** The project in a text that `packProject` wrote, with the text of every document as it was. */
export function unpackProject(text: string): UnpackedProject {
  let root: unknown;
  try {
    root = JSON.parse(strictJson(text));
  } catch {
    return { ok: false, fault: { code: 'broken' } };
  }
  const metadata = isObject(root) ? memberOf(root, 'metadata') : null;
  const own = isObject(metadata) ? memberOf(metadata, 'legame') : null;
  if (!isObject(own) || own.kind !== 'project') return { ok: false, fault: { code: 'no-project' } };
  const read = packageSchema.safeParse(own);
  if (!read.success) {
    const issue = read.error.issues[0];
    return {
      ok: false,
      fault: { code: 'not-understood', at: issue?.path.join('.') ?? '', detail: issue?.message ?? '' },
    };
  }
  const pointers = read.data.documents.map((_, i) => `/children/${i}`);
  const places = locate(text, pointers);
  const texts: string[] = [];
  for (const [i, document] of read.data.documents.entries()) {
    const place = places.get(pointers[i]!);
    const found = document.text ?? (place && text.slice(place.from, place.to));
    if (found === undefined) return { ok: false, fault: { code: 'document-missing', name: document.name } };
    texts.push(found);
  }
  return { ok: true, project: read.data, texts };
}

/**
 * Several documents as one OTIO collection without anything of Legame's own: texts of OTIO to the letter, edits of other
 * formats as what OTIO has for them. A single OTIO text is the answer by itself.
 */
export const collectTimelines = (name: string, parts: readonly Part[]): string =>
  parts.length === 1 ? `${childOf(parts[0]!)}\n` : collection(name, {}, parts);

type Part = { readonly otio: string } | { readonly edit: Edit };

const childOf = (part: Part): string =>
  'otio' in part ? part.otio.trim() : JSON.stringify(otioOf(part.edit), null, 4);

function collection(name: string, metadata: object, parts: readonly Part[]): string {
  const head = [
    '"OTIO_SCHEMA": "SerializableCollection.1"',
    `"metadata": ${JSON.stringify(metadata)}`,
    `"name": ${JSON.stringify(name)}`,
  ];
  return `{\n${head.join(',\n')},\n"children": [\n${parts.map(childOf).join(',\n')}\n]\n}\n`;
}
