import type { ClipDetail, CutRecording } from '@legame/core/contract';
import { countingRate } from '@legame/core/model';
import { frameOfFile, frameRead } from '@legame/core/state';
import { uncoveredFrames, type FrameRange, type Rate } from '@legame/core/time';
import type { Sight } from './sight.ts';

type Use = CutRecording['uses'][number];

/** All frames that a recording's ruler shows: what is there or expected, and what is read. */
export function rulerOf({
  holds,
  expected,
  uses,
}: Pick<CutRecording, 'holds' | 'expected' | 'uses'>): FrameRange | null {
  const all = [...(holds ? [holds] : expected ? [expected] : []), ...uses.map((u) => u.source)];
  if (all.length === 0) return null;
  return { start: Math.min(...all.map((r) => r.start)), end: Math.max(...all.map((r) => r.end)) };
}

/** The frame that is shown, from the file's first: in its own count, and as the edit counts. */
type FrameShown = { readonly inFile: number; readonly inEdit: number };

/** Which frame of the linked file a timeline shows at a frame; null where that is not known, or lies outside of the file. */
export function frameShown(
  use: Use,
  at: number,
  timelineRate: Rate,
  { rate, media, lengthInFile }: Pick<CutRecording, 'rate' | 'media' | 'lengthInFile'>,
): FrameShown | null {
  if (use.firstFrameInFile === null) return null;
  const inEdit = use.firstFrameInFile + frameRead(use, at, timelineRate, rate);
  const inFile = frameOfFile(inEdit, rate, media?.rate ?? null);
  return lengthInFile !== null && (inFile < 0 || inFile >= lengthInFile) ? null : { inFile, inEdit };
}

/** What hangs beneath: a clip's own recording, or a file that could be it. */
export type Beneath = { readonly recording: CutRecording; readonly isCandidate: boolean };

/** A use that is drawn as a thread, and how far down its event ends. */
export type Hung = { readonly use: Use; readonly y: number };

/** Whether some of a use is in sight. */
export const isShownIn = ({ record }: Use, { from, to }: Sight): boolean =>
  record.end > record.start && record.start < to && record.end > from;

/** The files that could be a clip's, as they would hang beneath it: the same reads, on what each holds. */
export function candidatesBeneath(
  own: CutRecording,
  { candidatesInFull }: Pick<ClipDetail, 'candidatesInFull'>,
): Beneath[] {
  return candidatesInFull
    .filter(({ file }) => file.id !== own.media?.id && !file.gone)
    .slice(0, mostCandidates)
    .map(({ file, holds }) => ({
      isCandidate: true,
      recording: {
        ...own,
        fileName: file.name,
        where: [file.placeName, file.folder].filter(Boolean).join('/'),
        holds,
        media: { id: file.id, version: file.version, rate: file.facts && countingRate(file.facts) },
        lengthInFile: file.facts?.length ?? null,
        uses: own.uses.map((use) => ({
          ...use,
          uncoveredInFrames: holds && uncoveredFrames(use.source, holds),
          firstFrameInFile: null,
        })),
      },
    }));
}
const mostCandidates = 3;
