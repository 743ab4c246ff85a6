import type { FrameRange } from '../../time/range.ts';
import type { Rate } from '../../time/rate.ts';
import type { NewReference } from '../format.ts';
import { isObject, pointerKeys, strictJson } from './json.ts';
import { locate, membersAt, type JsonMember, type Place } from './locate.ts';

type Splice = { readonly from: number; readonly to: number; readonly text: string };

/**
 * Changes the media references at these JSON pointers by replacing only the characters of their URL (for image
 * sequences: base, prefix, suffix, and padding and first frame where they no longer fit). A MissingReference becomes an
 * ExternalReference, and a file a sequence or the other way round, with name, range and metadata kept. Every other
 * character of the document, digits of numbers included, stays as it is.
 */
export function relinkOtio(text: string, changes: ReadonlyMap<string, NewReference>): string {
  const places = locate(text, changes.keys());
  const absent = [...changes.keys()].filter((pointer) => !places.has(pointer));
  const splices = [...places].flatMap(([pointer, place]) => {
    const change = changes.get(pointer)!;
    if (text[place.from] === '{') return referenceSplices(text, place, change);
    // Where no reference was, one is put.
    return text.slice(place.from, place.to) === 'null' ? [{ ...place, text: newReference(change) }] : [];
  });
  splices.push(...absentSplices(text, absent, changes));
  // What is put at a place goes before what is taken from there.
  splices.sort((a, b) => a.from - b.from || a.to - b.to);
  let [result, done] = ['', 0];
  for (const { from, to, text: inserted } of splices) {
    result += text.slice(done, from) + inserted;
    done = to;
  }
  return result + text.slice(done);
}

/** References where the document has not even a place for one: the member is added to whatever would hold it. */
function absentSplices(text: string, absent: readonly string[], changes: ReadonlyMap<string, NewReference>): Splice[] {
  const parents = locate(text, new Set(absent.map(parentOf)));
  const grandparents = locate(text, new Set(absent.map((pointer) => parentOf(parentOf(pointer)))));
  return absent.flatMap((pointer) => {
    const [key, parent] = [pointerKeys(pointer).at(-1)!, parents.get(parentOf(pointer))];
    const made = newReference(changes.get(pointer)!);
    const whole = `{ ${JSON.stringify(key)}: ${made} }`;
    if (parent && text[parent.from] === '{') return new ReferenceEdit(text, parent).add(key, made);
    if (parent) return [{ ...parent, text: whole }];
    const above = grandparents.get(parentOf(parentOf(pointer)));
    const name = pointerKeys(parentOf(pointer)).at(-1);
    return above && text[above.from] === '{' && name !== undefined
      ? new ReferenceEdit(text, above).add(name, whole)
      : [];
  });
}

const parentOf = (pointer: string): string => pointer.slice(0, Math.max(0, pointer.lastIndexOf('/')));

function newReference({ path, sequence, rate, available }: NewReference): string {
  const shared = { metadata: {}, name: '', available_range: available ? timeRange(available, rate) : null };
  return JSON.stringify(
    sequence
      ? {
          OTIO_SCHEMA: 'ImageSequenceReference.1',
          ...shared,
          target_url_base: fileUrl(path.replace(/[^/]*$/, '')),
          name_prefix: sequence.prefix,
          name_suffix: sequence.suffix,
          start_frame: sequence.first,
          frame_step: 1,
          rate: rate ? rate.num / rate.den : 24,
          frame_zero_padding: sequence.padding,
          missing_frame_policy: 'error',
        }
      : { OTIO_SCHEMA: 'ExternalReference.1', ...shared, target_url: fileUrl(path) },
  );
}

function timeRange({ start, end }: FrameRange, of: Rate | number | undefined) {
  const rate = typeof of === 'number' ? of : of ? of.num / of.den : 24;
  const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value });
  return { OTIO_SCHEMA: 'TimeRange.1', start_time: time(start), duration: time(end - start) };
}

/** The rate that a reference counts its range at already: kept, as other programs wrote it. */
function statedRate({ available_range: range }: Readonly<Record<string, unknown>>): number | undefined {
  const start = isObject(range) && isObject(range.start_time) ? range.start_time.rate : undefined;
  return typeof start === 'number' && start > 0 ? start : undefined;
}

const sequenceMembers = [
  'target_url_base',
  'name_prefix',
  'name_suffix',
  'start_frame',
  'frame_step',
  'rate',
  'frame_zero_padding',
  'missing_frame_policy',
];

