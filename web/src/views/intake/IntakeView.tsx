import type { DocumentView } from '@legame/core/contract';
import { FileUp } from 'lucide-react';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useParams } from 'react-router';
import { api } from '../../api/legame.ts';
import { useAsked } from '../../session/useAsked.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { ChangesList } from './ChangesList.tsx';
import { DocumentCard } from './DocumentCard.tsx';
import { FromPlace } from './FromPlace.tsx';
import { IncomingCard } from './IncomingCard.tsx';
import { RemarkList } from './RemarkList.tsx';
import { useIncoming } from './useIncoming.ts';
import { WatchedFolder } from './WatchedFolder.tsx';

/** Brings documents in: read and shown as soon as they are dropped, in the project when a person says so. */
export function IntakeView() {
  const { projectId = '' } = useParams();
  const documents = api.useDocumentsQuery(projectId);
  const known = documents.data ?? [];
  const incoming = useIncoming(projectId, known);
  const [chosen, setChosen] = useAsked('document');
  const [isLooking, setIsLooking] = useState(false);
  const [side, setSide] = useState<Side>('remarks');
  const drop = useDropzone({ onDrop: (files) => void incoming.add(files) });

  const arriving = incoming.list.find((i) => i.token === chosen) ?? (chosen ? undefined : incoming.list.at(-1));
  const shown = arriving ? undefined : (known.find((d) => d.id === chosen) ?? known[0]);
  const ready = incoming.list.filter((i) => i.preview?.ok && !i.isGoing);
  const bringIn = async (list: typeof incoming.list) => {
    for (const one of list) {
      const document = await incoming.bringIn(one);
      if (!document) continue;
      setChosen(document.id);
      setSide(document.replacedAt ? 'changes' : 'remarks');
    }
  };
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_340px]">
      <div className="min-h-0 overflow-auto p-4">
        <div
          {...drop.getRootProps()}
          className={`flex items-center gap-3 rounded border border-dashed px-4 py-4 ${drop.isDragActive ? 'border-primary bg-[var(--bond-wash)]' : 'border-base-content/40 bg-base-100'}`}
        >
          <input {...drop.getInputProps({ 'aria-label': 'documents to bring in' })} />
          <FileUp size={22} className="text-quiet" aria-hidden />
          <p className="flex-1">
            <b>Drop timelines and logs here</b>
            <span className="block text-quiet">
              EDL, OpenTimelineIO and its bundles, shot logs as CSV or TSV. They are shown first, and kept byte for
              byte.
            </span>
          </p>
          <button type="button" className="btn btn-plain btn-sm">
            Choose files…
          </button>
          <button
            type="button"
            className="btn btn-plain btn-sm"
            aria-expanded={isLooking}
            onClick={(event) => {
              event.stopPropagation();
              setIsLooking(!isLooking);
            }}
          >
            From a place…
          </button>
        </div>
        {isLooking && (
          <FromPlace
            projectId={projectId}
            documents={known}
            onClose={() => setIsLooking(false)}
            onBroughtIn={(id) => {
              setIsLooking(false);
              setChosen(id);
            }}
          />
        )}
        <WatchedFolder
          projectId={projectId}
          onBroughtIn={(id) => {
            setChosen(id);
            setSide('changes');
          }}
        />
        {incoming.list.length > 0 && (
          <section className="mt-3 flex flex-col gap-2" aria-label="not brought in yet">
            {ready.length > 1 && (
              <button type="button" className="btn btn-primary btn-sm self-start" onClick={() => void bringIn(ready)}>
                Bring in all {ready.length}
              </button>
            )}
            {incoming.list.map((one) => (
              <IncomingCard
                key={one.token}
                incoming={one}
                documents={known}
                isShown={one === arriving}
                onShow={() => setChosen(one.token)}
                onDecide={(part) => incoming.decide(one, part)}
                onFormer={(replaces) => incoming.change(one.token, { replaces })}
                onBringIn={() => void bringIn([one])}
                onLeave={() => incoming.leave(one.token)}
              />
            ))}
          </section>
        )}
        {documents.data ? (
          <Documents
            documents={known}
            shown={shown}
            onShow={(id) => {
              setChosen(id);
              setSide('remarks');
            }}
          />
        ) : (
          <Waiting what="documents" error={documents.error} />
        )}
      </div>
      <aside className="line-l min-h-0 overflow-auto bg-base-100 p-4">
        {arriving ? (
          <RemarkList name={arriving.name} remarks={arriving.preview?.ok ? arriving.preview.remarks : []} />
        ) : shown ? (
          <Beside document={shown} side={side} onSide={setSide} />
        ) : (
          <p className="text-quiet">What was not understood in a document is listed here, line by line.</p>
        )}
      </aside>
    </div>
  );
}

/** What was brought in, in that order. */
function Documents({
  documents,
  shown,
  onShow,
}: {
  documents: readonly DocumentView[];
  shown: DocumentView | undefined;
  onShow: (id: string) => void;
}) {
  if (documents.length === 0)
    return (
      <p className="mt-6 text-quiet">
        Nothing has been brought in yet. Drop the edit whose clips are dark: its timelines and clips appear here, with
        every line that was not understood.
      </p>
    );
  return (
    <ul className="mt-4 flex flex-col gap-2" aria-label="documents">
      {documents.map((document) => (
        <li key={document.id}>
          <DocumentCard document={document} isShown={document === shown} onShow={() => onShow(document.id)} />
        </li>
      ))}
    </ul>
  );
}

type Side = 'remarks' | 'changes';

/** What was not understood in a document, and what changed since its former version. */
function Beside({ document, side, onSide }: { document: DocumentView; side: Side; onSide: (side: Side) => void }) {
  return (
    <>
      {document.replacedAt && (
        <div className="mb-3 flex gap-1" role="group" aria-label="beside">
          {(['remarks', 'changes'] as const).map((what) => (
            <button
              key={what}
              type="button"
              aria-pressed={side === what}
              className={`btn btn-sm ${side === what ? 'btn-primary' : 'btn-plain'}`}
              onClick={() => onSide(what)}
            >
              {what === 'remarks' ? `Remarks ${document.remarks.length}` : 'What changed'}
            </button>
          ))}
        </div>
      )}
      {side === 'changes' && document.replacedAt ? (
        <ChangesList document={document} />
      ) : (
        <RemarkList name={document.name} remarks={document.remarks} />
      )}
    </>
  );
}
