import { Download, FileUp, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useParams } from 'react-router';
import { formatRate, type RateProposal } from '@legame/core';
import type { DocumentView } from '@legame/core/contract';
import { api, exportUrl, problemOf } from '../../api/legame.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { bytes, clock, count, when } from '../../words/numbers.ts';
import { RateAsked } from './RateAsked.tsx';
import { RemarkList } from './RemarkList.tsx';

type Refused = { readonly file: File; readonly error: unknown };
const proposalsOf = ({ error }: Refused): RateProposal[] | null => {
  const problem = problemOf(error);
  return problem?.code === 'rate-needed' ? ((problem.problem?.proposals as RateProposal[] | undefined) ?? []) : null;
};

/** Brings documents in, and shows of each what was understood and what was not. */
export function IntakeView() {
  const { projectId = '' } = useParams();
  const documents = api.useDocumentsQuery(projectId);
  const [bringIn, bringing] = api.useBringInMutation();
  const [refused, setRefused] = useState<readonly Refused[]>([]);
  const [chosen, setChosen] = useState<string | null>(null);

  const take = async (file: File, rate?: string) => {
    setRefused((list) => list.filter((r) => r.file !== file));
    try {
      setChosen((await bringIn({ projectId, file, rate }).unwrap()).id);
    } catch (error) {
      setRefused((list) => [...list, { file, error }]);
    }
  };
  const drop = useDropzone({
    onDrop: (files) => {
      void (async () => {
        for (const file of files) await take(file);
      })();
    },
  });
  const shown = documents.data?.find((d) => d.id === chosen) ?? documents.data?.[0];

  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_380px]">
      <div className="min-h-0 overflow-auto p-4">
        <div
          {...drop.getRootProps()}
          className={`flex items-center gap-3 rounded border border-dashed px-4 py-5 ${drop.isDragActive ? 'border-primary bg-[var(--bond-wash)]' : 'border-base-content/40 bg-base-100'}`}
        >
          <input {...drop.getInputProps({ 'aria-label': 'documents to bring in' })} />
          <FileUp size={22} className="text-quiet" aria-hidden />
          <p className="flex-1">
            <b>Drop timelines here</b>
            <span className="block text-quiet">
              EDL (CMX 3600 layout) and OpenTimelineIO. Your documents are kept as they are, byte for byte.
            </span>
          </p>
          <button type="button" className="btn btn-plain btn-sm" disabled={bringing.isLoading}>
            Choose files…
          </button>
        </div>
        <div className="mt-3 flex flex-col gap-2">
          {refused.map((r) => {
            const proposals = proposalsOf(r);
            const dismiss = () => setRefused((list) => list.filter((other) => other !== r));
            return proposals ? (
              <RateAsked
                key={r.file.name}
                name={r.file.name}
                proposals={proposals}
                onChoose={(rate) => void take(r.file, rate)}
                onClose={dismiss}
              />
            ) : (
              <ProblemNote key={r.file.name} error={r.error} onClose={dismiss} />
            );
          })}
        </div>
        {!documents.data ? (
          <Waiting what="documents" error={documents.error} />
        ) : documents.data.length === 0 ? (
          <p className="mt-6 text-quiet">
            Nothing has been brought in yet. Drop the edit whose clips are dark: its timelines and clips appear here,
            with every line that was not understood.
          </p>
        ) : (
          <ul className="mt-4 flex flex-col gap-2" aria-label="documents">
            {documents.data.map((document) => (
              <li key={document.id}>
                <DocumentCard document={document} isShown={document === shown} onShow={() => setChosen(document.id)} />
              </li>
            ))}
          </ul>
        )}
      </div>
      <aside className="line-l min-h-0 overflow-auto bg-base-100 p-4">
        {shown ? (
          <RemarkList document={shown} />
        ) : (
          <p className="text-quiet">What was not understood in a document is listed here, line by line.</p>
        )}
      </aside>
    </div>
  );
}

function DocumentCard({ document, isShown, onShow }: { document: DocumentView; isShown: boolean; onShow: () => void }) {
  const [takeOut, taken] = api.useTakeOutMutation();
  const [asking, setAsking] = useState(false);
  const top = document.timelines.filter((t) => t.top);
  return (
    <article className={`sheet p-3 ${isShown ? 'border-primary' : ''}`}>
      <div className="flex items-start justify-between gap-3">
        <button type="button" className="min-w-0 flex-1 text-left" onClick={onShow}>
          <b className="text-[15px]">{document.title}</b>
          <span className="block truncate font-mono text-quiet">
            {document.name} · {document.format === 'otio' ? 'OpenTimelineIO' : 'EDL'} · {bytes(document.sizeInBytes)} ·{' '}
            {when(document.broughtInAt)}
          </span>
          <span className="mt-1 block">
            {count(document.clips, 'clip')}, {count(top.length, 'timeline')}
            {document.remarks.length > 0 ? (
              <span className="text-changed"> · {count(document.remarks.length, 'remark')}</span>
            ) : (
              <span className="text-linked"> · everything understood</span>
            )}
          </span>
        </button>
        <div className="flex shrink-0 gap-2">
          <a
            className="btn btn-plain btn-sm"
            href={exportUrl(document.id)}
            download
            title="The same document with only its media references changed"
          >
            <Download size={14} aria-hidden /> Export relinked
          </a>
          <button
            type="button"
            className="btn btn-plain btn-sm px-2"
            onClick={() => setAsking(!asking)}
            aria-label={`take ${document.name} out`}
            title="Take it out of the project"
          >
            <Trash2 size={14} />
          </button>
        </div>
      </div>
      <ul className="mt-2 flex flex-col gap-0.5">
        {document.timelines.map((timeline) => (
          <li key={timeline.name} className="flex gap-3">
            <span className={timeline.top ? '' : 'pl-4 text-quiet'}>{timeline.name}</span>
            <span className="font-mono text-quiet">
              {clock((timeline.lengthInFrames * timeline.rate.den) / timeline.rate.num)} · {formatRate(timeline.rate)}{' '}
              fps · {count(timeline.events, 'event')}
              {!timeline.top && ' · nested'}
            </span>
          </li>
        ))}
      </ul>
      {asking && (
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
            <button type="button" className="btn btn-plain btn-sm" onClick={() => setAsking(false)}>
              Keep
            </button>
          </span>
        </div>
      )}
      <ProblemNote error={taken.error} />
    </article>
  );
}
