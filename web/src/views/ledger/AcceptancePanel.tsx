import { useState } from 'react';
import { acceptsAll } from '@legame/core/model';
import type { ProjectAcceptance } from '@legame/core/contract';
import { storage } from '../../api/storage.ts';
import { AcceptanceFields } from '../../parts/AcceptanceFields.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { count } from '@legame/words/numbers';

type Profile = ProjectAcceptance['profile'];

/** What the project's edit can use. Films that it cannot are Unreadable, with the reason, and an accepted copy can be made. */
export function AcceptancePanel({ projectId, onClose }: { projectId: string; onClose: () => void }) {
  const { data, error } = storage.useAcceptanceQuery(projectId);
  if (!data) return <Waiting what="what is accepted" error={error} />;
  return <AcceptanceForm projectId={projectId} acceptance={data} onClose={onClose} />;
}

function AcceptanceForm({
  projectId,
  acceptance,
  onClose,
}: {
  projectId: string;
  acceptance: ProjectAcceptance;
  onClose: () => void;
}) {
  const [save, saved] = storage.useSetAcceptanceMutation();
  const [profile, setProfile] = useState<Profile>(acceptance.profile);
  const { found } = acceptance;
  const isChanged = JSON.stringify(profile) !== JSON.stringify(acceptance.profile);
  return (
    <section className="flex h-full flex-col gap-4 overflow-auto p-3.5" aria-label="what the project accepts">
      <header className="flex items-start justify-between gap-2">
        <div>
          <h2 className="text-[15px] font-semibold">What this project accepts</h2>
          <p className="text-quiet">
            Films of another kind count as Unreadable, and an accepted copy can be made of them. Where nothing is
            chosen, everything is accepted.
          </p>
        </div>
        <button type="button" className="btn btn-plain btn-xs" onClick={onClose}>
          Close
        </button>
      </header>
      <AcceptanceFields profile={profile} found={found} onChange={setProfile} />
      <div className="flex items-center gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!isChanged || saved.isLoading}
          onClick={() => void save({ projectId, profile })}
        >
          Accept only this
        </button>
        <button
          type="button"
          className="btn btn-plain btn-sm"
          disabled={saved.isLoading}
          onClick={() => {
            const all = acceptsAll as Profile;
            setProfile(all);
            void save({ projectId, profile: all });
          }}
        >
          Accept everything
        </button>
      </div>
      <p role="status">
        {acceptance.refused === 0
          ? 'No clip is refused by this.'
          : `${count(acceptance.refused, 'clip')} ${acceptance.refused === 1 ? 'is' : 'are'} refused by what is set now.`}
      </p>
      <ProblemNote error={saved.error} onClose={saved.reset} />
    </section>
  );
}
