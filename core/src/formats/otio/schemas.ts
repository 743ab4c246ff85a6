import type { JsonObject } from './json.ts';

/** The newest version of each schema that is understood here; what says a newer one is read like this one, and remarked. */
const knownVersions: Readonly<Record<string, number>> = {
  SerializableCollection: 1,
  Timeline: 1,
  Stack: 1,
  Track: 1,
  Clip: 2,
  Gap: 1,
  Transition: 1,
  ExternalReference: 1,
  MissingReference: 1,
  GeneratorReference: 1,
  ImageSequenceReference: 1,
};

export const schemaOf = (value: JsonObject): string => (typeof value.OTIO_SCHEMA === 'string' ? value.OTIO_SCHEMA : '');

/** "Clip" of "Clip.2". A document has few schemas and many objects, so each is taken apart once. */
export const kindOf = (value: JsonObject): string => partsOf(schemaOf(value)).kind;

/** The version that is known, where the document says a newer one; else null. */
export function olderThan(schema: string): number | null {
  const { kind, version } = partsOf(schema);
  const known = Object.hasOwn(knownVersions, kind) ? knownVersions[kind]! : null;
  return known !== null && version > known ? known : null;
}

const taken = new Map<string, { kind: string; version: number }>();
function partsOf(schema: string): { kind: string; version: number } {
  const known = taken.get(schema);
  if (known) return known;
  const match = /^(.*)\.(\d+)$/.exec(schema);
  const parts = { kind: match ? match[1]! : schema, version: match ? Number(match[2]) : 0 };
  if (taken.size < 1000) taken.set(schema, parts);
  return parts;
}
