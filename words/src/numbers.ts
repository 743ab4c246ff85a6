import type { DateStyle, DropFrameMark } from '@legame/core/contract';
import { formatPosition, type Counting, type Rate } from '@legame/core/time';

/** "1 file", "3 files". */
export const count = (n: number, one: string, many = `${one}s`): string => `${group(n)} ${n === 1 ? one : many}`;
/** The first letter large, as sentences begin. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
/** Thousands apart by a thin space. */
export const group = (n: number): string => String(n).replace(/\B(?=(\d{3})+(?!\d))/g, '\u202f');

const byteUnits = ['byte', 'kilobyte', 'megabyte', 'gigabyte', 'terabyte', 'petabyte'] as const;
const byteFormats = byteUnits.map(
  (unit) =>
    new Intl.NumberFormat('en', {
      style: 'unit',
      unit,
      unitDisplay: unit === 'byte' ? 'long' : 'short',
      useGrouping: false,
      // Two digits, or all whole ones.
      minimumSignificantDigits: unit === 'byte' ? 1 : 2,
      maximumSignificantDigits: 2,
      minimumFractionDigits: 0,
      maximumFractionDigits: 0,
      roundingPriority: 'morePrecision',
    }),
);

/** "512 bytes", "4.0 MB", "340 GB": in thousands, as drives are sold. */
export function bytes(n: number): string {
  const thousands = n < 1000 ? 0 : Math.min(byteUnits.length - 1, Math.floor(Math.log10(n) / 3));
  return byteFormats[thousands]!.format(n / 1000 ** thousands);
}

/** Screen time for people: 0:48, 18:04, 1:02:11. */
export function clock(seconds: number): string {
  const whole = Math.round(seconds);
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const two = (n: number) => String(n).padStart(2, '0');
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`;
}

/** How long something takes, no more exactly than that is known: "under a minute", "about 12 minutes", "about 3.5 hours". */
export function aboutSeconds(seconds: number): string {
  if (seconds < 60) return 'under a minute';
  if (seconds < 5400) return `about ${count(Math.round(seconds / 60), 'minute')}`;
  return `about ${String(Math.round(seconds / 1800) / 2)} hours`;
}

/** How whoever works here likes dates and timecode; every sentence follows it. */
type Spoken = { readonly dates: DateStyle; readonly dropFrame: DropFrameMark };
let spoken: Spoken = { dates: 'words', dropFrame: 'semicolon' };
export const speakAs = ({ dates, dropFrame }: Spoken): void => {
  spoken = { dates, dropFrame };
};

export const timecode = (frames: number, rate: Rate, counting: Counting): string => {
  const text = formatPosition(frames, rate, counting);
  return spoken.dropFrame === 'period' ? text.replace(';', '.') : text;
};

export function when(iso: string): string {
  const date = new Date(iso);
  if (spoken.dates === 'words') return date.toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' });
  const two = (n: number) => String(n).padStart(2, '0');
  const [year, month, day] = [String(date.getFullYear()), two(date.getMonth() + 1), two(date.getDate())];
  const time = `${two(date.getHours())}:${two(date.getMinutes())}`;
  return spoken.dates === 'year-first' ? `${year}-${month}-${day} ${time}` : `${day}.${month}.${year} ${time}`;
}
