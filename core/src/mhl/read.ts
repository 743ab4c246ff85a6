import { SaxesParser } from 'saxes';

/** A file as a hash list tells of it; hashes by the names of their algorithms. */
export type HashedFile = {
  readonly path: string;
  readonly sizeInBytes: number | null;
  readonly hashes: Readonly<Partial<Record<HashName, string>>>;
};
export const hashNames = ['xxh64', 'md5', 'sha1', 'c4', 'xxh128', 'xxh3', 'xxh32'] as const;
export type HashName = (typeof hashNames)[number];

export type ListFault =
  | { readonly code: 'broken'; readonly line: number; readonly detail: string }
  | { readonly code: 'not-a-list' }
  | { readonly code: 'leads-out'; readonly path: string }
  | { readonly code: 'no-files' };
export type ListRead =
  { readonly ok: true; readonly files: readonly HashedFile[] } | { readonly ok: false; readonly fault: ListFault };

/**
 * Reads a generation of a hash list (ASC MHL 2.0; lists of version 1 as well, whose files stand in `file` and are
 * sized), piece by piece, so that one of a million files needs no tree. Paths that lead out of the set's folder are a
 * fault of the list, whatever lies there.
 */
export class ListReader {
  readonly #parser = new SaxesParser({ xmlns: false, position: true });
  readonly #files: HashedFile[] = [];
  #fault: ListFault | null = null;
  #isList = false;
  #path: string | null = null;
  #size: number | null = null;
  #hashes: Partial<Record<HashName, string>> = {};
  #text = '';
  #depth: string[] = [];

  constructor() {
    const parser = this.#parser;
    parser.on('error', (error) => {
      this.#fault ??= { code: 'broken', line: parser.line, detail: error.message.replace(/^\d+:\d+: /, '') };
    });
    parser.on('opentag', ({ name, attributes }) => this.#open(name, attributes));
    parser.on('text', (text) => {
      this.#text += text;
    });
    parser.on('closetag', ({ name }) => this.#close(name));
  }

  /** Whether more of it is wanted. */
  add(piece: string): boolean {
    if (!this.#fault) this.#parser.write(piece);
    return this.#fault === null;
  }

  end(): ListRead {
    if (!this.#fault) this.#parser.close();
    if (this.#fault) return { ok: false, fault: this.#fault };
    if (!this.#isList) return { ok: false, fault: { code: 'not-a-list' } };
    if (this.#files.length === 0) return { ok: false, fault: { code: 'no-files' } };
    return { ok: true, files: this.#files };
  }

  #open(name: string, attributes: Readonly<Record<string, string>>): void {
    if (this.#depth.length === 0 && name !== 'hashlist') this.#fault ??= { code: 'not-a-list' };
    if (this.#depth.length === 0) this.#isList = name === 'hashlist';
    this.#depth.push(name);
    this.#text = '';
    if (name === 'hash') {
      this.#path = null;
      this.#size = null;
      this.#hashes = {};
    }
    if (name === 'path' && attributes.size !== undefined) this.#size = sizeOf(attributes.size);
  }

  #close(name: string): void {
    this.#depth.pop();
    const text = this.#text.trim();
    this.#text = '';
    const within = this.#depth.at(-1);
    if (name === 'hash') return this.#note();
    if (within !== 'hash') return;
    if (name === 'path' || name === 'file') this.#path = text;
    else if (name === 'size') this.#size = sizeOf(text);
    else {
      const known = nameOfHash(name);
      if (known && text !== '') this.#hashes[known] = known === 'c4' ? text : text.toLowerCase();
    }
  }

  #note(): void {
    const path = this.#path?.replaceAll('\\', '/') ?? '';
    const parts = path.split('/');
    if (
      path === '' ||
      path.startsWith('/') ||
      /^[a-z]:/i.test(path) ||
      parts.some((p) => p === '..' || p === '.' || p === '')
    )
      this.#fault ??= { code: 'leads-out', path };
    else this.#files.push({ path, sizeInBytes: this.#size, hashes: this.#hashes });
  }
}

const sizeOf = (text: string): number | null => {
  const size = Number(text);
  return Number.isSafeInteger(size) && size >= 0 ? size : null;
};

/** Lists of version 1 call them otherwise. */
function nameOfHash(name: string): HashName | null {
  if (name === 'xxhash64be') return 'xxh64';
  return (hashNames as readonly string[]).includes(name) ? (name as HashName) : null;
}
