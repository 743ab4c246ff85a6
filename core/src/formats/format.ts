import type { Edit } from '../model/edit.ts';
import type { SequenceFrames } from '../model/media.ts';
import type { ColumnRole, LogColumns, RateProposal, ReadFault, Remark } from '../remarks/remark.ts';
import type { FrameRange } from '../time/range.ts';
import type { Rate } from '../time/rate.ts';

export const formatIds = ['edl', 'otio', 'log'] as const;
export type FormatId = (typeof formatIds)[number];

/** By what the events of a list are gathered into clips. */
export const groupings = ['reel-and-name', 'stretch', 'reel', 'clip-name', 'source-file'] as const;
export type Grouping = (typeof groupings)[number];

/** The decisions of a person about how a document is read. They are kept with it. */
export type Reading = {
  /** Needed by formats that state no rate; ignored by the others. */
  readonly rate?: Rate | undefined;
  /** EDL. By reel and name where nothing is said. */
  readonly clipsBy?: Grouping | undefined;
  /** OTIO: which of several media references of a clip counts, where it is there; else each clip's active one. */
  readonly referenceKey?: string | undefined;
  /** Shot log: what each column means, in order. */
  readonly columns?: readonly ColumnRole[] | undefined;
  /** Shot log: its out points name the last frame, not the one after it. */
  readonly outIsLastFrame?: boolean | undefined;
};

export type ReadOptions = Reading & {
  /** The document's file name: the title where the document gives none. */
  readonly name: string;
  /** The folder in which the document lies, absolute, when known; relative references are resolved against it. */
  readonly folder?: string | undefined;
  /** Rates of the project's other timelines, for the proposals. */
  readonly otherRates?: readonly Rate[] | undefined;
};

/** What a person can decide about the reading, with what each answer would mean. */
export type Choices = {
  readonly rates: readonly RateProposal[];
  readonly clipsBy: readonly { readonly grouping: Grouping; readonly clips: number }[];
  readonly referenceKeys: readonly { readonly key: string; readonly clips: number }[];
  readonly columns: LogColumns | null;
  /** What out points may mean, and how many of the log's own durations say so. */
  readonly outPoints: readonly OutPoints[];
};
export type OutPoints = { readonly isLastFrame: boolean; readonly agree: number; readonly of: number };
export const noChoices: Choices = { rates: [], clipsBy: [], referenceKeys: [], columns: null, outPoints: [] };

export type ReadResult =
  | { readonly ok: true; readonly edit: Edit; readonly remarks: readonly Remark[]; readonly choices: Choices }
  | { readonly ok: false; readonly fault: ReadFault };

/** What a clip's references shall say from now on. The path uses "/"; relative ones are relative to the document. */
export type NewReference = {
  readonly path: string;
  readonly sequence: SequenceFrames | null;
  /** The clip's rate, for formats whose references to image sequences state one. */
  readonly rate?: Rate | undefined;
  /** What the media holds, in frames at `rate`, where that is other than it was; absent leaves what is said. */
  readonly available?: FrameRange | undefined;
  /** A reel to write as well, where the format has a field for it; absent leaves it. */
  readonly reel?: string | undefined;
};

/** Which part of an edit to write: one timeline, and one track of it, for formats that hold no more. */
export type WriteScope = { readonly timelineKey?: string | undefined; readonly track?: string | undefined };

/** One folder a format, the same parts in each. */
export type Format = {
  readonly id: FormatId;
  readonly title: string;
  readonly extensions: readonly string[];
  /** Whether this text is of this format, from its content; the file name does not count. */
  readonly detect: (text: string) => boolean;
  readonly read: (text: string, options: ReadOptions) => ReadResult;
  /** The edit as a new document of this format. What the format cannot hold is left out; `write` never changes the edit. */
  readonly write: (edit: Edit, scope?: WriteScope) => string;
  /** The same text with the references at these addresses (`Clip.addresses`) changed, and nothing else. */
  readonly relink: (text: string, changes: ReadonlyMap<string, NewReference>, reading: Reading) => string;
};
