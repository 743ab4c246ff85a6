import { formatPosition, type Counting, type Rate } from '@legame/core/time';

/** "1 file", "3 files". */
export const count = (n: number, one: string, many = `${one}s`): string => `${group(n)} ${n === 1 ? one : many}`;
/** The first letter large, as sentences begin. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
/** Thousands apart by a thin space. */
export const group = (n: number): string => String(n).replace(/\B(?=(\d{3})+(?!\d))/g, '\u202f');

export function bytes(n: number): string {
  const units = ['bytes', 'kB', 'MB', 'GB', 'TB', 'PB'];
  let value = n;
  let unit = 0;
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1000;
    unit += 1;
  }
  return `${unit === 0 ? value : value < 10 ? value.toFixed(1) : Math.round(value)} ${units[unit]}`;
}

/** Screen time for people: 0:48, 18:04, 1:02:11. */
export function clock(seconds: number): string {
  const whole = Math.round(seconds);
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const two = (n: number) => String(n).padStart(2, '0');
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`;
}

export const timecode = (frames: number, rate: Rate, counting: Counting): string =>
  formatPosition(frames, rate, counting);

export const when = (iso: string): string =>
  new Date(iso).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' });
