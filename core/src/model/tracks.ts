/**
 * The single tracks that a track name stands for: V and V1 are the first picture track, B is picture and first sound,
 * AA the first two of sound, AA/V all three, "A AUD 3 4" sound 1, 3 and 4. NONE is no track.
 */
export function tracksOf(label: string): string[] {
  const tracks = new Set<string>();
  const [main = '', extra = ''] = label.toUpperCase().split(/\s*\bAUD\b\s*/);
  for (const part of main.split(/[/+\s]+/)) {
    const numbered = /^([VA])(\d{1,3})$/.exec(part);
    if (numbered) tracks.add(`${numbered[1]}${Number(numbered[2])}`);
    else if (part === 'B') tracks.add('V1').add('A1');
    else if (part === 'V') tracks.add('V1');
    else if (/^A+$/.test(part)) for (let n = 1; n <= part.length; n += 1) tracks.add(`A${n}`);
  }
  for (const n of extra.match(/\d{1,3}/g) ?? []) tracks.add(`A${Number(n)}`);
  return [...tracks].sort((a, b) => rank(a) - rank(b));
}

export const isPictureTrack = (track: string): boolean => track.startsWith('V');

/** Picture before sound, then by number. */
const rank = (track: string): number => (isPictureTrack(track) ? 0 : 10_000) + Number(track.slice(1));
export const byTrack = (a: string, b: string): number => rank(a) - rank(b);
