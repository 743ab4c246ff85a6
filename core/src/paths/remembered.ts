/**
 * A path that an edit remembers from some other machine, taken apart. `volume` is the name that machine knew the
 * storage by: a mount point's name, a drive letter with its colon, a share. Folders go from there down.
 */
export type RememberedPath = {
  readonly raw: string;
  readonly form: 'mount' | 'drive' | 'share' | 'rooted' | 'relative';
  readonly volume: string | null;
  readonly folders: readonly string[];
  readonly name: string;
  /** For POSIX paths all folders from the root down, mount point included; else null. */
  readonly fromRoot: readonly string[] | null;
};

/** Folders under which systems mount storage; what follows is the storage's name. */
const mountFolders: readonly (readonly string[])[] = [
  ['Volumes'],
  ['mnt'],
  ['run', 'media', '*'],
  ['media', '*'],
  ['media'],
];

/**
 * Takes apart a path of any system: POSIX and mount points, drive letters, UNC shares, file URLs (percent-encoded,
 * with or without a host, RFC 8089), relative paths. Never fails: what cannot be decoded stays as it stands.
 */
export function parseRememberedPath(raw: string): RememberedPath {
  const text = raw.trim();
  const url = /^file:(.*)$/i.exec(text);
  return parseSystemPath(url ? pathOfFileUrl(url[1]!) : text, raw);
}

/** The file name alone. Most references are plain enough to need no taking apart for that. */
export function rememberedName(raw: string): string {
  const isPlain = /^(?:file:\/\/)?\/[^/\\%?#][^\\%?#]*$/.test(raw) && !/[\s/:]$|\/\.$/.test(raw);
  return isPlain ? raw.slice(raw.lastIndexOf('/') + 1) : parseRememberedPath(raw).name;
}

function pathOfFileUrl(rest: string): string {
  const decoded = decodePercent(rest.replace(/[?#].*$/, ''));
  const withHost = /^\/\/([^/]*)(\/.*)?$/.exec(decoded);
  if (!withHost) return decoded;
  const [, host = '', path = ''] = withHost;
  if (/^[A-Za-z]:$/.test(host)) return host + path;
  if (host === '' || host.toLowerCase() === 'localhost') return /^\/[A-Za-z]:/.test(path) ? path.slice(1) : path;
  return `//${host}${path}`;
}

/** Decodes %XX where it makes valid UTF-8; a stray percent sign in a file name stays a percent sign. */
export function decodePercent(text: string): string {
  return text.replace(/(?:%[0-9A-Fa-f]{2})+/g, (run) => {
    try {
      return decodeURIComponent(run);
    } catch {
      return run;
    }
  });
}

/** Field by field: an object spread and added to has a shape of its own, which costs as much again as the path. */
function parseSystemPath(text: string, raw: string): RememberedPath {
  const drive = /^([A-Za-z]:)[\\/]*(.*)$/s.exec(text);
  if (drive) {
    const { folders, name } = splitPath(drive[2]!, true);
    return { raw, form: 'drive', volume: drive[1]!.toUpperCase(), folders, name, fromRoot: null };
  }
  const share = /^(?:\\\\|\/\/)([^\\/]+)[\\/]+(.*)$/s.exec(text);
  if (share) {
    const { folders, name } = splitPath(share[2]!, true);
    const [first, ...rest] = folders;
    return first === undefined
      ? { raw, form: 'share', volume: share[1]!, folders, name, fromRoot: null }
      : { raw, form: 'share', volume: first, folders: rest, name, fromRoot: null };
  }
  if (text.startsWith('/')) {
    const { folders, name } = splitPath(text, false);
    for (const mount of mountFolders) {
      const under = mount.length;
      if (folders.length > under && mount.every((part, i) => part === '*' || part === folders[i])) {
        const [volume, below] = [folders[under]!, folders.slice(under + 1)];
        return { raw, form: 'mount', volume, folders: below, name, fromRoot: folders };
      }
    }
    return { raw, form: 'rooted', volume: null, folders, name, fromRoot: folders };
  }
  const { folders, name } = splitPath(text, !text.includes('/'));
  return { raw, form: 'relative', volume: null, folders, name, fromRoot: null };
}

function splitPath(text: string, backslashes: boolean): { folders: string[]; name: string } {
  const parts = text.split(backslashes ? /[\\/]+/ : /\/+/).filter((part) => part !== '' && part !== '.');
  return { folders: parts.slice(0, -1), name: parts.at(-1) ?? '' };
}

/** Volume and folders, top first. */
export const foldersFromVolume = ({ volume, folders }: RememberedPath): readonly string[] =>
  volume === null ? folders : [volume].concat(folders);

/** How a remembered path is shown and grouped: volume and folders, in one notation. */
export const folderOf = (path: RememberedPath): string =>
  [path.volume ?? (path.form === 'rooted' ? '' : null), ...path.folders].filter((p) => p !== null).join('/');

/**
 * One key for all spellings of one path: as a file URL or plainly, percent-encoded or not, with either slash, with the
 * drive letter in either case. Folders and names keep their case, for some file systems tell it apart.
 */
export function spellingKey(raw: string): string {
  const { form, volume, folders, name, fromRoot } = parseRememberedPath(raw);
  const parts = fromRoot ?? [...(volume === null ? [] : [volume]), ...folders];
  return [form === 'mount' ? 'rooted' : form, ...parts, name].join('\u0000').normalize('NFC');
}

/** Whether a reference is a name and nothing else: such a name is borne by as many recordings as there are cards. */
export const isBareName = (raw: string): boolean => !/[\\/]/.test(raw) && !/^[a-z]+:/i.test(raw);
