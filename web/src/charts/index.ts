import { lazy } from 'react';

/** Charts come with a library that is fetched when the first of them is shown. */
export const DarkTimeChart = lazy(async () => ({ default: (await import('./DarkTimeChart.tsx')).DarkTimeChart }));
export const RoomByUseChart = lazy(async () => ({ default: (await import('./RoomByUseChart.tsx')).RoomByUseChart }));
export const SpeedChart = lazy(async () => ({ default: (await import('./SpeedChart.tsx')).SpeedChart }));
