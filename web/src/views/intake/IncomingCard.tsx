import { X } from 'lucide-react';
import { noChoices, type Reading } from '@legame/core/formats';
import { formatRate } from '@legame/core/time';
import type { DocumentView } from '@legame/core/contract';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { bytes, clock, count, timecode } from '@legame/words/numbers';
import { formatWords, readFaultSentence } from '@legame/words/remarks';
import type { Preview } from '../../workers/documentReader.ts';
import { ColumnMap } from './ColumnMap.tsx';
import { ReadingChoices } from './ReadingChoices.tsx';
import { formerOf, type Incoming } from './useIncoming.ts';

/** A dropped file before it is brought in: what is in it, what has to be decided, and the word that brings it in. */
export function IncomingCard({
  incoming,
  documents,
  isShown,
  onShow,
  onDecide,
  onFormer,
  onBringIn,
  onLeave,
}: {
  incoming: Incoming;
  /** What is in the project already. */
  documents: readonly DocumentView[];
  isShown: boolean;
  onShow: () => void;
  onDecide: (part: Reading) => void;
  onFormer: (documentId: string | null) => void;
  onBringIn: () => void;
  onLeave: () => void;
}) {
  const { name, preview, reading } = incoming;
  const former = formerOf(incoming, documents);
  const fault = preview && !preview.ok ? preview.fault : null;
  const columns = preview?.ok ? preview.choices.columns : fault?.code === 'columns-needed' ? fault.columns : null;
  const choices = preview?.ok
    ? preview.choices
    : fault?.code === 'rate-needed'
      ? { ...noChoices, rates: fault.proposals }
      : noChoices;
  const isAsked = fault?.code === 'columns-needed' || fault?.code === 'rate-needed';
  return (
    <article
      className={`sheet border-l-[3px] p-3 ${fault && !isAsked ? 'border-l-error' : 'border-l-primary'} ${isShown ? 'border-primary' : ''}`}
      aria-label={`incoming ${name}`}
    >
      <div className="flex items-start justify-between gap-3">
        <button type="button" className="min-w-0 flex-1 text-left" onClick={onShow}>
          <span className="text-quiet">Not brought in yet</span>
          <b className="block text-[15px] [overflow-wrap:anywhere]">{name}</b>
          <span className="block">
            {!preview && `Reading ${bytes(incoming.sizeInBytes)}…`}
            {preview?.ok && <PreviewSummary preview={preview} sizeInBytes={incoming.sizeInBytes} />}
            {fault && <span className={isAsked ? '' : 'text-error'}>{readFaultSentence(fault)}</span>}
          </span>
        </button>
        <span className="flex shrink-0 gap-2">
          {(preview?.ok ?? true) && (
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={!preview?.ok || incoming.isGoing}
              onClick={onBringIn}
            >
              {former ? 'Bring in the newer version' : 'Bring in'}
              {reading.rate && choices.rates.length > 0 && ` at ${formatRate(reading.rate)} fps`}
            </button>
          )}
          <button
            type="button"
            className="btn btn-plain btn-sm px-2"
            onClick={onLeave}
            aria-label={`leave ${name}`}
            title="Leave it"
          >
            <X size={14} />
          </button>
        </span>
      </div>
      <div className="mt-2 flex flex-col gap-2.5 empty:hidden">
        <ReadingChoices name={name} choices={choices} reading={reading} onDecide={onDecide} />
        {columns && <ColumnMap columns={columns} onMap={(roles) => onDecide({ columns: roles })} />}
        {columns && preview?.ok && <Sample preview={preview} />}
        {preview?.ok && documents.length > 0 && (
          <label className="flex items-center gap-2">
            <span className="text-quiet">It is</span>
            <select
              className="select select-sm w-auto max-w-[34rem]"
              aria-label={`what ${name} is`}
              value={former?.id ?? ''}
              onChange={(e) => onFormer(e.target.value || null)}
            >
              <option value="">another document, beside those that are here</option>
              {documents.map((d) => (
                <option key={d.id} value={d.id}>
                  a newer version of {d.name}, keeping its links and decisions
                </option>
              ))}
            </select>
          </label>
        )}
        <ProblemNote error={incoming.error} />
      </div>
    </article>
  );
}

function PreviewSummary({ preview, sizeInBytes }: { preview: Preview & { ok: true }; sizeInBytes: number }) {
  const top = preview.timelines.filter((t) => t.top);
  const nested = preview.timelines.length - top.length;
  return (
    <>
      <span className="font-mono text-quiet">
        {formatWords[preview.format]} · {bytes(sizeInBytes)}
        {top.length > 0 && ` · ${top.map((t) => `${t.name} ${clock(t.seconds)}`).join(' · ')}`}
      </span>
      <span className="block">
        {count(preview.clips, 'clip')}
        {top.length > 0 && `, ${count(preview.events, 'event')} in ${count(top.length, 'timeline')}`}
        {nested > 0 && ` and ${count(nested, 'nest')}`}
        {preview.remarks.length > 0 ? (
          <span className="text-changed"> · {count(preview.remarks.length, 'remark')}</span>
        ) : (
          <span className="text-linked"> · everything understood</span>
        )}
      </span>
      {preview.mediaInside.length > 0 && (
        <span className="block text-quiet">
          {count(preview.mediaInside.length, 'media file')} of{' '}
          {bytes(preview.mediaInside.reduce((sum, f) => sum + f.sizeInBytes, 0))} stay in the bundle. To have them too,
          put it into a place, and unpack it there by “From a place…”.
        </span>
      )}
    </>
  );
}

/** The first clips as the mapping makes them. */
function Sample({ preview }: { preview: Preview & { ok: true } }) {
  return (
    <table className="w-full text-left" aria-label="first clips">
      <thead className="text-quiet">
        <tr>
          {['Clip', 'Reel', 'Start', 'End', 'Rate', 'Also noted'].map((h) => (
            <th key={h} className="pr-3 font-normal">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="font-mono">
        {preview.sample.map((clip, i) => (
          <tr key={i} className="line-t">
            <td className="py-0.5 pr-3 [overflow-wrap:anywhere]">{clip.name}</td>
            <td className="pr-3">{clip.reel ?? '–'}</td>
            <td className="pr-3">{clip.available ? timecode(clip.available.start, clip.rate, clip.counting) : '–'}</td>
            <td className="pr-3">{clip.available ? timecode(clip.available.end, clip.rate, clip.counting) : '–'}</td>
            <td className="pr-3">{formatRate(clip.rate)}</td>
            <td className="max-w-64 truncate" title={notes(clip.metadata)}>
              {notes(clip.metadata)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const notes = (metadata: Readonly<Record<string, string>>): string =>
  Object.entries(metadata)
    .map(([key, value]) => `${key}: ${value}`)
    .join(', ');
