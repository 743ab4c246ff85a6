import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readDocument } from '@legame/core/formats';
import type { Chance } from './chance.ts';
import { fuzz, type Fuzzed } from './chance.ts';

/** Documents of every format, as people write them, and then wrong in the ways in which programs and people err. */
const formats = join(process.cwd(), 'core/src/formats');
const samples = ['edl', 'log', 'otio'].flatMap((format) =>
  readdirSync(join(formats, format, '__fixtures__'))
    .filter((name) => !name.endsWith('.expected.txt'))
    .map((name) => ({ name, bytes: readFileSync(join(formats, format, '__fixtures__', name)) })),
);
const texts = samples.filter((s) => !s.name.endsWith('.otio')).map((s) => ({ ...s, text: s.bytes.toString('utf8') }));
const trees = samples
  .filter((s) => s.name.endsWith('.otio'))
  // Some programs write numbers that JSON does not have; the readers know them, this does not.
  .map((s) => JSON.parse(s.bytes.toString('utf8').replace(/\b(NaN|-?Infinity)\b/g, '0')) as Json);

const oddTokens = [
  ...['', ' ', '\t', '\0', '\ufeff', '\u2028', '\u202e', '😀', 'é', 'ÅÄÖ', '…'],
  ...['-1', '0', '00', '1e308', '-1e308', '1e-308', 'NaN', 'Infinity', '9999999999999999999999', '2147483648', '0x7f'],
  ...['99:99:99:99', '00:00:00:00', '23:59:59;29', '24:00:00:00', '00:00:60:00', '-01:00:00:00', '1:2:3', '::::'],
  ...['../../../etc/passwd', 'file:///', 'file://x/%zz', 'C:\\', '\\\\?\\', '%00', 'a'.repeat(5000)],
  ...[
    'M2',
    'FCM: DROP FRAME',
    'TITLE:',
    '* FROM CLIP NAME:',
    '*',
    'AX',
    'BL',
    'W001',
    'D',
    '000',
    'SPLIT:',
    '"',
    '","',
    ';',
  ],
];
const oddValues: readonly unknown[] = [
  ...[null, true, false, 0, -1, 1, 0.5, 1e308, -1e308, 1e-308, 5e-324, 2 ** 53, -(2 ** 53), 2 ** 31],
  ...['', '\ud800', '\0', 'x'.repeat(5000), 'Clip.2', 'Timeline.1', 'Stack.1', [], {}, [[[[]]]]],
  ...[
    { OTIO_SCHEMA: 'RationalTime.1', rate: 0, value: 1 },
    { OTIO_SCHEMA: 'RationalTime.1', rate: -25, value: 1e300 },
  ],
  ...[{ OTIO_SCHEMA: 'Clip.99' }, { OTIO_SCHEMA: 7 }, { __proto__: null, constructor: 1 }],
];

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

export function fuzzDocuments(seconds: number, seed: number): Fuzzed {
  return fuzz('documents', seconds, seed, (chance) => {
    const { name, bytes } = chance.isTrue(0.4) ? oddTree(chance) : oddText(chance);
    const rate = chance.one([undefined, { num: 25, den: 1 }, { num: 30_000, den: 1001 }, { num: 24, den: 1 }]);
    const answer = readDocument(chance.isTrue(0.2) ? damaged(bytes, chance) : bytes, {
      name,
      otherRates: [],
      ...(rate ? { rate } : {}),
      ...(chance.isTrue(0.2) ? { folder: '/KILN/cuts' } : {}),
    });
    if (answer.format === null || !answer.result.ok) return null;
    return oddNumber(answer.result.edit, 'edit');
  });
}

/** Frames are whole numbers that a database can hold; one that is none went through unread. */
function oddNumber(value: unknown, at: string): string | null {
  if (typeof value === 'number') return Number.isFinite(value) ? null : `${at} is ${value}`;
  if (typeof value === 'string') return /\p{Surrogate}|\0/u.test(value) ? `${at} holds what no text may` : null;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, inside] of Object.entries(value)) {
    const found = oddNumber(inside, `${at}.${key}`);
    if (found) return found;
  }
  return null;
}

function oddText(chance: Chance): { name: string; bytes: Uint8Array } {
  const { name, text } = chance.one(texts);
  let lines = text.split('\n');
  for (let times = 1 + chance.below(8); times > 0; times -= 1) lines = changedLines(lines, chance);
  return {
    name: chance.isTrue(0.9) ? name : chance.one(['a', 'a.edl', 'a.csv', 'a.otio', '..', '\0.edl']),
    bytes: Buffer.from(lines.join('\n')),
  };
}

function changedLines(lines: readonly string[], chance: Chance): string[] {
  const at = chance.below(Math.max(1, lines.length));
  const before = lines.slice(0, at);
  const [line = '', ...after] = lines.slice(at);
  switch (chance.below(8)) {
    case 0:
      return [...before, ...after];
    case 1:
      return [...before, ...Array<string>(1 + chance.below(300)).fill(line), ...after];
    case 2: {
      const other = chance.one(texts).text.split('\n');
      const from = chance.below(other.length);
      return [...before, ...other.slice(from, from + chance.below(30)), line, ...after];
    }
    case 3:
      return [...before, ...after.toReversed(), line];
    default: {
      const tokens = line.split(/([\s,:;]+)/);
      const token = chance.below(Math.max(1, tokens.length));
      tokens.splice(token, chance.below(3), chance.one(oddTokens));
      return [...before, tokens.join(''), ...after];
    }
  }
}

function oddTree(chance: Chance): { name: string; bytes: Uint8Array } {
  const tree = structuredClone(chance.one(trees));
  for (let times = 1 + chance.below(6); times > 0; times -= 1) changeTree(tree, chance);
  return { name: 'a.otio', bytes: Buffer.from(JSON.stringify(tree)) };
}

function changeTree(tree: Json, chance: Chance): void {
  const holders: (Json[] | { [key: string]: Json })[] = [];
  const visit = (node: Json) => {
    if (typeof node !== 'object' || node === null || holders.length > 2000) return;
    holders.push(node);
    for (const inside of Object.values(node)) visit(inside);
  };
  visit(tree);
  const holder = chance.one(holders);
  const key = chance.one(Object.keys(holder));
  if (!key) return;
  const slots = holder as { [key: string]: Json };
  switch (chance.below(5)) {
    case 0:
      if (Array.isArray(holder)) holder.splice(Number(key), 1);
      else delete slots[key];
      break;
    case 1:
      if (Array.isArray(holder))
        for (let n = chance.below(60); n > 0; n -= 1) holder.push(structuredClone(holder[Number(key)]!));
      else slots[key] = [structuredClone(slots[key]!)];
      break;
    case 2:
      slots[key] = structuredClone(chance.one(holders) as Json);
      break;
    default:
      slots[key] = structuredClone(chance.one(oddValues)) as Json;
  }
}

function damaged(bytes: Uint8Array, chance: Chance): Uint8Array {
  const copy = Uint8Array.from(bytes);
  for (let times = chance.below(20); times > 0 && copy.length > 0; times -= 1)
    copy[chance.below(copy.length)] = chance.one([0, 0xff, 0xc0, 0x80, 0x0a, 0x22, chance.below(256)]);
  return copy.subarray(0, chance.isTrue(0.3) ? chance.below(copy.length + 1) : copy.length);
}
