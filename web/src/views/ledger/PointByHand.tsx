import { ChevronUp, Folder } from 'lucide-react';
import { useState } from 'react';
import { formatRate } from '@legame/core/time';
import type { MediaFileView } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { bytes, timecode } from '@legame/words/numbers';

/** Finds a file by hand, folder by folder in a place. Choosing shows the evidence first; it links nothing. */
export function PointByHand({
  clipName,
  startAt,
  onChoose,
  onClose,
}: {
  clipName: string;
  startAt: { placeId: string; folder: string } | null;
  onChoose: (mediaFileId: string) => void;
  onClose: () => void;
}) {
  const places = storage.usePlacesQuery();
  const [placeId, setPlaceId] = useState(startAt?.placeId ?? null);
  const [folder, setFolder] = useState(startAt?.folder ?? '');
  const place = places.data?.find((p) => p.id === placeId) ?? places.data?.find((p) => p.there);
  const files = api.usePlaceFilesQuery({ placeId: place?.id ?? '', folder }, { skip: !place });
  if (!places.data) return <Waiting what="places" error={places.error} />;
  return (
    <section className="flex h-full flex-col p-3.5" aria-label="point by hand">
      <div className="flex items-start justify-between gap-2">
        <h2 className="text-[15px] font-semibold [overflow-wrap:anywhere]">
          Point <span className="font-mono">{clipName}</span> to…
        </h2>
        <button type="button" className="btn btn-plain btn-xs" onClick={onClose}>
          Close
        </button>
      </div>
      <div className="my-2 flex gap-2">
        <select
          className="select select-sm flex-1"
          aria-label="place"
          value={place?.id ?? ''}
          onChange={(e) => {
            setPlaceId(e.target.value);
            setFolder('');
          }}
        >
          {places.data.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
              {p.there ? '' : ' (not plugged in)'}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="btn btn-plain btn-sm"
          disabled={folder === ''}
          onClick={() => setFolder(folder.split('/').slice(0, -1).join('/'))}
          aria-label="up one folder"
        >
          <ChevronUp size={14} />
        </button>
      </div>
      <p className="mb-1 font-mono text-quiet [overflow-wrap:anywhere]">
        {place?.name}/{folder}
      </p>
      <ProblemNote error={files.error} />
      <ul className="line-t min-h-0 flex-1 overflow-auto" aria-label="files">
        {files.currentData?.folders.map((name) => (
          <li key={name} className="line-b">
            <button
              type="button"
              className="flex w-full items-center gap-2 py-1.5 text-left hover:bg-[var(--bond-wash)]"
              onClick={() => setFolder(folder === '' ? name : `${folder}/${name}`)}
            >
              <Folder size={14} className="shrink-0 text-quiet" aria-hidden />
              <span className="font-mono">{name}</span>
            </button>
          </li>
        ))}
        {files.currentData?.files.map((file) => (
          <li key={file.id} className="line-b">
            <button
              type="button"
              className="w-full py-1.5 text-left hover:bg-[var(--bond-wash)]"
              onClick={() => onChoose(file.id)}
            >
              <span className="block font-mono [overflow-wrap:anywhere]">{file.name}</span>
              <span className="block font-mono text-[12px] text-quiet">{inShort(file)}</span>
            </button>
          </li>
        ))}
        {files.currentData && files.currentData.files.length + files.currentData.folders.length === 0 && (
          <li className="py-2 text-quiet">No media files in here.</li>
        )}
      </ul>
    </section>
  );
}

function inShort({ facts, unreadable, sizeInBytes }: MediaFileView): string {
  if (!facts) return `${bytes(sizeInBytes)} · ${unreadable ? 'unreadable' : 'not read yet'}`;
  const start =
    facts.rate && facts.timecodeSource !== 'none' ? timecode(facts.start, facts.rate, facts.counting) : null;
  return [
    facts.reel,
    start,
    facts.rate && facts.length !== null ? `${facts.length} frames at ${formatRate(facts.rate)}` : facts.kind,
    bytes(sizeInBytes),
  ]
    .filter(Boolean)
    .join(' · ');
}
