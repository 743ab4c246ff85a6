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

/** "Clip" of "Clip.2". */
export const kindOf = (value: JsonObject): string => schemaOf(value).replace(/\.\d+$/, '');

/** The version that is known, where the document says a newer one; else null. */
export function olderThan(schema: string): number | null {
  const match = /^(\w+)\.(\d+)$/.exec(schema);
  const known = match && Object.hasOwn(knownVersions, match[1]!) ? knownVersions[match[1]!]! : null;
  return known !== null && Number(match![2]) > known ? known : null;
}
