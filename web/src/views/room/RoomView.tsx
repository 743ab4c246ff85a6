import { ListAndPanel } from '../../parts/ListAndPanel.tsx';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { mediaUses, type RoomMap } from '@legame/core/contract';
import { storage } from '../../api/storage.ts';
import { useAsked } from '../../session/useAsked.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { bytes, count } from '@legame/words/numbers';
import { useWords } from '@legame/words/storage';
import { ClearPanel } from './ClearPanel.tsx';
import { useFill } from '../../parts/usePatterns.tsx';
import { Treemap } from './Treemap.tsx';

/** What takes up a place: a map of its folders by use, the largest and the unused, and the way into the holding folder. */
export function RoomView() {
  const { projectId = '', placeId = '' } = useParams();
  const [asked, setFolder] = useAsked('folder');
  const folder = asked ?? '';
  const map = storage.useRoomMapQuery({ projectId, placeId, folder });
  const [index, indexing] = storage.useIndexPlaceMutation();
  const [reread, reading] = storage.useRereadMutation();
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  if (!map.data) return <Waiting what="the map" error={map.error} />;
  const { placeName, entries, byUse, room } = map.data;
  const shown = map.data.folder;
  const steps = shown === '' ? [] : shown.split('/');
  return (
    <ListAndPanel
      name="room"
      listClass="flex min-w-0 flex-col p-3.5"
      panelSize="372px"
      panelAtMost="60%"
      panel={
        <ClearPanel
          map={map.data}
          marked={marked}
          onMark={(id) => setMarked((before) => toggled(before, id))}
          onDone={() => setMarked(new Set())}
        />
      }
    >
      <div className="flex items-center gap-3">
        <nav className="min-w-0 flex-1 font-mono [overflow-wrap:anywhere]" aria-label="folder shown">
          <Link to={`/projects/${projectId}/places`} className="font-sans text-quiet underline underline-offset-2">
            Places
          </Link>
          {' / '}
          <button type="button" className="font-semibold hover:underline" onClick={() => setFolder('')}>
            {placeName}
          </button>
          {steps.map((step, i) => (
            <span key={i}>
              {' / '}
              <button
                type="button"
                className="hover:underline"
                onClick={() => setFolder(steps.slice(0, i + 1).join('/'))}
              >
                {step}
              </button>
            </span>
          ))}
        </nav>
        <button
          type="button"
          className="btn btn-plain btn-sm"
          disabled={indexing.isLoading || !room}
          onClick={() => void index({ id: placeId, folder })}
        >
          Refresh {folder === '' ? 'all' : 'this branch'}
        </button>
        <button
          type="button"
          className="btn btn-plain btn-sm"
          disabled={reading.isLoading || !room}
          title="Forget what was measured of the files in here, and measure them again"
          onClick={() => void reread({ placeId, folder })}
        >
          Read again
        </button>
      </div>
      <ProblemNote error={indexing.error ?? reading.error} onClose={indexing.reset} />
      <Legend byUse={byUse} room={folder === '' ? room : null} headroomShare={map.data.headroomShare} />
      <div className="min-h-0 flex-1">
        {entries.length === 0 ? (
          <p className="text-quiet">Nothing lies in this folder.</p>
        ) : (
          <Treemap
            entries={entries}
            free={folder === '' ? room : null}
            headroomShare={map.data.headroomShare}
            onOpen={setFolder}
            marked={marked}
            onMark={(id) => setMarked((before) => toggled(before, id))}
          />
        )}
      </div>
    </ListAndPanel>
  );
}

function toggled(before: ReadonlySet<string>, id: string): Set<string> {
  const after = new Set(before);
  if (!after.delete(id)) after.add(id);
  return after;
}

function Legend({ byUse, room, headroomShare }: Pick<RoomMap, 'byUse' | 'room' | 'headroomShare'>) {
  const fill = useFill();
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-1 py-2" aria-label="uses">
      {mediaUses
        .filter((use) => byUse[use] > 0)
        .map((use) => (
          <li key={use} className="flex items-center gap-1.5">
            <svg width="14" height="14" aria-hidden>
              <rect width="14" height="14" rx="2" fill={fill(use)} stroke="var(--color-base-300)" />
            </svg>
            {useWords[use]} <span className="font-mono text-quiet">{bytes(byUse[use])}</span>
          </li>
        ))}
      {room && (
        <li className="text-quiet">
          free <span className="font-mono">{bytes(room.freeInBytes)}</span> of{' '}
          <span className="font-mono">{bytes(room.totalInBytes)}</span>, of which{' '}
          <span className="font-mono">{bytes(room.totalInBytes * headroomShare)}</span> headroom
        </li>
      )}
      {mediaUses.every((use) => byUse[use] === 0) && <li className="text-quiet">{count(0, 'file')}</li>}
    </ul>
  );
}
