import type { ComparedPictures, WeighedFile } from '@legame/core/contract';
import { acts } from '../../api/acts.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { count } from '@legame/words/numbers';

/** Two candidates that agree in all that is known: whether they show the same at the same timecode. */
export function ComparePictures({ one, other }: { one: WeighedFile; other: WeighedFile }) {
  const [compare, compared] = acts.useLazyComparePicturesQuery();
  const isPicture = [one, other].every(({ file }) => file.facts?.kind === 'picture' || file.facts?.kind === 'sequence');
  if (!isPicture) return null;
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-2">
      <button
        type="button"
        className="btn btn-plain btn-xs"
        disabled={compared.isFetching}
        onClick={() => void compare({ one: one.file.id, other: other.file.id })}
      >
        {compared.isFetching ? 'Comparing…' : 'Compare their pictures'}
      </button>
      {compared.data && <span role="status">{comparedWords(compared.data)}</span>}
      <ProblemNote error={compared.error} />
    </div>
  );
}

function comparedWords({ together, frames }: ComparedPictures): string {
  const at = `${count(frames.length, 'frame')} at the same timecode`;
  switch (together) {
    case 'same':
      return `The first two show the same in ${at}: either will do.`;
    case 'regraded':
      return `The first two show the same shapes in another light, perhaps two grades of one recording. Compared: ${at}.`;
    case 'other':
      return `The first two show different pictures at the same timecode: two recordings. Compared: ${at}.`;
    case null:
      return 'They share no frame that could be decoded.';
  }
}
