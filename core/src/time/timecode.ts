import { hasDropFrame, nominalRate, type Rate } from './rate.ts';

/** How the frames of a rate are numbered. Drop-frame skips numbers, never pictures. */
export type Counting = 'drop' | 'non-drop';

export type TimecodeFault =
  | { readonly code: 'not-timecode'; readonly text: string }
  | {
      readonly code: 'no-such-address';
      readonly text: string;
      readonly field: 'hours' | 'minutes' | 'seconds' | 'frames';
    }
  | { readonly code: 'dropped-number'; readonly text: string }
  | { readonly code: 'rate-has-no-drop-frame'; readonly text: string };

export type ParsedTimecode =
  | { readonly ok: true; readonly frames: number; readonly counting: Counting }
  | { readonly ok: false; readonly fault: TimecodeFault };

const shape = /^(\d{1,2})([:;.,])(\d{1,2})([:;.,])(\d{1,2})([:;.,])(\d{1,3})$/;

/** Frames in 24 hours of timecode, after which the count begins again at zero (SMPTE ST 12-1). */
export function framesPerDay(rate: Rate, counting: Counting): number {
  const nominal = nominalRate(rate);
  const counted = nominal * 86_400;
  return counting === 'drop' && hasDropFrame(rate) ? counted - droppedPerMinute(nominal) * 9 * 144 : counted;
}

/**
 * Reads HH:MM:SS:FF as a count of frames since midnight at `rate`. A semicolon, comma or dot before the frames
 * means drop-frame unless `counting` says otherwise (an EDL states it once, in FCM, and then writes colons).
 * Impossible addresses are faults, never repaired.
 */
export function parseTimecode(text: string, rate: Rate, counting?: Counting): ParsedTimecode {
  const match = shape.exec(text.trim());
  if (!match) return { ok: false, fault: { code: 'not-timecode', text } };
  const marked: Counting = match[6] === ':' ? 'non-drop' : 'drop';
  const used = counting ?? marked;
  const hours = Number(match[1]);
  const minutes = Number(match[3]);
  const seconds = Number(match[5]);
  const frame = Number(match[7]);
  const nominal = nominalRate(rate);
  const wrong =
    hours > 23 ? 'hours' : minutes > 59 ? 'minutes' : seconds > 59 ? 'seconds' : frame >= nominal ? 'frames' : null;
  if (wrong) return { ok: false, fault: { code: 'no-such-address', text, field: wrong } };
  if (used === 'drop' && !hasDropFrame(rate)) return { ok: false, fault: { code: 'rate-has-no-drop-frame', text } };
  const counted = ((hours * 60 + minutes) * 60 + seconds) * nominal + frame;
  if (used === 'non-drop') return { ok: true, frames: counted, counting: used };
  const dropped = droppedPerMinute(nominal);
  if (seconds === 0 && frame < dropped && minutes % 10 !== 0)
    return { ok: false, fault: { code: 'dropped-number', text } };
  const minutesSoFar = hours * 60 + minutes;
  return { ok: true, frames: counted - dropped * (minutesSoFar - Math.floor(minutesSoFar / 10)), counting: used };
}

/** Writes a count of frames since midnight as timecode. Counts outside a day wrap, so -1 is the last frame of a day. */
export function formatTimecode(frames: number, rate: Rate, counting: Counting = 'non-drop'): string {
  const nominal = nominalRate(rate);
  const drop = counting === 'drop' && hasDropFrame(rate);
  const day = framesPerDay(rate, counting);
  let count = ((Math.floor(frames) % day) + day) % day;
  if (drop) {
    const dropped = droppedPerMinute(nominal);
    const perMinute = nominal * 60 - dropped;
    const perTenMinutes = perMinute * 10 + dropped;
    const tens = Math.floor(count / perTenMinutes);
    const rest = count % perTenMinutes;
    const minutesIn = rest < nominal * 60 ? 0 : 1 + Math.floor((rest - nominal * 60) / perMinute);
    count += dropped * (tens * 9 + minutesIn);
  }
  const frame = count % nominal;
  const seconds = Math.floor(count / nominal);
  const pad = (n: number, width = 2) => String(n).padStart(width, '0');
  const digits = nominal > 100 ? 3 : 2;
  const mark = drop ? ';' : ':';
  return `${pad(Math.floor(seconds / 3600))}:${pad(Math.floor(seconds / 60) % 60)}:${pad(seconds % 60)}${mark}${pad(frame, digits)}`;
}

/** A position as people read it: timecode for frames; hours to milliseconds for counts of samples, which have none. */
export function formatPosition(count: number, rate: Rate, counting: Counting = 'non-drop'): string {
  if (nominalRate(rate) <= 1000) return formatTimecode(count, rate, counting);
  const milliseconds = Math.round((count * rate.den * 1000) / rate.num);
  const pad = (n: number, width = 2) => String(Math.floor(n)).padStart(width, '0');
  const seconds = milliseconds / 1000;
  return `${pad(seconds / 3600)}:${pad((seconds / 60) % 60)}:${pad(seconds % 60)}.${pad(milliseconds % 1000, 3)}`;
}

const droppedPerMinute = (nominal: number): number => nominal / 15;
