import type { WeighedFile } from '@legame/core/contract';
import { storage } from '../../api/storage.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { count, when } from '@legame/words/numbers';
import { doubtWords, remedyWords, unreadableWords } from '@legame/words/storage';

/**
 * What is not sure about a file's facts, why it cannot be used, whether its bytes were proven. Of the tied
 * file the reason stands above already, as the clip's status.
 */
export function FileFacts({ weighed, isTied }: { weighed: WeighedFile; isTied: boolean }) {
  const { file } = weighed;
  const [hash, hashing] = storage.useHashFileMutation();
  const doubts = file.facts?.doubts ?? [];
  return (
    <div className="mt-2 flex flex-col gap-1">
      {file.unreadable && (
        <p className="[overflow-wrap:anywhere]">
          {!isTied && (
            <span className="block text-unreadable first-letter:uppercase">{unreadableWords(file.unreadable)}</span>
          )}
          <span className="text-quiet">{remedyWords(file.unreadable)}</span>
        </p>
      )}
      {file.sequence && (
        <p className={file.sequence.missing.length > 0 ? 'text-changed' : 'text-quiet'}>
          Frames {file.sequence.first}–{file.sequence.last}
          {file.sequence.missing.length > 0 &&
            `, of which ${count(file.sequence.missing.length, 'is missing', 'are missing')}: ${file.sequence.missing.slice(0, 12).join(', ')}${file.sequence.missing.length > 12 ? '…' : ''}`}
        </p>
      )}
      {doubts.length > 0 && <p className="text-changed">Not sure: {doubts.map((d) => doubtWords[d]).join('; ')}.</p>}
      <p className="text-[12px] text-quiet">
        {file.facts && `${file.facts.readBy === 'header' ? 'read from its header' : 'measured by a decoder'}`}
        {file.trial && ` · trial read ${when(file.trial.at)}: ${file.trial.state}`}
        {file.fullHash ? (
          <>
            {' · '}xxh64 <span className="font-mono">{file.fullHash}</span>
          </>
        ) : (
          file.fingerprint &&
          !file.sequence && (
            <>
              {' · '}
              <button
                type="button"
                className="underline underline-offset-2"
                disabled={hashing.isLoading || !file.placeThere}
                title={`Sampled fingerprint ${file.fingerprint}. A full hash proves every byte.`}
                onClick={() => void hash(file.id)}
              >
                {hashing.isSuccess ? 'hashing…' : 'hash it whole'}
              </button>
            </>
          )
        )}
      </p>
      <ProblemNote error={hashing.error} onClose={hashing.reset} />
    </div>
  );
}
