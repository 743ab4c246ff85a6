import { kindOfName } from '@legame/core/formats';
import type { Doubt, Facts, MediaFile, Unreadable } from '@legame/core/model';
import { frameName, splitExtension } from '@legame/core/paths';
import type { Ground } from '../disk/held.ts';
import { codeOf } from '../disk/failures.ts';
import { askDecoder } from './decoder.ts';
import type { ReaderProcess } from './readerProcess.ts';
import type { Content, Part } from './readerTalk.ts';

export type Measured = {
  readonly facts: Facts | null;
  readonly unreadable: Unreadable | null;
  /** Size and sampled content; null when not even that could be read. */
  readonly fingerprint: string | null;
};

type FileToRead = Pick<MediaFile, 'folder' | 'name' | 'sequence'>;

/** A file that does not answer for so long holds everybody else up no longer. */
const patienceMs = 10_000;
/** A file that is odd and was written to so lately may not have been finished. */
const freshMs = 20_000;

/** Where in its place the file stands that speaks for a media file: itself, or the first frame of a sequence. */
export function pathInPlace(file: FileToRead): string {
  const name = file.sequence ? frameName(file.sequence, file.sequence.first) : file.name;
  return file.folder === '' ? name : `${file.folder}/${name}`;
}

/**
 * Measures one media file: by its header where that is sound, else by a fenced decoder. What cannot be read comes back
 * with the reason, never as a throw. `onDecoder` is told when the fast way did not do.
 */
export async function readMediaFile(
  reader: ReaderProcess,
  ground: Ground,
  file: FileToRead,
  { signal, onDecoder }: { signal?: AbortSignal | undefined; onDecoder?: () => void } = {},
): Promise<Measured | 'aborted'> {
  const path = pathInPlace(file);
  const measured = await reader.ask({ do: 'measure', root: ground.path, is: ground.is, path }, { patienceMs, signal });
  switch (measured.part) {
    case 'aborted':
      return 'aborted';
    case 'no-answer':
      return unreadable({ code: 'no-answer', seconds: measured.seconds });
    case 'died':
      return unreadable({ code: 'decoder-gave-up', detail: measured.detail });
    case 'failed':
      return unreadable(failureOf(measured.code, measured.detail));
    case 'measured':
      return judge(measured, ground, file, signal, onDecoder);
    default:
      throw new Error(`A reader answered “${measured.part}” to a question for facts.`);
  }
}

async function judge(
  measured: Part & { part: 'measured' },
  ground: Ground,
  file: FileToRead,
  signal: AbortSignal | undefined,
  onDecoder?: () => void,
): Promise<Measured | 'aborted'> {
  const { header, content, fingerprint } = measured;
  const mayGrow = measured.changed || Date.now() - measured.modifiedMs < freshMs;
  const no = (reason: Unreadable): Measured => ({
    facts: null,
    unreadable: mayGrow && isHowUnfinishedFilesLook(reason) ? { code: 'growing' } : reason,
    fingerprint,
  });
  if (measured.changed) return no({ code: 'growing' });
  if (header.kind === 'unreadable') return no(header.reason);
  if (header.kind === 'facts')
    return named(
      {
        facts: file.sequence ? sequenceFacts(header.facts, file.sequence) : header.facts,
        unreadable: null,
        fingerprint,
      },
      file,
    );
  const other = otherContent(content);
  if (other) return no(other);
  onDecoder?.();
  const decoded = await askDecoder(ground, pathInPlace(file), signal).catch((error: unknown) => ({
    facts: null,
    unreadable: failureOf(String(codeOf(error)), error instanceof Error ? error.message : String(error)),
  }));
  if (decoded === 'aborted') return 'aborted';
  if (decoded.unreadable) return no(header.suspicion ?? decoded.unreadable);
  const facts = decoded.facts && file.sequence ? sequenceFacts(decoded.facts, file.sequence) : decoded.facts;
  return named({ facts, unreadable: null, fingerprint }, file);
}

const isHowUnfinishedFilesLook = ({ code }: Unreadable): boolean =>
  code === 'truncated' || code === 'header-broken' || code === 'growing' || code === 'file-empty';

const otherContent = (content: Content | null): Unreadable | null =>
  content?.is === 'other' ? { code: 'not-media', detail: { code: 'is-other', what: content.what } } : null;

/** Numbered stills state no rate; the edit's counts. 25 is only what tools assume, so none is claimed. */
function sequenceFacts(facts: Facts, { first, last }: NonNullable<MediaFile['sequence']>): Facts {
  return { ...facts, kind: 'sequence', rate: null, start: first, length: last - first + 1 };
}

const containers: Readonly<Record<string, readonly string[]>> = {
  mov: ['mov'],
  mp4: ['mov'],
  m4v: ['mov'],
  m4a: ['mov'],
  mxf: ['mxf'],
  wav: ['wav'],
  bwf: ['wav'],
  mkv: ['matroska'],
  avi: ['avi'],
};
const filmContainers = ['mov', 'mxf', 'matroska', 'avi', 'mpegts', 'mpeg'];
const kindWords = { picture: 'film', sound: 'sound', still: 'a still picture', sequence: 'a still picture' } as const;

/** Holds a name against what was found: another kind of media is a reason, another container a doubt. */
function named(reading: Measured, file: FileToRead): Measured {
  const { facts } = reading;
  if (!facts) return reading;
  const extension = splitExtension(file.name).extension.toLowerCase().replace(/^\./, '');
  const promised = kindOfName(file.name);
  const isStill = facts.kind === 'still' || facts.kind === 'sequence';
  // Containers of film may well hold sound alone.
  const fits =
    promised === null ||
    promised === facts.kind ||
    (promised === 'still' && isStill) ||
    (promised === 'picture' && facts.kind === 'sound' && filmContainers.includes(facts.container));
  if (!fits) {
    const content = `${kindWords[facts.kind]} (${facts.codec})`;
    return { ...reading, facts: null, unreadable: { code: 'name-misleads', named: `.${extension}`, content } };
  }
  const expected = containers[extension];
  if (!expected || expected.includes(facts.container)) return reading;
  return { ...reading, facts: { ...facts, doubts: [...facts.doubts, 'name-misleads' satisfies Doubt] } };
}

function failureOf(code: string | null, detail: string): Unreadable {
  switch (code) {
    case 'EACCES':
    case 'EPERM':
      return { code: 'no-permission' };
    case 'ENOENT':
      // It went away after it was listed; whether for good the next walk tells.
      return { code: 'growing' };
    case 'outside-folder':
    case 'outside-roots':
    case 'link-leads-out':
    case 'not-a-file':
    case 'another-folder-there':
      return { code: 'outside-place' };
    default:
      return { code: 'decoder-gave-up', detail };
  }
}

const unreadable = (reason: Unreadable): Measured => ({ facts: null, unreadable: reason, fingerprint: null });
