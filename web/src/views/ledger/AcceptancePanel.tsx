import { useState } from 'react';
import { acceptsAll } from '@legame/core/model';
import { formatRate } from '@legame/core/time';
import type { ProjectAcceptance } from '@legame/core/contract';
import { storage } from '../../api/storage.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { count } from '@legame/words/numbers';

type Profile = ProjectAcceptance['profile'];
const depths = [8, 10, 12, 16];
const rasters = [
  { width: 1280, height: 720 },
  { width: 1920, height: 1080 },
  { width: 3840, height: 2160 },
];

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
  const choose = (key: 'containers' | 'codecs' | 'chroma', title: string, values: readonly string[]) => (
    <Choice
      title={title}
      values={[...new Set([...values, ...profile[key]])]}
      chosen={profile[key]}
      onChange={(chosen) => setProfile({ ...profile, [key]: chosen })}
    />
  );
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
      {choose('containers', 'Containers', found.containers)}
      {choose('codecs', 'Codecs', found.codecs)}
      {choose('chroma', 'Chroma sampling', found.chroma)}
      <label>
        <span className="block font-semibold">Depth</span>
        <select
          className="select select-sm w-full"
          aria-label="largest depth"
          value={profile.largestBitDepth ?? ''}
          onChange={(e) => setProfile({ ...profile, largestBitDepth: e.target.value ? Number(e.target.value) : null })}
        >
          <option value="">any</option>
          {depths.map((depth) => (
            <option key={depth} value={depth}>
              {depth === 8 ? '8-bit only' : `up to ${depth}-bit`}
            </option>
          ))}
        </select>
      </label>
      <label>
        <span className="block font-semibold">Raster</span>
        <select
          className="select select-sm w-full"
          aria-label="largest raster"
          value={profile.largestRaster ? `${profile.largestRaster.width}x${profile.largestRaster.height}` : ''}
          onChange={(e) =>
            setProfile({
              ...profile,
              largestRaster: rasters.find((r) => `${r.width}x${r.height}` === e.target.value) ?? null,
            })
          }
        >
          <option value="">any</option>
          {rasters.map((r) => (
            <option key={r.width} value={`${r.width}x${r.height}`}>
              up to {r.width} × {r.height}
            </option>
          ))}
        </select>
      </label>
      <Choice
        title="Frame rates"
        values={found.rates.map(formatRate)}
        chosen={profile.rates.map(formatRate)}
        onChange={(chosen) =>
          setProfile({ ...profile, rates: found.rates.filter((r) => chosen.includes(formatRate(r))) })
        }
      />
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

function Choice({
  title,
  values,
  chosen,
  onChange,
}: {
  title: string;
  values: readonly string[];
  chosen: readonly string[];
  onChange: (chosen: string[]) => void;
}) {
  if (values.length === 0) return null;
  return (
    <fieldset>
      <legend className="font-semibold">{title}</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {values.map((value) => (
          <label key={value} className="flex items-center gap-1.5 font-mono">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={chosen.includes(value)}
              onChange={(e) => onChange(e.target.checked ? [...chosen, value] : chosen.filter((v) => v !== value))}
            />
            {value}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
