import { Clock, Pin } from 'lucide-react';
import type { ClipRow } from '@legame/core/contract';
import { pictureUrl } from '../../api/legame.ts';
import { useAppSelector } from '../../app/store.ts';
import { PathText } from '../../parts/PathText.tsx';
import { statusSentence, whySentence } from '@legame/words/statuses';
import { unreadableWords } from '@legame/words/storage';
import { foundPath } from './rows.ts';

/** What the edit remembers: name, reel, folders, and what was decided of the clip. */
export function Remembered({ row }: { row: ClipRow }) {
  return (
    <>
      <span className="flex min-w-0 items-center gap-1 font-mono" title={row.fileName}>
        <span className="truncate">{row.fileName}</span>
        {row.pinned && <Pin size={12} className="shrink-0" role="img" aria-label="pinned" />}
        {row.interpreted && <Clock size={12} className="shrink-0" role="img" aria-label="timecode counted otherwise" />}
      </span>
      <span className="flex min-w-0 gap-1.5 text-[12px] text-quiet">
        {row.reel && <span className="shrink-0 font-mono">{row.reel}</span>}
        <PathText path={row.folder || 'no path'} />
      </span>
    </>
  );
}

/** What lies on the storage, with its picture where rows show pictures. */
export function OnStorage({ row }: { row: ClipRow }) {
  const pictures = useAppSelector((state) => state.preferences.mine.arePicturesShown);
  return (
    <span className="flex min-w-0 items-center gap-2">
      {pictures && <Thumbnail row={row} />}
      <Found row={row} />
    </span>
  );
}

/** A small picture of the tied file or the candidate, made when it is scrolled to. */
function Thumbnail({ row }: { row: ClipRow }) {
  const found = row.tied ?? row.candidate;
  const isShown =
    found && row.status.status !== 'missing' ? row.kind !== 'sound' : row.candidate && row.kind !== 'sound';
  if (!found || !isShown) return <span className="w-[58px] shrink-0" />;
  const source = pictureUrl({ id: found.mediaFileId, version: found.version }, 0, 160);
  return (
    <img
      // Not for a moment is another's picture to be seen in this row.
      key={source}
      src={source}
      alt=""
      loading="lazy"
      className="h-[33px] w-[58px] shrink-0 rounded-[2px] bg-base-300 object-cover"
    />
  );
}

/** What lies on the storage: the tied file, the candidate, or why there is none. */
function Found({ row }: { row: ClipRow }) {
  const found = row.tied ?? row.candidate;
  const needsWords =
    !found ||
    row.decision === 'refused' ||
    (row.why && ['several', 'contested', 'place-away', 'still-reading'].includes(row.why.code));
  if (!row.tied && needsWords && row.why) {
    return (
      <span className="line-clamp-2 min-w-0 text-quiet" title={whySentence(row.why)}>
        {whySentence(row.why)}
      </span>
    );
  }
  if (row.tied && row.status.status === 'unreadable') {
    const said = unreadableWords(row.status.reason);
    return (
      <span className="min-w-0">
        <span className="block truncate font-mono" title={row.tied.name}>
          {row.tied.name}
        </span>
        <span className="block truncate text-[12px] text-unreadable" title={said}>
          {said}
        </span>
      </span>
    );
  }
  // Tied, and not there: why counts for more than where.
  if (row.tied && row.status.status === 'missing') {
    const said = row.why?.code === 'place-away' ? whySentence(row.why) : statusSentence(row.status);
    return (
      <span className="line-clamp-2 min-w-0 text-quiet" title={said}>
        {said}
      </span>
    );
  }
  if (!found)
    return (
      <span className="text-quiet">
        {row.decision === 'not-matched-yet' ? 'being matched…' : statusSentence(row.status)}
      </span>
    );
  return (
    <span className="min-w-0">
      <span className="block truncate font-mono" title={found.name}>
        {found.name}
      </span>
      <span className="flex min-w-0 gap-1.5 text-[12px] text-quiet">
        {!row.tied && <span className="shrink-0">{row.certainty ?? 'refused'}:</span>}
        <PathText path={foundPath(row)} />
      </span>
    </span>
  );
}
