import { jobTitle } from '@legame/words/jobs';
import { FileText, Folder, Package } from 'lucide-react';
import { useState } from 'react';
import type { Reading } from '@legame/core/formats';
import type { DocumentView, Job, PlaceDocuments } from '@legame/core/contract';
import { api, problemOf } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { FolderChooser } from '../../parts/FolderChooser.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { bytes, when } from '@legame/words/numbers';
import { ReadingChoices } from './ReadingChoices.tsx';

/** What a document is to be brought in as: a newer version of another, or one of its own. */
type Wanted = { readonly path: string; readonly replaces?: string; readonly beside?: true };
type Asked = { readonly wanted: Wanted; readonly problem: NonNullable<ReturnType<typeof problemOf>> };
const nameOf = (path: string) => path.split('/').at(-1)!;

/** Brings in a document or bundle that lies in a place, so that its relative references are known to mean what lies there. */
export function FromPlace({
  projectId,
  documents,
  onBroughtIn,
  onClose,
}: {
  projectId: string;
  documents: readonly DocumentView[];
  onBroughtIn: (id: string) => void;
  onClose: () => void;
}) {
  const places = storage.usePlacesQuery();
  const there = places.data?.filter((p) => p.there) ?? [];
  const [chosen, setChosen] = useState<string | null>(null);
  const placeId = chosen ?? there[0]?.id ?? '';
  const [folder, setFolder] = useState('');
  const listing = api.usePlaceDocumentsQuery({ placeId, folder }, { skip: !placeId, refetchOnMountOrArgChange: true });
  const bringing = useBringIn(projectId, placeId, documents, onBroughtIn);
  const { asked, twin, take } = bringing;
  const [unpacking, setUnpacking] = useState<string | null>(null);
  const [unpack, unpacked] = api.useUnpackBundleMutation();

  const inFolder = (name: string) => (folder === '' ? name : `${folder}/${name}`);
  return (
    <section className="sheet mt-3 flex flex-col gap-2 p-3" aria-label="bring in from a place">
      <div className="flex items-center gap-2">
        <select
          className="select select-sm w-44"
          aria-label="place"
          value={placeId}
          onChange={(e) => {
            setChosen(e.target.value);
            setFolder('');
          }}
        >
          {there.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="btn btn-plain btn-sm"
          disabled={folder === ''}
          onClick={() => setFolder(folder.split('/').slice(0, -1).join('/'))}
        >
          Up
        </button>
        <span className="min-w-0 flex-1 truncate font-mono text-quiet" title={folder}>
          /{folder}
        </span>
        <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
          Close
        </button>
      </div>
      {there.length === 0 && <p className="text-quiet">No place is there to look in. Add one at Places.</p>}
      {listing.currentData && (
        <FolderOfPlace
          listing={listing.currentData}
          isBusy={bringing.isBusy}
          onFolder={(name) => setFolder(inFolder(name))}
          onTake={(name) => bringing.consider(inFolder(name))}
          onUnpack={(name) => setUnpacking(inFolder(name))}
        />
      )}
      {listing.currentData && listing.currentData.documents.length === 0 && (
        <p className="text-quiet">No timeline, list or log in this folder.</p>
      )}
      {twin !== null && (
        <Twins
          name={nameOf(twin)}
          twins={bringing.twinsOf(twin)}
          onTake={(replaces) => void take({ path: twin, ...(replaces ? { replaces } : { beside: true }) }, {})}
          onLeave={() => bringing.setTwin(null)}
        />
      )}
      {unpacking && (
        <Unpack
          path={unpacking}
          onChoose={(targetFolder) => {
            setUnpacking(null);
            void unpack({ placeId, path: unpacking, targetFolder });
          }}
        />
      )}
      {unpacked.data && <Unpacking job={unpacked.data} />}
      {asked && (
        <div className="line-t flex flex-wrap items-end gap-3 pt-2">
          <ReadingChoices
            name={asked.wanted.path}
            choices={{ rates: ratesAsked(asked), clipsBy: [], referenceKeys: [], columns: null, outPoints: [] }}
            reading={bringing.reading}
            onDecide={bringing.setReading}
          />
          <button
            type="button"
            className="btn btn-primary btn-sm"
            onClick={() => void take(asked.wanted, bringing.reading)}
          >
            Bring in at this rate
          </button>
        </div>
      )}
      <ProblemNote error={bringing.error ?? unpacked.error ?? listing.error} onClose={bringing.forgive} />
    </section>
  );
}

/** Brings a document in, and asks what only a person knows: which version it is, and at which rate it counts. */
function useBringIn(
  projectId: string,
  placeId: string,
  documents: readonly DocumentView[],
  onBroughtIn: (id: string) => void,
) {
  const [bringIn, bringing] = api.useBringInFromPlaceMutation();
  const [asked, setAsked] = useState<Asked | null>(null);
  const [reading, setReading] = useState<Reading>({});
  const [error, setError] = useState<unknown>(null);
  /** One that bears the name of what is here already: whether it is meant, only a person knows. */
  const [twin, setTwin] = useState<string | null>(null);
  const take = async (wanted: Wanted, decided: Reading) => {
    setError(null);
    setTwin(null);
    setAsked(null);
    try {
      const document = await bringIn({ projectId, placeId, ...wanted, reading: decided }).unwrap();
      onBroughtIn(document.id);
    } catch (failure) {
      const problem = problemOf(failure);
      if (problem?.code !== 'rate-needed') return setError(failure);
      const proposals = ratesAsked({ wanted, problem });
      setAsked({ wanted, problem });
      setReading(proposals[0] ? { rate: proposals[0].rate } : {});
    }
  };
  const twinsOf = (path: string) => documents.filter((d) => d.name === nameOf(path));
  const consider = (path: string) => (twinsOf(path).length > 0 ? setTwin(path) : void take({ path }, {}));
  return {
    asked,
    twin,
    reading,
    error,
    isBusy: bringing.isLoading,
    take,
    consider,
    twinsOf,
    setTwin,
    setReading,
    forgive: () => setError(null),
  };
}

const ratesAsked = ({ problem }: Asked) => (problem.problem?.code === 'rate-needed' ? problem.problem.proposals : []);

/** Asks what one of a name that is here already is: a name alone replaces nothing. */
function Twins({
  name,
  twins,
  onTake,
  onLeave,
}: {
  name: string;
  twins: readonly DocumentView[];
  onTake: (replaces: string | null) => void;
  onLeave: () => void;
}) {
  return (
    <div className="line-t flex flex-col gap-2 pt-2" role="group" aria-label="same name">
      <p>
        <b className="font-mono">{name}</b> is in this project already. A newer version takes its place; clips that are
        still the same keep their links.
      </p>
      <div className="flex flex-wrap gap-2">
        {twins.map((twin) => (
          <button key={twin.id} type="button" className="btn btn-plain btn-sm" onClick={() => onTake(twin.id)}>
            Newer version of “{twin.title}”, {when(twin.broughtInAt)}
          </button>
        ))}
        <button type="button" className="btn btn-plain btn-sm" onClick={() => onTake(null)}>
          Another document
        </button>
        <button type="button" className="btn btn-plain btn-sm" onClick={onLeave}>
          Leave it
        </button>
      </div>
    </div>
  );
}

/** Folders and documents of one folder of a place. */
function FolderOfPlace({
  listing,
  isBusy,
  onFolder,
  onTake,
  onUnpack,
}: {
  listing: PlaceDocuments;
  isBusy: boolean;
  onFolder: (name: string) => void;
  onTake: (name: string) => void;
  onUnpack: (name: string) => void;
}) {
  return (
    <ul className="grid max-h-52 grid-cols-2 gap-x-3 overflow-auto" aria-label="documents in the place">
      {listing.folders.map((name) => (
        <li key={name}>
          <button
            type="button"
            className="flex w-full items-center gap-2 rounded px-2 py-1 text-left hover:bg-[var(--bond-wash)]"
            onClick={() => onFolder(name)}
          >
            <Folder size={14} className="shrink-0 text-quiet" aria-hidden />
            <span className="font-mono [overflow-wrap:anywhere]">{name}</span>
          </button>
        </li>
      ))}
      {listing.documents.map(({ name, sizeInBytes, isBundleFolder }) => (
        <li key={name} className="flex items-center gap-1">
          <button
            type="button"
            className="flex min-w-0 flex-1 items-center gap-2 rounded px-2 py-1 text-left hover:bg-[var(--bond-wash)]"
            disabled={isBusy}
            title={`Bring in ${name}`}
            onClick={() => onTake(name)}
          >
            {isBundleFolder ? (
              <Package size={14} aria-hidden />
            ) : (
              <FileText size={14} className="shrink-0" aria-hidden />
            )}
            <span className="font-mono [overflow-wrap:anywhere]">{name}</span>
            <span className="text-quiet">{isBundleFolder ? 'bundle' : bytes(sizeInBytes)}</span>
          </button>
          {name.toLowerCase().endsWith('.otioz') && (
            <button
              type="button"
              className="btn btn-plain btn-xs"
              title={`Unpack ${name} with its media into a folder`}
              onClick={() => onUnpack(name)}
            >
              Unpack…
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}

/** Where a zipped bundle becomes a folder. */
const Unpack = ({ path, onChoose }: { path: string; onChoose: (targetFolder: string) => void }) => (
  <div className="line-t flex flex-col gap-2 pt-2">
    <p>
      <b className="font-mono">{path.split('/').at(-1)}</b> becomes a folder with its document and its media, each file
      verified. In a place, its clips find them there. Where shall it be?
    </p>
    <FolderChooser verb="Unpack here" onChoose={onChoose} />
  </div>
);

const Unpacking = ({ job }: { job: Job }) => (
  <p className="text-quiet" role="status">
    {jobTitle(job)}: see the jobs above. Its folder is listed here when it is done.
  </p>
);
