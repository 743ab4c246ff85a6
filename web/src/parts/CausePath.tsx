import type { CauseKind } from '@legame/core/match';
import { formatRate } from '@legame/core/time';
import { shiftsOf } from '@legame/words/causes';
import { MarkedDifference } from './PathText.tsx';

/** From where to where, with what changed marked; or a few of the clips by name. */
export function CausePath({ kind, samples }: { kind: CauseKind; samples: readonly string[] }) {
  const names = (
    <p className="mt-0.5 truncate font-mono text-quiet" title={samples.join(', ')}>
      {samples.slice(0, 4).join(' · ')}
      {samples.length > 4 ? ' …' : ''}
    </p>
  );
  if (kind.code === 'choice')
    return <p className="mt-0.5 font-mono [overflow-wrap:anywhere]">{kind.alternatives.join('  or  ')}</p>;
  if (kind.code !== 'displaced') return names;
  const { folder, timecode, rate } = kind;
  const shifts = timecode ? shiftsOf(timecode) : [];
  return (
    <>
      {folder && (
        <p className="mt-0.5 font-mono">
          {folder.from ? (
            <>
              <MarkedDifference text={folder.from} other={folder.to} /> →{' '}
            </>
          ) : (
            <span className="text-quiet">in </span>
          )}
          <MarkedDifference text={folder.to} other={folder.from} />
        </p>
      )}
      {shifts.length > 0 && (
        <p className="mt-0.5 font-mono">
          {shifts.slice(0, 6).map(({ label, shift }) => (
            <span key={label} className="mr-3">
              {label} <mark className="bg-mark text-inherit">{shift}</mark>
            </span>
          ))}
          {shifts.length > 6 && `and ${shifts.length - 6} more`}
        </p>
      )}
      {rate && (
        <p className="mt-0.5 font-mono">
          {formatRate(rate.edit)} → <mark className="bg-mark text-inherit">{formatRate(rate.file)}</mark>
        </p>
      )}
      {!folder && shifts.length === 0 && names}
    </>
  );
}
