import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import { comesBack } from '@legame/core/state';
import type { Member } from '@legame/core/contract';
import { attributeWords, listWords, statusWords } from '@legame/words/statuses';
import { EvidenceStrip } from './EvidenceStrip.tsx';

const rowHeight = 44;

/**
 * What an act would do, clip by clip: those that fit, with a tick to leave one out where `onLeave` is given, then those
 * that nearly do, and why not. A virtual list: it may be twenty thousand.
 */
export function MemberList({
  members,
  left,
  onLeave,
  canLeave = (m) => m.fits,
  label,
}: {
  members: readonly Member[];
  left?: ReadonlySet<string>;
  onLeave?: (clipId: string) => void;
  canLeave?: (member: Member) => boolean;
  label: string;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = [...members].sort((a, b) => rank(b) - rank(a));
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 10,
    initialRect: { width: 360, height: 600 },
  });
  return (
    <div ref={scroller} className="line-t min-h-0 flex-1 overflow-auto">
      <ul className="relative" style={{ height: virtual.getTotalSize() }} aria-label={label}>
        {virtual.getVirtualItems().map((item) => {
          const m = rows[item.index]!;
          const path = m.file ? [m.file.placeName, m.file.folder].filter(Boolean).join('/') : '';
          return (
            <li
              key={m.clipId}
              data-fits={m.fits}
              className="line-b absolute inset-x-0 flex items-center gap-2"
              style={{ height: rowHeight, top: item.start }}
            >
              {onLeave && canLeave(m) && (
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  aria-label={`link ${m.clipName}`}
                  checked={!left?.has(m.clipId)}
                  onChange={() => onLeave(m.clipId)}
                />
              )}
              <span className="min-w-0 flex-1">
                <span className="block truncate font-mono" title={m.clipName}>
                  {m.clipName}
                </span>
                <span
                  className={`block truncate text-[12px] ${m.fits ? 'text-quiet' : 'text-missing'}`}
                  title={m.file ? `${path}/${m.file.name}` : ''}
                >
                  {m.fits ? `→ ${m.file?.name === m.clipName ? path : (m.file?.name ?? '')}${staying(m)}` : reason(m)}
                </span>
              </span>
              {m.verdicts && <EvidenceStrip verdicts={m.verdicts} />}
            </li>
          );
        })}
      </ul>
    </div>
  );
}

const rank = (m: Member): number => (comesBack(m) ? 2 : m.fits ? 1 : 0);

function staying(m: Member): string {
  if (comesBack(m) || !m.after) return '';
  const offset = m.offset ? ': its timecode stands apart by a constant, see Timecode' : '';
  return ` · it would be ${statusWords[m.after.status]}${offset}`;
}

const leftOutWords: Readonly<Record<NonNullable<Member['leftOut']>, string>> = {
  choice: 'left out: several files may be it, choose',
  contested: 'left out: another recording would get the same file',
  'nothing-found': 'left out: nothing was found',
  'other-file': 'left out: another file is certain',
  pinned: 'left out: it is pinned',
  'taken-offline': 'left out: it was taken offline on purpose',
};

function reason({ file, differs, leftOut }: Member): string {
  if (leftOut) return leftOutWords[leftOut];
  if (!file) return 'no file';
  if (differs.length === 0) return `${file.name}: not enough speaks for it`;
  return `${file.name}: ${listWords(differs.map((a) => attributeWords[a]))} ${differs.length === 1 ? 'differs' : 'differ'}`;
}
