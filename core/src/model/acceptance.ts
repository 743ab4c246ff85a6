import { formatRate, sameRate, type Rate } from '../time/rate.ts';
import type { Raster } from './edit.ts';
import type { Facts, Refusal } from './media.ts';

/** What a project's edit can use. An empty list or a null accepts everything. Sound and stills are judged by codec alone. */
export type AcceptanceProfile = {
  readonly containers: readonly string[];
  readonly codecs: readonly string[];
  readonly rates: readonly Rate[];
  readonly largestBitDepth: number | null;
  readonly chroma: readonly string[];
  readonly largestRaster: Raster | null;
};
export const acceptsAll: AcceptanceProfile = {
  containers: [],
  codecs: [],
  rates: [],
  largestBitDepth: null,
  chroma: [],
  largestRaster: null,
};

/** The first reason for which a project does not accept media of these facts; null when it does. */
export function refusalOf(facts: Facts, profile: AcceptanceProfile): Refusal | null {
  const listed = (what: Refusal['what'], found: string | null | undefined, accepted: readonly string[]) =>
    found && accepted.length > 0 && !accepted.includes(found) ? { what, found, accepted: accepted.join(', ') } : null;
  if (facts.kind !== 'picture') return facts.kind === 'sound' ? null : depthRefusal(facts, profile);
  return (
    listed('container', facts.container, profile.containers) ??
    listed('codec', facts.codec, profile.codecs) ??
    depthRefusal(facts, profile) ??
    listed('chroma', facts.chroma, profile.chroma) ??
    rasterRefusal(facts, profile) ??
    (facts.rate && profile.rates.length > 0 && !profile.rates.some((r) => sameRate(r, facts.rate!))
      ? { what: 'rate', found: formatRate(facts.rate), accepted: profile.rates.map(formatRate).join(', ') }
      : null)
  );
}

function depthRefusal({ bitDepth }: Facts, { largestBitDepth }: AcceptanceProfile): Refusal | null {
  if (bitDepth === null || largestBitDepth === null || bitDepth <= largestBitDepth) return null;
  return { what: 'bit-depth', found: `${bitDepth}-bit`, accepted: `up to ${largestBitDepth}-bit` };
}

function rasterRefusal({ raster }: Facts, { largestRaster }: AcceptanceProfile): Refusal | null {
  if (!raster || !largestRaster) return null;
  if (raster.width <= largestRaster.width && raster.height <= largestRaster.height) return null;
  const shown = ({ width, height }: Raster) => `${width} × ${height}`;
  return { what: 'raster', found: shown(raster), accepted: `up to ${shown(largestRaster)}` };
}
