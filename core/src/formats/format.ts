import type { Edit } from '../model/edit.ts';
import type { SequenceFrames } from '../model/media.ts';
import type { ReadFault, Remark } from '../remarks/remark.ts';
import type { Rate } from '../time/rate.ts';

export type FormatId = 'edl' | 'otio';

export type ReadOptions = {
  /** Needed by formats that state no rate; ignored by the others. */
  readonly rate?: Rate | undefined;
  /** The document's file name: the title where the document gives none. */
  readonly name: string;
};

export type ReadResult =
  | { readonly ok: true; readonly edit: Edit; readonly remarks: readonly Remark[] }
  | { readonly ok: false; readonly fault: ReadFault };

/** What a clip's references shall say from now on. The path uses "/"; relative ones are relative to the document. */
export type NewReference = { readonly path: string; readonly sequence: SequenceFrames | null };

/** One folder a format, the same parts in each. */
export type Format = {
  readonly id: FormatId;
  readonly title: string;
  readonly extensions: readonly string[];
  /** Whether this text is of this format, from its content; the file name does not count. */
  readonly detect: (text: string) => boolean;
  readonly read: (text: string, options: ReadOptions) => ReadResult;
  /** The same text with the references at these addresses (`Clip.addresses`) changed, and nothing else. */
  readonly relink: (text: string, changes: ReadonlyMap<string, NewReference>) => string;
};
