import { directoriesOf, type DirectoryHash, type HashBytes } from './directories.ts';

/** A file of a set as it was proven; `path` is relative to the set's folder, with "/". */
export type ListedFile = {
  readonly path: string;
  readonly sizeInBytes: number;
  readonly modifiedAt: Date;
  /** 16 hex digits. */
  readonly xxh64: string;
  /** `original`: hashed for the first time; else how it compares with the generation before. */
  readonly action: 'original' | 'verified' | 'failed';
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
export const chainName = 'ascmhl_chain.xml';

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
    lines.push(
      '    <hash>',
      `      <path ${path}>${text(file.path)}</path>`,
      `      <xxh64 action="${file.action}" hashdate="${date}">${file.xxh64}</xxh64>`,
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

/** The list of generations: each by its name and the C4 identifier of what it says, so that none can be changed unnoticed. */
export function writeChain(generations: readonly { readonly name: string; readonly c4: string }[]): string {
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<ascmhldirectory xmlns="urn:ASC:MHL:DIRECTORY:v2.0">',
    ...generations.flatMap(({ name, c4 }, i) => [
      `  <hashlist sequencenr="${i + 1}">`,
      `    <path>${text(name)}</path>`,
      `    <c4>${c4}</c4>`,
      '  </hashlist>',
    ]),
    '</ascmhldirectory>',
    '',
  ].join('\n');
}

const hashesOf = ({ content, structure }: DirectoryHash, date: string, indent: string): string[] => [
  `${indent}<content>`,
  `${indent}  <xxh64 hashdate="${date}">${content}</xxh64>`,
  `${indent}</content>`,
  `${indent}<structure>`,
  `${indent}  <xxh64 hashdate="${date}">${structure}</xxh64>`,
  `${indent}</structure>`,
];

const stamp = (date: Date): string => date.toISOString().replace(/\.\d+Z$/, '+00:00');

const escapes: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** Control characters have no place in XML at all; no name that is written here has any. */
const text = (value: string): string => value.replace(/[&<>"]/g, (c) => escapes[c]!).replace(/[\p{Cc}]/gu, '\ufffd');
