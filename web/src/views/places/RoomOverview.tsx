import { Suspense } from 'react';
import { useNavigate } from 'react-router';
import { storage } from '../../api/storage.ts';
import { RoomByUseChart } from '../../charts/index.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** What takes up all places, by use; a click opens the map of one. */
export function RoomOverview({ projectId }: { projectId: string }) {
  const room = storage.useRoomByPlaceQuery(projectId);
  const navigate = useNavigate();
  return (
    <section className="flex h-full flex-col gap-2 overflow-auto p-3.5" aria-label="room of all places">
      <h2 className="text-[15px] font-semibold">What takes up room</h2>
      <ProblemNote error={room.error} />
      {room.data && room.data.length > 0 && (
        <Suspense fallback={<p className="text-quiet">Drawing…</p>}>
          <RoomByUseChart
            places={room.data}
            onChoose={(placeId) => void navigate(`/projects/${projectId}/places/${placeId}/room`)}
          />
        </Suspense>
      )}
      <p className="text-quiet">Choose a place to see what cannot be used in it, and what was left out.</p>
    </section>
  );
}
