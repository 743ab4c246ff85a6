import type { ClipDetail, ComparedLook, KeptPicture, WeighedFile } from '@legame/core/contract';
import { lookInShort, lookSentence } from '@legame/words/looks';
import { timecode, when } from '@legame/words/numbers';
import { useState } from 'react';
import { acts } from '../../api/acts.ts';
import { keptPictureUrl } from '../../api/legame.ts';
import type { Verdict } from '@legame/core/match';

/** The picture that is kept of a clip, where it is not what is seen anyway: what is found is of another file, or changed. */
export const keptBeside = (clip: ClipDetail, weighed: WeighedFile | null): KeptPicture | null =>
  clip.kept && !(clip.kept.isOfTied && clip.kept.mediaFileId === weighed?.file.id) ? clip.kept : null;

/** How the clip looked while it was linked. */
export function AsItWas({ clip, kept }: { clip: ClipDetail; kept: KeptPicture }) {
  const [failed, setFailed] = useState(false);
  const at = timecode(kept.address, clip.rate, clip.counting);
  return (
    <figure className="min-w-0" aria-label="as it was">
      <div className="flex h-28 items-center justify-center overflow-hidden rounded-[3px] bg-base-300">
        {failed ? (
          <span className="px-4 text-center text-quiet">the picture went to make room</span>
        ) : (
          <img
            src={keptPictureUrl(clip.id, kept)}
            alt={`${kept.fileName} at ${at}, as it was`}
            className="h-full w-full object-contain"
            onError={() => setFailed(true)}
          />
        )}
      </div>
      <figcaption className="mt-1 text-[12px] text-quiet" title={`${kept.fileName} at ${at}`}>
        as it was, <span className="font-mono">{at}</span>, {when(kept.takenAt)}
      </figcaption>
    </figure>
  );
}

const verdicts: Readonly<Record<NonNullable<ComparedLook['verdict']>, Verdict>> = {
  same: 'agrees',
  alike: 'nearly',
  other: 'differs',
};

/** Whether a file can be looked at now, to be held against the picture that is kept. */
export const canBeSeen = ({ facts, placeThere }: WeighedFile['file']): boolean =>
  facts !== null && facts.kind !== 'sound' && placeThere;

/** How a file looks beside the picture that is kept: evidence for the eye alone. */
export function LookRow({
  clip,
  weighed,
  signs,
}: {
  clip: ClipDetail;
  weighed: WeighedFile;
  signs: Readonly<Record<Verdict, string>>;
}) {
  const { data: look } = acts.useLookQuery({ clipId: clip.id, mediaFileId: weighed.file.id });
  if (!look) return null;
  const verdict = look.verdict === null ? 'unknown' : verdicts[look.verdict];
  return (
    <tr
      className="align-top"
      data-attribute="look"
      data-verdict={verdict}
      title="By light and dark of the two pictures. It proves nothing, and links nothing."
    >
      <td className="py-[3px] text-quiet">look</td>
      <td className="py-[3px] pr-2">as it was</td>
      <td className="py-[3px] pr-1">{lookSentence(look)}</td>
      <td className="py-[3px] text-right font-mono text-quiet" aria-label={verdict}>
        {signs[verdict]}
      </td>
    </tr>
  );
}

/** The same in two words, beside the name of a candidate. */
export function LookInShort({ clip, file }: { clip: ClipDetail; file: WeighedFile['file'] }) {
  const { data: look } = acts.useLookQuery({ clipId: clip.id, mediaFileId: file.id });
  return look?.verdict ? <span className="font-sans text-quiet"> {lookInShort[look.verdict]}</span> : null;
}
