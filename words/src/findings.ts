import type { Evidence, Finding, SoundForm } from '@legame/core/match';
import type { Raster } from '@legame/core/model';
import { formatRate, type Counting, type FrameRange, type Rate } from '@legame/core/time';
import { bytes, count, timecode } from './numbers.ts';

type Clip = { readonly rate: Rate; readonly counting: Counting };
const span = (r: FrameRange, { rate, counting }: Clip) =>
  `${timecode(r.start, rate, counting)}–${timecode(r.end, rate, counting)}`;
const soundForm = ({ channels, sampleRate }: SoundForm) =>
  [channels !== null && count(channels, 'channel'), sampleRate !== null && `${sampleRate} Hz`]
    .filter(Boolean)
    .join(', ');
const day = (ms: number) => new Date(ms).toISOString().slice(0, 19).replace('T', ' ');
const raster = (r: Raster) => `${r.width} × ${r.height}`;

export type Compared = { readonly edit: string; readonly file: string; readonly sentence: string };

/** What was compared, side by side, and what came out, in words. */
export function findingWords({ finding, attribute }: Evidence, clip: Clip): Compared {
  const say = (edit: string, file: string, sentence: string): Compared => ({ edit, file, sentence });
  const f: Finding = finding;
  switch (f.code) {
    case 'name-equal':
      return say(f.edit, f.file, 'the same name');
    case 'name-case':
      return say(f.edit, f.file, 'the same name but for capital letters');
    case 'name-unicode':
      return say(f.edit, f.file, 'the same name, written in another Unicode form');
    case 'name-extension':
      return say(f.edit, f.file, 'the same name with another ending');
    case 'name-added':
      return say(
        f.edit,
        f.file,
        [
          f.before && `“${f.before}” added in front`,
          f.between && `“${f.between}” put in between`,
          f.after && `“${f.after}” added behind`,
        ]
          .filter(Boolean)
          .join(', '),
      );
    case 'name-copy':
      return say(f.edit, f.file, `“${f.mark}” behind the name, as second copies get`);
    case 'name-inside':
      return say(f.edit, f.file, `the ${f.of === 'clip' ? "clip's own name" : 'reel'} stands in the file's name`);
    case 'name-similar':
      return say(f.edit, f.file, `a similar name: ${f.hundredths} of 100 letters stay`);
    case 'name-sequence':
      return say(f.edit, f.file, 'the image sequence that the edit names');
    case 'name-version':
      return say(f.edit, f.file, 'the same name but for its version: perhaps another grade, mix or composite');
    case 'name-in-other-folder':
      return say(f.edit, f.file, 'the same name in a folder of another number, and a start that many have');
    case 'name-version-untold':
      return say(
        f.edit,
        f.file,
        'the same name; of the two folders one alone tells a version, so that it may be another',
      );
    case 'name-number':
      return say(f.edit, f.file, 'the same words with another number, which is another thing');
    case 'name-differs':
      return say(f.edit, f.file, 'another name');
    case 'folder-levels':
      return say(
        f.edit,
        f.file,
        f.levels === 0
          ? 'no folder level agrees'
          : f.levels >= f.of
            ? 'all folder levels agree'
            : `${count(f.levels, 'folder level')} of ${f.of} ${f.levels === 1 ? 'agrees' : 'agree'}`,
      );
    case 'folder-beside':
      return say(f.edit, f.file, 'the folder of another camera, eye or channel, which may have rolled at once');
    case 'reel-equal':
      return say(f.edit, f.file, 'the same reel');
    case 'reel-case':
      return say(f.edit, f.file, 'the same reel but for capital letters');
    case 'reel-spelling':
      return say(f.edit, f.file, 'the same reel but for punctuation');
    case 'reel-truncated':
      return say(f.edit, f.file, 'the same reel, cut to 8 characters');
    case 'reel-in-path':
      return say(
        f.edit,
        f.file,
        `the file states no reel, but its ${f.where === 'file' ? 'name' : 'folder'} “${f.file}” names it`,
      );
    case 'reel-in-name':
      return say(f.edit, f.file, 'the edit states no reel, but the name of its clip begins with the file’s');
    case 'reel-differs':
      return say(f.edit, f.file, 'another reel');
    case 'start-equal':
      return say(span(f.edit, clip), span(f.file, clip), 'both start at the same timecode');
    case 'start-within-a-frame':
      return say(span(f.edit, clip), span(f.file, clip), 'both start at the same timecode, within one frame');
    case 'start-differs':
      return say(span(f.edit, clip), span(f.file, clip), 'as long, and begun at another moment');
    case 'both-count-from-zero':
      return say(
        span(f.edit, clip),
        span(f.file, clip),
        'the file carries no timecode; both count from their first frame, as many files do',
      );
    case 'used-inside':
      return say(span(f.edit, clip), span(f.file, clip), 'all used frames lie inside the file');
    case 'used-partly':
      return say(
        span(f.edit, clip),
        span(f.file, clip),
        `${count(f.uncoveredInFrames, 'frame')} of the used range ${f.uncoveredInFrames === 1 ? 'lies' : 'lie'} outside the file`,
      );
    case 'used-outside':
      return say(
        span(f.edit, clip),
        span(f.file, clip),
        f.uncoveredInFrames === 1
          ? 'the one used frame lies outside the file'
          : `all ${count(f.uncoveredInFrames, 'used frame')} lie outside the file`,
      );
    case 'length-equal':
      return say(count(f.inFrames, 'frame'), count(f.inFrames, 'frame'), 'the same length');
    case 'length-within-a-frame':
      return say(count(f.inFrames, 'frame'), count(f.inFrames, 'frame'), 'the same length, within one frame');
    case 'length-differs':
      return say(
        count(f.edit, 'frame'),
        count(f.file, 'frame'),
        `${count(Math.abs(f.edit - f.file), 'frame')} ${f.file < f.edit ? 'shorter' : 'longer'}`,
      );
    case 'length-differs-covers':
      return say(
        count(f.edit, 'frame'),
        count(f.file, 'frame'),
        `${count(Math.abs(f.edit - f.file), 'frame')} ${f.file < f.edit ? 'shorter' : 'longer'}; all that is used is in it`,
      );
    case 'rate-equal':
      return say(formatRate(f.edit), formatRate(f.file), 'the same rate');
    case 'rate-nominal':
      return say(formatRate(f.edit), formatRate(f.file), 'the same timecode count at another speed');
    case 'rate-varies':
      return say(formatRate(f.edit), formatRate(f.file), 'the file’s rate varies; this is its mean');
    case 'rate-differs':
      return say(formatRate(f.edit), formatRate(f.file), 'another rate');
    case 'raster-equal':
      return say(raster(f.edit), raster(f.file), 'the same size');
    case 'raster-scaled':
      return say(raster(f.edit), raster(f.file), 'the same shape at another size: perhaps a small copy');
    case 'raster-differs':
      return say(raster(f.edit), raster(f.file), 'another shape');
    case 'content-equal':
      return say(f.edit, f.file, f.by === 'hash' ? 'the same bytes, all of them' : 'the same bytes, by fingerprint');
    case 'content-differs':
      return say(f.edit, f.file, 'other bytes');
    case 'kind-equal':
      return say(f.edit, f.file, 'the same kind of media');
    case 'kind-sequence':
      return say(f.edit, f.file, 'another kind that can show or sound the same');
    case 'kind-differs':
      return say(f.edit, f.file, 'another kind of media');
    case 'codec-equal':
      return say(f.edit, f.file, 'the same codec');
    case 'codec-differs':
      return say(f.edit, f.file, 'another codec');
    case 'sound-equal':
      return say(soundForm(f.edit), soundForm(f.file), 'the same channels and sample rate');
    case 'sound-partly':
      return say(soundForm(f.edit), soundForm(f.file), 'the same, as far as both are known');
    case 'sound-differs':
      return say(soundForm(f.edit), soundForm(f.file), 'other channels or another sample rate');
    case 'size-equal':
      return say(bytes(f.edit), bytes(f.file), 'the same size, to the byte');
    case 'size-differs':
      return say(
        bytes(f.edit),
        bytes(f.file),
        `${count(Math.abs(f.edit - f.file), 'byte')} ${f.file < f.edit ? 'smaller' : 'larger'}`,
      );
    case 'date-equal':
      return say(day(f.edit), day(f.file), 'written at the same time');
    case 'date-within-two-seconds':
      return say(day(f.edit), day(f.file), 'written at the same time, within two seconds');
    case 'date-differs':
      return say(day(f.edit), day(f.file), 'written at another time');
    case 'edit-says-nothing':
      return say('not stated', '', `the edit states no ${attribute}`);
    case 'file-says-nothing':
      return say('', 'not stated', `the file states no ${attribute}`);
    case 'not-read-yet':
      return say('', 'being read', 'the file has not been read yet');
    case 'does-not-apply':
      return say('–', '–', `${attribute} does not apply to this kind of media`);
    default:
      return f satisfies never;
  }
}
