import type { DateStyle, DropFrameMark, Preferences } from '@legame/core/contract';

export const themeText: Readonly<Record<Preferences['theme'], string>> = {
  paper: 'paper, by day',
  lamp: 'lamp, by night',
};
export const densityText: Readonly<Record<Preferences['density'], string>> = { roomy: 'roomy', close: 'close' };
export const dateStyleText: Readonly<Record<DateStyle, string>> = {
  words: 'as this browser says them',
  'year-first': '2026-11-27 19:30',
  'day-first': '27.11.2026 19:30',
};
export const dropFrameText: Readonly<Record<DropFrameMark, string>> = {
  semicolon: '01:00:00;02',
  period: '01:00:00.02',
};
