import { directoriesOf, type DirectoryHash, type HashBytes } from './directories.ts';
import { hashNames } from './hashNames.ts';
import type { Hashes } from './read.ts';
import { text } from './xml.ts';

/** A file of a set as it was proven; `path` is relative to the set's folder, with "/". */
export type ListedFile = {
  readonly path: string;
  readonly sizeInBytes: number;
  readonly modifiedAt: Date;
  /** 16 hex digits. */
  readonly xxh64: string;
  /** `original`: hashed for the first time; else how it compares with what it was first. */
  readonly action: 'original' | 'verified' | 'failed';
  /** By what else it was held against the generations before. */
  readonly others?: Hashes;
  /** What it was called in them. */
  readonly previousPath?: string | null;
};

export type Generation = {
  readonly number: number;
  readonly folderName: string;
  readonly at: Date;
  readonly host: string;
  readonly tool: { readonly name: string; readonly version: string };
  readonly process: 'in-place' | 'transfer' | 'flatten';
  readonly files: readonly ListedFile[];
};

/** What no hash list covers: lists themselves, and what file managers strew. */
export const ignored = ['.DS_Store', 'ascmhl', 'ascmhl/'] as const;
export const listFolder = 'ascmhl';

/** "0001_to colour_2026-11-26_153251Z.mhl". */
export function generationName({ number, folderName, at }: Pick<Generation, 'number' | 'folderName' | 'at'>): string {
  const iso = at.toISOString();
  return `${String(number).padStart(4, '0')}_${folderName}_${iso.slice(0, 10)}_${iso.slice(11, 19).replaceAll(':', '')}Z.mhl`;
}

/**
 * One generation of a hash list after ASC MHL 2.0: every file with size, time and xxh64, every folder with a hash of its
 * content and one of its structure, so that a file that is missing, new or renamed shows in the folder's hash.
 */
export function writeGeneration(generation: Generation, hash: HashBytes): string {
  const { at, host, tool, process, files } = generation;
  const date = stamp(at);
  const { root, folders } = directoriesOf(files, hash);
  const lines = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<hashlist version="2.0" xmlns="urn:ASC:MHL:v2.0">',
    '  <creatorinfo>',
    `    <creationdate>${date}</creationdate>`,
    `    <hostname>${text(host)}</hostname>`,
    `    <tool version="${text(tool.version)}">${text(tool.name)}</tool>`,
    '  </creatorinfo>',
    '  <processinfo>',
    `    <process>${process}</process>`,
    '    <roothash>',
    ...hashesOf(root, date, '      '),
    '    </roothash>',
    '    <ignore>',
    ...ignored.map((pattern) => `      <pattern>${pattern}</pattern>`),
    '    </ignore>',
    '  </processinfo>',
    '  <hashes>',
  ];
  for (const file of files) {
    const path = `size="${file.sizeInBytes}" lastmodificationdate="${stamp(file.modifiedAt)}"`;
    const hashes: Hashes = { ...file.others, xxh64: file.xxh64 };
    lines.push(
      '    <hash>',
      `      <path ${path}>${text(file.path)}</path>`,
      ...inOrder.flatMap((name) =>
        hashes[name] ? [`      <${name} action="${file.action}" hashdate="${date}">${hashes[name]}</${name}>`] : [],
      ),
      ...(file.previousPath ? [`      <previousPath>${text(file.previousPath)}</previousPath>`] : []),
      '    </hash>',
    );
  }
  for (const [path, folder] of folders)
    lines.push(
      '    <directoryhash>',
      `      <path>${text(path)}</path>`,
      ...hashesOf(folder, date, '      '),
      '    </directoryhash>',
    );
  return [...lines, '  </hashes>', '</hashlist>', ''].join('\n');
}

/** As the standard's schema orders them. */
const inOrder = [...hashNames].filter((name) => name !== 'xxh32').sort();

const hashesOf = ({ content, structure }: DirectoryHash, date: string, indent: string): string[] => [
  `${indent}<content>`,
  `${indent}  <xxh64 hashdate="${date}">${content}</xxh64>`,
  `${indent}</content>`,
  `${indent}<structure>`,
  `${indent}  <xxh64 hashdate="${date}">${structure}</xxh64>`,
  `${indent}</structure>`,
];

const stamp = (date: Date): string => date.toISOString().replace(/\.\d+Z$/, '+00:00');
