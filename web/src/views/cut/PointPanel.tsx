import { findingWords } from '@legame/words/findings';
import { count } from '@legame/words/numbers';
import { attributeWords, verdictWords } from '@legame/words/statuses';
import { api } from '../../api/legame.ts';
import { EvidenceStrip } from '../../parts/EvidenceStrip.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { attributesInShort } from '@legame/core/match';
import type { Beneath } from './beneath.ts';

/** What speaks for and against a file before a clip is pointed to it; nothing is linked until somebody says so. */
export function PointPanel({
  projectId,
  clipId,
  to,
  onClose,
}: {
  projectId: string;
  clipId: string;
  to: Beneath;
  onClose: () => void;
}) {
  const mediaFileId = to.recording.media!.id;
  // Of the two that are meant now: another thread may be in hand than a moment ago.
  const asked = { clip: api.useClipQuery(clipId), weighed: api.useWeighQuery({ clipId, mediaFileId }) };
  const [clip, weighed] = [asked.clip.currentData, asked.weighed.currentData];
  const [link, linked] = api.useLinkMutation();
  // In the order of the strip, whatever was weighed.
  const strip = attributesInShort.map((attribute) => weighed?.evidence.find((e) => e.attribute === attribute));
  return (
    <section className="sheet w-[230px] p-3 text-[12.5px] shadow-lg" aria-label="point by hand">
      {clip && weighed ? (
        <>
          <p className="[overflow-wrap:anywhere]">
            Point <b className="font-mono">{clip.fileName}</b> to <b className="font-mono">{to.recording.fileName}</b>?
          </p>
          <p className="my-1.5">
            <EvidenceStrip
              verdicts={strip.map((e) => e?.verdict ?? 'unknown')}
              sentences={strip.map((e) => (e ? findingWords(e, clip).sentence : verdictWords.unknown))}
            />
          </p>
          <ul className="mb-2">
            {weighed.evidence
              .filter((e) => e.verdict === 'differs')
              .map((e) => (
                <li key={e.attribute} className="text-missing">
                  {attributeWords[e.attribute]}: {findingWords(e, clip).sentence}
                </li>
              ))}
            {weighed.evidence.every((e) => e.verdict !== 'differs') && <li>Nothing speaks against it.</li>}
          </ul>
          {clip.usesInFull.length > 1 && (
            <p className="mb-2 text-quiet">All {count(clip.usesInFull.length, 'use')} of it follow.</p>
          )}
          <ProblemNote error={linked.error} onClose={linked.reset} />
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={linked.isLoading}
              onClick={() =>
                void link({ projectId, by: 'hand', links: [{ clipId, mediaFileId }] })
                  .unwrap()
                  .then(onClose)
                  .catch(() => undefined)
              }
            >
              Link
            </button>
            <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
              Leave it
            </button>
          </div>
        </>
      ) : (
        <Waiting what="the evidence" error={asked.clip.error ?? asked.weighed.error ?? null} />
      )}
    </section>
  );
}