function referenceSplices(text: string, place: Place, change: NewReference): Splice[] {
  const reference = new ReferenceEdit(text, place);
  const { sequence, available, rate } = change;
  if (available) reference.setJson('available_range', timeRange(available, statedRate(reference.value) ?? rate));
  const isSequence = reference.schema.startsWith('ImageSequenceReference.');
  if (!sequence) {
    reference.set('target_url', fileUrl(change.path));
    if (isSequence) reference.remove(sequenceMembers);
    if (!reference.schema.startsWith('ExternalReference.')) reference.set('OTIO_SCHEMA', 'ExternalReference.1');
    return reference.splices;
  }
  reference.set('target_url_base', fileUrl(change.path.replace(/[^/]*$/, '')));
  reference.set('name_prefix', sequence.prefix);
  reference.set('name_suffix', sequence.suffix);
  const start = reference.value.start_frame;
  const isInside = typeof start === 'number' && start >= sequence.first && start <= sequence.last;
  if (!isSequence || !isInside || available) reference.set('start_frame', sequence.first);
  if (!isSequence || reference.value.frame_zero_padding !== sequence.padding)
    reference.set('frame_zero_padding', sequence.padding);
  if (!isSequence) {
    reference.set('OTIO_SCHEMA', 'ImageSequenceReference.1');
    reference.set('frame_step', 1);
    if (rate) reference.set('rate', rate.num / rate.den);
    reference.remove(['target_url']);
  }
  return reference.splices;
}

/** The splices that change members of one object, each with its own place in the text. */
class ReferenceEdit {
  readonly splices: Splice[] = [];
  readonly value: Readonly<Record<string, unknown>>;
  readonly schema: string;
  readonly #text: string;
  readonly #members: readonly JsonMember[];
  readonly #place: Place;

  constructor(text: string, place: Place) {
    this.#text = text;
    this.#place = place;
    this.#members = membersAt(text, place.from);
    const value: unknown = JSON.parse(strictJson(text.slice(place.from, place.to)));
    this.value = isObject(value) ? value : {};
    this.schema = typeof this.value.OTIO_SCHEMA === 'string' ? this.value.OTIO_SCHEMA : '';
  }

  /** A member that is not there yet, as JSON text. */
  add(name: string, shown: string): readonly Splice[] {
    this.#insert(name, shown);
    return this.splices;
  }

  /** Sets a member, or adds it after the schema's name, indented like it. */
  set(name: string, value: string | number): void {
    if (this.value[name] !== value) this.setJson(name, value);
  }

  setJson(name: string, value: unknown): void {
    const shown = JSON.stringify(value);
    const found = this.#members.findLast((m) => m.name === name);
    if (found) this.splices.push({ ...found.value, text: shown });
    else this.#insert(name, shown);
  }

  #insert(name: string, shown: string): void {
    const anchor = this.#members.find((m) => m.name === 'OTIO_SCHEMA') ?? this.#members[0];
    const at = anchor?.value.to ?? this.#place.from + 1;
    const lineStart = anchor ? this.#text.lastIndexOf('\n', anchor.at) + 1 : 0;
    const indent = anchor ? this.#text.slice(lineStart, anchor.at) : '';
    const space = anchor && /^\s*$/.test(indent) && lineStart > this.#place.from ? `\n${indent}` : ' ';
    const member = `${JSON.stringify(name)}: ${shown}`;
    this.splices.push({ from: at, to: at, text: anchor ? `,${space}${member}` : member });
  }

  /** Takes members away, each run of neighbours as one, with the comma before it, or after where nothing is before. */
  remove(names: readonly string[]): void {
    const members = this.#members;
    for (let first = 0; first < members.length; first += 1) {
      if (!names.includes(members[first]!.name)) continue;
      let end = first + 1;
      while (end < members.length && names.includes(members[end]!.name)) end += 1;
      const last = members[end - 1]!.value.to;
      const from = members[first - 1]?.value.to ?? members[first]!.at;
      this.splices.push({ from, to: first === 0 ? (members[end]?.at ?? last) : last, text: '' });
      first = end;
    }
  }
}

/** Absolute paths become file URLs, relative ones URL references: percent-encoded either way (RFC 8089, RFC 3986). */
export function fileUrl(path: string): string {
  const encoded = path.split('/').map(encodeURIComponent).join('/');
  if (path.startsWith('//')) return `file:${encoded}`;
  if (path.startsWith('/')) return `file://${encoded}`;
  const drive = /^([A-Za-z]:)(\/.*)$/.exec(path);
  return drive ? `file:///${drive[1]}${drive[2]!.split('/').map(encodeURIComponent).join('/')}` : encoded;
}
