import { useState } from 'react';
import type { FormatId } from '@legame/core/formats';
import type { DocumentView } from '@legame/core/contract';
import { fetchExport } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { saveAs } from '../../parts/saveAs.ts';
import { count } from '@legame/words/numbers';
import { formatWords } from '@legame/words/remarks';

type Paths = 'absolute' | 'relative' | 'place-roots';

/** How a document goes out: as what, and how its references say where files lie on the machine that will open it. */
export function ExportPanel({ document }: { document: DocumentView }) {
  const places = storage.usePlacesQuery();
  const [paths, setPaths] = useState<Paths>('absolute');
  const [folder, setFolder] = useState(document.folder ?? '');
  const [roots, setRoots] = useState<Readonly<Record<string, string>>>({});
  const [reels, setReels] = useState(false);
  const [format, setFormat] = useState<FormatId>(document.format);
  const tops = document.timelines.filter((t) => t.top);
  const [timelineKey, setTimelineKey] = useState(tops[0]?.key ?? '');
  const timeline = document.timelines.find((t) => t.key === timelineKey);
  const [track, setTrack] = useState('');
  const [said, setSaid] = useState('');
  const [error, setError] = useState<unknown>(null);
  const isOwn = format === document.format && (format !== 'edl' || track === '');
  const formats: FormatId[] =
    document.format === 'log' ? ['log', 'otio'] : tops.length > 0 ? ['otio', 'edl', 'log'] : ['otio', 'log'];
  const query: Record<string, string> = {
    paths,
    ...(paths === 'relative' ? { folder } : {}),
    ...(paths === 'place-roots' ? { roots: JSON.stringify(roots) } : {}),
    ...(reels ? { reels: 'true' } : {}),
    ...(isOwn ? {} : { format }),
    ...(!isOwn && format === 'edl' && timeline
      ? { timeline: timeline.key, track: track || (timeline.tracks[0] ?? 'V1') }
      : {}),
  };
  const save = async () => {
    setError(null);
    setSaid('');
    try {
      const exported = await fetchExport(document.id, query);
      saveAs(exported.content, exported.name);
      setSaid(
        `${exported.name}: ${count(exported.relinked, 'clip')} of ${document.clips} refer to their files.${
          exported.reencoded ? ' Its old encoding cannot hold a new name, so it is UTF-8 now.' : ''
        }`,
      );
    } catch (failure) {
      setError(failure);
    }
  };
  return (
    <section className="line-t mt-2 flex flex-col gap-2.5 pt-2" aria-label={`export of ${document.name}`}>
      <div className="flex flex-wrap items-end gap-3">
        <label className="flex flex-col gap-0.5">
          <span className="text-quiet">As</span>
          <select
            className="select select-sm w-60"
            aria-label="export as"
            value={format}
            onChange={(e) => {
              setFormat(e.target.value as FormatId);
              setTrack('');
            }}
          >
            {formats
              .toSorted((a, b) => Number(b === document.format) - Number(a === document.format))
              .map((id) => (
                <option key={id} value={id}>
                  {id === document.format ? `${formatWords[id]}, as it came in` : `${formatWords[id]}, written anew`}
                </option>
              ))}
          </select>
        </label>
        {format === 'edl' && timeline && (
          <>
            {tops.length > 1 && (
              <label className="flex flex-col gap-0.5">
                <span className="text-quiet">Timeline</span>
                <select
                  className="select select-sm w-48"
                  aria-label="timeline to export"
                  value={timelineKey}
                  onChange={(e) => setTimelineKey(e.target.value)}
                >
                  {tops.map((t) => (
                    <option key={t.key} value={t.key}>
                      {t.name}
                    </option>
                  ))}
                </select>
              </label>
            )}
            <label className="flex flex-col gap-0.5">
              <span className="text-quiet">Track</span>
              <select
                className="select select-sm w-40"
                aria-label="track to export"
                value={track}
                onChange={(e) => setTrack(e.target.value)}
              >
                <option value="">{document.format === 'edl' ? 'the whole list' : (timeline.tracks[0] ?? 'V1')}</option>
                {timeline.tracks.slice(document.format === 'edl' ? 0 : 1).map((t) => (
                  <option key={t} value={t}>
                    {t}
                  </option>
                ))}
              </select>
            </label>
          </>
        )}
        <label className="flex flex-col gap-0.5">
          <span className="text-quiet">References say</span>
          <select
            className="select select-sm w-72"
            aria-label="references say"
            value={paths}
            onChange={(e) => setPaths(e.target.value as Paths)}
          >
            <option value="absolute">whole paths, as on this machine</option>
            <option value="relative">paths seen from the document’s folder</option>
            <option value="place-roots">where the receiver’s places lie</option>
          </select>
        </label>
      </div>
      {paths === 'relative' && (
        <label className="flex flex-col gap-0.5">
          <span className="text-quiet">The folder in which the document will lie</span>
          <input
            className="input input-sm w-full font-mono"
            aria-label="folder of the document"
            placeholder="/path/to/the/folder"
            value={folder}
            onChange={(e) => setFolder(e.target.value)}
          />
        </label>
      )}
      {paths === 'place-roots' && (
        <ul className="grid grid-cols-2 gap-x-4 gap-y-1" aria-label="where places lie">
          {places.data?.map((place) => (
            <li key={place.id}>
              <label className="flex items-center gap-2">
                <span className="w-24 shrink-0 truncate font-mono" title={place.name}>
                  {place.name}
                </span>
                <input
                  className="input input-sm min-w-0 flex-1 font-mono"
                  aria-label={`where ${place.name} lies`}
                  placeholder={`/Volumes/${place.name}`}
                  value={roots[place.id] ?? ''}
                  onChange={(e) => {
                    const { [place.id]: _, ...rest } = roots;
                    setRoots(e.target.value ? { ...rest, [place.id]: e.target.value } : rest);
                  }}
                />
              </label>
            </li>
          ))}
        </ul>
      )}
      <div className="flex items-center gap-4">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={paths === 'relative' && !folder.startsWith('/')}
          onClick={() => void save()}
        >
          Export {isOwn ? 'relinked' : `as ${formatWords[format]}`}
        </button>
        {format === 'edl' && (
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={reels}
              onChange={(e) => setReels(e.target.checked)}
            />
            write the reels of linked files too
          </label>
        )}
        <span className="text-quiet" role="status">
          {said || (isOwn ? 'Its references change, and not one other character.' : '')}
        </span>
      </div>
      <ProblemNote error={error} onClose={() => setError(null)} />
    </section>
  );
}
