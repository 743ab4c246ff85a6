import { attributesInShort, type Attribute, type Verdict } from '@legame/core/match';
import { attributeWords, verdictWords } from '@legame/words/statuses';

/** One letter an attribute; H for the rate, that is Hertz, for R is the reel's. */
const letters: Partial<Record<Attribute, string>> = {
  name: 'N',
  folder: 'F',
  reel: 'R',
  timecode: 'T',
  length: 'L',
  rate: 'H',
  raster: 'S',
  content: 'C',
};

const fills: Readonly<Record<Verdict, string>> = {
  agrees: 'bg-primary border-primary text-primary-content',
  nearly: 'bg-[var(--bond-wash)] border-primary/60 text-base-content',
  differs:
    'border-missing text-missing bg-[repeating-linear-gradient(135deg,transparent_0_3px,color-mix(in_srgb,currentColor_28%,transparent)_3px_4.5px)]',
  unknown: 'border-base-300 text-quiet',
};

/**
 * One cell an attribute, in fixed order. A tick of a line above the letter tells verdicts apart without colour: full
 * for agrees, half for nearly, hatching for differs, nothing for unknown.
 */
export function EvidenceStrip({
  verdicts,
  sentences,
}: {
  verdicts: readonly Verdict[];
  sentences?: readonly string[] | undefined;
}) {
  return (
    <span className="inline-flex gap-[2px]" role="list" aria-label="evidence">
      {attributesInShort.map((attribute, i) => {
        const verdict = verdicts[i] ?? 'unknown';
        const said = sentences?.[i];
        const label = `${attributeWords[attribute]}: ${said ?? verdictWords[verdict]}`;
        return (
          <span
            key={attribute}
            role="listitem"
            title={label}
            aria-label={label}
            data-verdict={verdict}
            className={`inline-flex h-4 w-4 items-center justify-center rounded-[2px] border font-mono text-[9.5px]! leading-none ${fills[verdict]} ${verdict === 'nearly' ? 'border-dashed' : ''}`}
          >
            {letters[attribute]}
          </span>
        );
      })}
    </span>
  );
}

export function EvidenceLegend() {
  return (
    <p className="text-[11.5px] text-quiet">
      {attributesInShort.map((a) => `${letters[a]} ${attributeWords[a]}`).join(' · ')}. Filled agrees, dashed nearly
      agrees, hatched differs, empty is not known.
    </p>
  );
}
