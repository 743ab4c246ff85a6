import { parseRememberedPath } from '../paths/remembered.ts';
import type { Clip } from '../model/edit.ts';
import { rangeLength } from '../time/range.ts';
import { formatRate } from '../time/rate.ts';
import { formatPosition } from '../time/timecode.ts';

/** A used clip with what is known of its media. */
export type UsedClip = Pick<Clip, 'name' | 'reel' | 'remembered' | 'rate' | 'counting' | 'used'> & {
  readonly status: string;
  readonly uses: number;
  /** "PLACE/folder/name" of the file it is tied to. */
  readonly file: string | null;
  readonly sizeInBytes: number | null;
};

export const usedMediaHeaders = [
  'Clip',
  'Status',
  'Reel',
  'File in the edit',
  'Path in the edit',
  'File found',
  'Size in bytes',
  'Uses',
  'First used',
  'Last used',
  'Used frames',
  'Rate',
] as const;

/** The media that an edit uses, a row each: what it wants, what it has, and how much of it is used. */
export const usedMediaTable = (clips: readonly UsedClip[]): string[][] =>
  clips.map((clip) => {
    const at = (frames: number | undefined) =>
      frames === undefined ? '' : formatPosition(frames, clip.rate, clip.counting);
    return [
      clip.name,
      clip.status,
      clip.reel ?? '',
      clip.remembered ? parseRememberedPath(clip.remembered).name : '',
      clip.remembered ?? '',
      clip.file ?? '',
      clip.sizeInBytes === null ? '' : String(clip.sizeInBytes),
      String(clip.uses),
      at(clip.used[0]?.start),
      at(clip.used.at(-1)?.end),
      String(clip.used.reduce((sum, range) => sum + rangeLength(range), 0)),
      formatRate(clip.rate),
    ];
  });
