import { formatRate } from '@legame/core/time';
import type { ProjectAcceptance } from '@legame/core/contract';

type Profile = ProjectAcceptance['profile'];
const depths = [8, 10, 12, 16];
const rasters = [
  { width: 1280, height: 720 },
  { width: 1920, height: 1080 },
  { width: 3840, height: 2160 },
];

/** What of media somebody can use: of each attribute everything where nothing is chosen. */
export function AcceptanceFields({
  profile,
  found,
  onChange,
}: {
  profile: Profile;
  /** What there is to choose from. */
  found: ProjectAcceptance['found'];
  onChange: (profile: Profile) => void;
}) {
  const choose = (key: 'containers' | 'codecs' | 'chroma', title: string, values: readonly string[]) => (
    <Choice
      title={title}
      values={[...new Set([...values, ...profile[key]])]}
      chosen={profile[key]}
      onChange={(chosen) => onChange({ ...profile, [key]: chosen })}
    />
  );
  return (
    <>
      {choose('containers', 'Containers', found.containers)}
      {choose('codecs', 'Codecs', found.codecs)}
      {choose('chroma', 'Chroma sampling', found.chroma)}
      <label>
        <span className="block font-semibold">Depth</span>
        <select
          className="select select-sm w-full"
          aria-label="largest depth"
          value={profile.largestBitDepth ?? ''}
          onChange={(e) => onChange({ ...profile, largestBitDepth: e.target.value ? Number(e.target.value) : null })}
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
            onChange({
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
          onChange({ ...profile, rates: found.rates.filter((r) => chosen.includes(formatRate(r))) })
        }
      />
    </>
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
