import { attributesInShort, type Verdict } from '@legame/core/match';
import type { ClipDetail, WeighedFile } from '@legame/core/contract';
import { CoverageRuler } from '../../parts/CoverageRuler.tsx';
import { MarkedDifference } from '../../parts/PathText.tsx';
import { findingWords } from '@legame/words/findings';
import { bytes, timecode } from '@legame/words/numbers';
import { attributeWords } from '@legame/words/statuses';
import { FileFacts } from './FileFacts.tsx';
import { Found } from './Found.tsx';
import { AsItWas, canBeSeen, keptBeside, LookRow } from './KeptPicture.tsx';

const signs: Readonly<Record<Verdict, string>> = { agrees: '=', nearly: '≈', differs: '≠', unknown: '?' };
const order: Readonly<Record<Verdict, number>> = { differs: 0, nearly: 1, agrees: 2, unknown: 3 };

/** Remembered beside found, what differs first; the picture at the first used frame; what the file covers. */
export function Compare({ clip, weighed }: { clip: ClipDetail; weighed: WeighedFile | null }) {
  const kept = keptBeside(clip, weighed);
  if (!weighed) {
    return (
      <>
        {kept && (
          <div className="mt-3">
            <AsItWas key={kept.takenAt} clip={clip} kept={kept} />
          </div>
        )}
        <dl className="mt-3 grid grid-cols-[80px_1fr] gap-y-1">
          <dt className="text-quiet">remembered</dt>
          <dd className="font-mono [overflow-wrap:anywhere]">{clip.remembered ?? 'no path'}</dd>
          {clip.reel && (
            <>
              <dt className="text-quiet">reel</dt>
              <dd className="font-mono">{clip.reel}</dd>
            </>
          )}
          {clip.available && (
            <>
              <dt className="text-quiet">timecode</dt>
              <dd className="font-mono">
                {timecode(clip.available.start, clip.rate, clip.counting)}–
                {timecode(clip.available.end, clip.rate, clip.counting)}
              </dd>
            </>
          )}
        </dl>
      </>
    );
  }
  const { file, holds } = weighed;
  // Of what is not known, only the main attributes take room.
  const rows = weighed.evidence
    .filter((e) => e.verdict !== 'unknown' || (attributesInShort as readonly string[]).includes(e.attribute))
    .sort((a, b) => order[a.verdict] - order[b.verdict]);
  return (
    <>
      <Found key={file.id} clip={clip} weighed={weighed} kept={kept} />
      <FileFacts weighed={weighed} isTied={clip.tied?.mediaFileId === file.id} />
      <table className="mt-2 w-full table-fixed text-left" aria-label="evidence in full">
        <thead>
          <tr className="text-quiet">
            <th className="w-[68px] font-normal" />
            <th className="font-semibold text-base-content">remembered</th>
            <th className="font-semibold text-base-content">found</th>
            <th className="w-5" />
          </tr>
        </thead>
        <tbody>
          {kept && canBeSeen(file) && <LookRow clip={clip} weighed={weighed} signs={signs} />}
          {rows.map((evidence) => {
            const words = findingWords(evidence, clip);
            const same = evidence.verdict === 'agrees' && words.edit === words.file;
            return (
              <tr
                key={evidence.attribute}
                className="align-top"
                title={words.sentence}
                data-attribute={evidence.attribute}
                data-verdict={evidence.verdict}
              >
                <td className="py-[3px] text-quiet">{attributeWords[evidence.attribute]}</td>
                <td className="py-[3px] pr-2 font-mono">
                  {evidence.verdict === 'unknown' && !words.edit ? (
                    ''
                  ) : (
                    <MarkedDifference text={words.edit} other={words.edit} />
                  )}
                </td>
                <td className="py-[3px] pr-1 font-mono">
                  {same ? (
                    <span className="font-sans text-quiet">same</span>
                  ) : evidence.verdict === 'unknown' ? (
                    <span className="font-sans text-quiet">{words.file || words.sentence}</span>
                  ) : (
                    <MarkedDifference text={words.file} other={words.edit} />
                  )}
                  {(evidence.verdict === 'nearly' || evidence.verdict === 'differs') && (
                    <span
                      className={`block font-sans text-[11.5px] ${evidence.verdict === 'differs' ? 'font-semibold text-missing' : 'text-quiet'}`}
                    >
                      {words.sentence}
                    </span>
                  )}
                </td>
                <td
                  className={`py-[3px] text-right font-mono ${evidence.verdict === 'differs' ? 'font-bold text-missing' : evidence.verdict === 'agrees' ? 'text-linked' : 'text-quiet'}`}
                  aria-label={evidence.verdict}
                >
                  {signs[evidence.verdict]}
                </td>
              </tr>
            );
          })}
          <tr className="align-top">
            <td className="py-[3px] text-quiet">file</td>
            <td className="py-[3px]" />
            <td className="py-[3px] font-mono">
              {bytes(file.sizeInBytes)}
              {file.facts && `, ${file.facts.codec}`}
              {file.sequence &&
                `, ${file.sequence.last - file.sequence.first + 1 - file.sequence.missing.length} frames`}
            </td>
            <td />
          </tr>
        </tbody>
      </table>
      <div className="mt-3">
        <CoverageRuler clip={clip} holds={holds} />
      </div>
    </>
  );
}
