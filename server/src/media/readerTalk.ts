import { z } from 'zod';
import { factsSchema, type Problem } from '@legame/core/contract';
import type { HeaderReading } from '@legame/core/headers';
import { alsoHashedKnown, type Cutting } from '@legame/core/consolidate';
import { hashNames, type HashedFile, type Hashes, type ListRead } from '@legame/core/mhl';
import type { OtherContent, SequenceFrames } from '@legame/core/model';
import type { Copied } from './copying.ts';
import { folderIdentitySchema } from '../disk/held.ts';
import { trimSchema, type Streams } from './trim.ts';
import type { Skipped, Walked } from '../disk/walk.ts';

/** What a reader process is asked. Paths inside a place use "/". */
const ground = { root: z.string(), is: folderIdentitySchema.nullish() };
const onFile = { id: z.int(), ...ground, path: z.string() };
const intoFolder = {
  id: z.int(),
  source: z.object({ path: z.string(), is: folderIdentitySchema.nullish(), file: z.string() }),
  expected: z.object({
    sizeInBytes: z.number().nullable(),
    modifiedMs: z.number().nullable(),
    isFrame: z.boolean(),
    fingerprint: z.string().nullable(),
  }),
  into: z
    .array(z.object({ folder: z.object({ path: z.string(), is: folderIdentitySchema }), aside: z.string() }))
    .min(1),
  /** Hashes that are wanted beside xxh64. */
  also: z.array(z.enum(alsoHashedKnown)).readonly().default([]),
};
export const requestSchema = z.discriminatedUnion('do', [
  z.object({
    id: z.int(),
    do: z.literal('list'),
    ...ground,
    folder: z.string(),
    excluded: z.array(z.string()),
    /** Hidden files as well, and the frames of a sequence one by one. */
    everything: z.boolean().default(false),
  }),
  z.object({ do: z.literal('measure'), ...onFile }),
  z.object({ do: z.literal('hash'), ...onFile, by: z.array(z.enum(hashNames)).default(['xxh64']) }),
  z.object({ do: z.literal('read-hash-list'), ...onFile }),
  z.object({ do: z.literal('copy'), ...intoFolder }),
  z.object({
    do: z.literal('trim'),
    ...intoFolder,
    trim: trimSchema,
    /** Parts of the same source that will be asked for next, and how they are called in the making in the first folder. */
    next: z.array(z.object({ aside: z.string(), trim: trimSchema })).default([]),
  }),
  z.object({ do: z.literal('look-for-cuts'), ...onFile, facts: factsSchema }),
]);
export type Request = z.infer<typeof requestSchema>;
/** As it is asked: what is usual need not be said. */
export type Asked = z.input<typeof requestSchema>;

/** What kind of thing a file's first bytes show, where no header reader took it. */
export type Content =
  | { readonly is: 'media' | 'unknown' }
  /** `what` in plain words, as "a ZIP archive", "text". */
  | { readonly is: 'other'; readonly what: OtherContent };

export type ListedFile = readonly [
  folder: string,
  name: string,
  sizeInBytes: number,
  modifiedMs: number,
  sequence: SequenceFrames | null,
  inode: number | null,
  touchedMs: number | null,
];

/** A file as the reader process tells it. */
export const fromList = ([folder, name, sizeInBytes, modifiedMs, sequence, inode, touchedMs]: ListedFile): Walked => ({
  folder,
  name,
  sizeInBytes,
  modifiedMs,
  sequence,
  inode,
  touchedMs,
});

/** What it answers, in parts. Each question ends with one of listed, measured, hashed, list-read, copied, cuts, failed. */
export type Part =
  | { readonly part: 'files'; readonly folder: string; readonly files: readonly ListedFile[] }
  | { readonly part: 'listed'; readonly skipped: Skipped }
  | {
      readonly part: 'measured';
      readonly header: HeaderReading;
      readonly content: Content | null;
      readonly fingerprint: string;
      /** Size or time changed while it was being read. */
      readonly changed: boolean;
      readonly modifiedMs: number;
    }
  | { readonly part: 'hashing'; readonly bytes: number }
  | { readonly part: 'hashed'; readonly hashes: Hashes }
  | { readonly part: 'hashes'; readonly files: readonly HashedFile[] }
  /** `c4` is the identifier of what the list itself says, to the letter. */
  | { readonly part: 'list-read'; readonly read: ListRead; readonly c4: string }
  | { readonly part: 'copying'; readonly bytes: number }
  | ({ readonly part: 'copied' } & Copied)
  | { readonly part: 'cuts'; readonly cutting: Cutting; readonly streams: Streams | null }
  | {
      readonly part: 'failed';
      readonly code: string | null;
      readonly detail: string;
      /** What people are told of it, where it is known to be theirs or the storage's. */
      readonly problem: Problem | null;
    };

const parts = [
  'files',
  'listed',
  'measured',
  'hashing',
  'hashed',
  'hashes',
  'list-read',
  'copying',
  'copied',
  'cuts',
  'failed',
] as const;
/** Our own process made it, so only its being one of these is checked. */
export const partSchema = z.custom<Part & { readonly id: number }>(
  (value) =>
    typeof value === 'object' &&
    value !== null &&
    parts.includes((value as { part: (typeof parts)[number] }).part) &&
    typeof (value as { id: unknown }).id === 'number',
);
