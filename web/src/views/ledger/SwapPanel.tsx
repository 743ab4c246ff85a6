import type { ClipDetail, WeighedFile } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { ActPanel } from '../../parts/ActPanel.tsx';
import { findingWords } from '@legame/words/findings';
import { count } from '@legame/words/numbers';
import { attributeWords } from '@legame/words/statuses';

/** Deliberately ties a clip to other content: first it says everything that differs. */
export function SwapPanel({
  projectId,
  clip,
  weighed,
  onClose,
}: {
  projectId: string;
  clip: ClipDetail;
  weighed: WeighedFile;
  onClose: () => void;
}) {
  const [link, linked] = api.useLinkMutation();
  const differing = weighed.evidence.filter((e) => e.verdict === 'differs');
  return (
    <ActPanel
      label="swap"
      title={
        <>
          Swap <span className="font-mono">{clip.fileName}</span> to other content
        </>
      }
      verb="Swap it"
      isPossible
      asked={linked}
      onAct={() => link({ projectId, by: 'swap', links: [{ clipId: clip.id, mediaFileId: weighed.file.id }] }).unwrap()}
      onClose={onClose}
      evidence={false}
    >
      <p className="mt-1">
        This is not what the edit remembers. {count(clip.uses, 'use')} of it would show{' '}
        <span className="font-mono [overflow-wrap:anywhere]">{weighed.file.name}</span> instead.
      </p>
      <table className="mt-2 w-full table-fixed text-left">
        <thead>
          <tr className="text-quiet">
            <th className="w-[72px] font-normal">differs in</th>
            <th className="font-normal">remembered</th>
            <th className="font-normal">would be</th>
          </tr>
        </thead>
        <tbody>
          {differing.map((evidence) => {
            const words = findingWords(evidence, clip);
            return (
              <tr key={evidence.attribute} className="line-b align-top">
                <td className="py-1 text-missing">{attributeWords[evidence.attribute]}</td>
                <td className="py-1 font-mono [overflow-wrap:anywhere]">{words.edit}</td>
                <td className="py-1 font-mono [overflow-wrap:anywhere]">
                  {words.file}
                  <span className="block font-sans text-[11.5px] text-quiet">{words.sentence}</span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {weighed.uncoveredInFrames > 0 && (
        <p className="mt-2 text-missing">{count(weighed.uncoveredInFrames, 'used frame')} would lie outside it.</p>
      )}
      <p className="mt-2 text-quiet">No edit decision changes. It is written down as a swap, and undo is one step.</p>
    </ActPanel>
  );
}
