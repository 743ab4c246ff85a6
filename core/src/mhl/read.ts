import { hashNames, type HashName } from './hashNames.ts';
import { SaxesParser } from 'saxes';

/** A file as a hash list tells of it; hashes by the names of their algorithms. */
export type HashedFile = {
  readonly path: string;
  /** What it was called in the generations before. */
  readonly previousPath: string | null;
  readonly sizeInBytes: number | null;
  /** Without those that were found to be other than before. */
  readonly hashes: Hashes;
};
export type Hashes = Readonly<Partial<Record<HashName, string>>>;

export type ListFault =
  | { readonly code: 'broken'; readonly line: number; readonly detail: string }
  | { readonly code: 'not-a-list' }
  | { readonly code: 'leads-out'; readonly path: string }
  | { readonly code: 'no-files' };
/** Who made a list, and when, as it says itself. */
export type ListAbout = { readonly madeAt: string | null; readonly tool: string | null; readonly host: string | null };
export type ListRead =
  | { readonly ok: true; readonly files: number; readonly about: ListAbout; readonly ignored: readonly string[] }
  | { readonly ok: false; readonly fault: ListFault };

/**
 * Reads a generation of a hash list (ASC MHL 2.0; lists of version 1 as well, whose files stand in `file` and are
 * sized), piece by piece, so that one of a million files needs neither a tree nor room for all of them. Paths that lead out of the set's folder are a
 * fault of the list, whatever lies there.
 */
export class ListReader {
  readonly #parser = new SaxesParser({ xmlns: false, position: true });
  readonly #onFile: (file: HashedFile) => void;
  #files = 0;
  readonly #ignored: string[] = [];
  #about: ListAbout = { madeAt: null, tool: null, host: null };
  #fault: ListFault | null = null;
  #isList = false;
  #path: string | null = null;
  #previousPath: string | null = null;
  #size: number | null = null;
  #hashes: Partial<Record<HashName, string>> = {};
  #action: string | null = null;
  #text = '';
  #depth: string[] = [];

  constructor(onFile: (file: HashedFile) => void) {
    this.#onFile = onFile;
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
    if (this.#files === 0) return { ok: false, fault: { code: 'no-files' } };
    return { ok: true, files: this.#files, about: this.#about, ignored: this.#ignored };
  }

  #open(name: string, attributes: Readonly<Record<string, string>>): void {
    if (this.#depth.length === 0 && name !== 'hashlist') this.#fault ??= { code: 'not-a-list' };
    if (this.#depth.length === 0) this.#isList = name === 'hashlist';
    this.#depth.push(name);
    this.#text = '';
    if (name === 'hash') {
      this.#path = null;
      this.#previousPath = null;
      this.#size = null;
      this.#hashes = {};
    }
    this.#action = attributes.action ?? null;
    if (name === 'path' && attributes.size !== undefined) this.#size = sizeOf(attributes.size);
  }

  #close(name: string): void {
    this.#depth.pop();
    const text = this.#text.trim();
    this.#text = '';
    const within = this.#depth.at(-1);
    if (name === 'hash') this.#note();
    else if (within === 'hash') this.#say(name, text);
    else if (within === 'ignore' && name === 'pattern') this.#ignored.push(text);
    else if (within === 'creatorinfo') {
      if (name === 'creationdate' || name === 'finishdate') this.#about = { ...this.#about, madeAt: text };
      if (name === 'tool') this.#about = { ...this.#about, tool: text };
      if (name === 'hostname') this.#about = { ...this.#about, host: text };
    }
  }

  #say(name: string, text: string): void {
    if (name === 'path' || name === 'file') this.#path = text;
    else if (name === 'previousPath') this.#previousPath = text;
    else if (name === 'size') this.#size = sizeOf(text);
    else {
      const known = nameOfHash(name);
      // What was found to be another file than before proves nothing of the one that was meant.
      if (known && text !== '' && this.#action !== 'failed')
        this.#hashes[known] = known === 'c4' ? text : text.toLowerCase();
    }
  }

  #note(): void {
    const [path, previousPath] = [insidePath(this.#path ?? ''), this.#previousPath && insidePath(this.#previousPath)];
    if (path === null || (this.#previousPath !== null && previousPath === null))
      this.#fault ??= { code: 'leads-out', path: (path === null ? this.#path : this.#previousPath) ?? '' };
    else {
      this.#files += 1;
      this.#onFile({ path, previousPath, sizeInBytes: this.#size, hashes: this.#hashes });
    }
  }
}

/** A path of a list with "/", or null where it leads out of the folder that the list is of. */
function insidePath(said: string): string | null {
  const path = said.replaceAll('\\', '/');
  const leadsOut = path.startsWith('/') || /^[a-z]:/i.test(path);
  return leadsOut || path.split('/').some((p) => p === '..' || p === '.' || p === '') ? null : path;
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
