import { Download, SlidersHorizontal, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { formatRate } from '@legame/core/time';
import type { DocumentView } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { bytes, clock, count, when } from '@legame/words/numbers';
import { formatWords } from '@legame/words/remarks';
import { ColumnMap } from './ColumnMap.tsx';
import { ExportPanel } from './ExportPanel.tsx';
import { ReadingChoices } from './ReadingChoices.tsx';

type Open = 'nothing' | 'export' | 'reading' | 'take-out';

/** A document of the project: what is in it, how it is read, and its way out again. */
export function DocumentCard({
  document,
  isShown,
  onShow,
}: {
  document: DocumentView;
  isShown: boolean;
  onShow: () => void;
}) {
  const [open, setOpen] = useState<Open>('nothing');
  const [takeOut, taken] = api.useTakeOutMutation();
  const toggle = (what: Open) => setOpen(open === what ? 'nothing' : what);
  const { choices } = document;
  const top = document.timelines.filter((t) => t.top);
  const hasChoices =
    choices.rates.length + choices.clipsBy.length + choices.referenceKeys.length + choices.outPoints.length > 0 ||
    choices.columns !== null;
  return (
    <article className={`sheet p-3 ${isShown ? 'border-primary' : ''}`} aria-label={document.name}>
      <div className="flex items-start justify-between gap-3">
        <button type="button" className="min-w-0 flex-1 text-left" onClick={onShow}>
          <b className="text-[15px]">{document.title}</b>
          <span className="block truncate font-mono text-quiet">
            {document.name} · {formatWords[document.format]} · {bytes(document.sizeInBytes)} ·{' '}
            {when(document.broughtInAt)}
          </span>
          <span className="mt-1 block">
            {count(document.clips, 'clip')}
            {top.length > 0 && `, ${count(top.length, 'timeline')}`}
            {document.bins > 0 && `, ${count(document.bins, 'bin')}`}
            {document.remarks.length > 0 ? (
              <span className="text-changed"> · {count(document.remarks.length, 'remark')}</span>
            ) : (
              <span className="text-linked"> · everything understood</span>
            )}
            {document.replacedAt && <span className="text-quiet"> · newer version, see what changed</span>}
          </span>
        </button>
        <div className="flex shrink-0 gap-2">
          {hasChoices && (
            <button
              type="button"
              className="btn btn-plain btn-sm px-2"
              aria-expanded={open === 'reading'}
              aria-label={`how ${document.name} is read`}
              title="How it is read"
              onClick={() => toggle('reading')}
            >
              <SlidersHorizontal size={14} />
            </button>
          )}
          <button
            type="button"
            className="btn btn-plain btn-sm"
            aria-expanded={open === 'export'}
            onClick={() => toggle('export')}
          >
            <Download size={14} aria-hidden /> Export…
          </button>
          <button
            type="button"
            className="btn btn-plain btn-sm px-2"
            onClick={() => toggle('take-out')}
            aria-label={`take ${document.name} out`}
            title="Take it out of the project"
          >
            <Trash2 size={14} />
          </button>
        </div>
      </div>
      <ul className="mt-2 flex flex-col gap-0.5 empty:hidden">
        {document.timelines.map((timeline) => (
          <li key={timeline.key} className="flex gap-3">
            <span className={timeline.top ? '' : 'pl-4 text-quiet'}>{timeline.name}</span>
            <span className="font-mono text-quiet">
              {clock((timeline.lengthInFrames * timeline.rate.den) / timeline.rate.num)} · {formatRate(timeline.rate)}{' '}
              fps{timeline.counting === 'drop' ? ' drop' : ''} · {count(timeline.events, 'event')}
              {!timeline.top && ' · nested'}
            </span>
          </li>
        ))}
      </ul>
      {open === 'reading' && <ReadOtherwise document={document} />}
      {open === 'export' && <ExportPanel document={document} />}
      {open === 'take-out' && (
        <div className="line-t mt-2 flex items-center justify-between gap-3 pt-2">
          <span>
            Its {count(document.clips, 'clip')} and their links leave the project. The file it came from is not touched.
          </span>
          <span className="flex gap-2">
            <button
              type="button"
              className="btn btn-error btn-sm"
              disabled={taken.isLoading}
              onClick={() => void takeOut(document.id)}
            >
              Take out
            </button>
            <button type="button" className="btn btn-plain btn-sm" onClick={() => setOpen('nothing')}>
              Keep
            </button>
          </span>
        </div>
      )}
      <ProblemNote error={taken.error} />
    </article>
  );
}

/** How it is read, and may be read otherwise. */
function ReadOtherwise({ document }: { document: DocumentView }) {
  const [readAgain, read] = api.useReadAgainMutation();
  const { choices, reading } = document;
  return (
    <section className="line-t mt-2 flex flex-col gap-2 pt-2" aria-label={`reading of ${document.name}`}>
      <p className="text-quiet">
        Read otherwise, clips that are still the same keep their links and decisions; the others keep theirs for when
        they come back.
      </p>
      <ReadingChoices
        name={document.name}
        choices={choices}
        reading={reading}
        onDecide={(part) => void readAgain({ documentId: document.id, reading: { ...reading, ...part } })}
      />
      {choices.columns && (
        <ColumnMap
          columns={choices.columns}
          onMap={(columns) => void readAgain({ documentId: document.id, reading: { ...reading, columns } })}
        />
      )}
      {read.isLoading && <p className="text-quiet">Reading it again…</p>}
      <ProblemNote error={read.error} onClose={read.reset} />
    </section>
  );
}
