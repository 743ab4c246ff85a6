import type { Route } from '../route.ts';
import { clipRoutes } from './clips.ts';
import { documentRoutes } from './documents.ts';
import { handoffRoutes } from './handoffs.ts';
import { jobRoutes } from './jobs.ts';
import { placeRoutes } from './places.ts';
import { projectRoutes } from './projects.ts';
import { reportRoutes } from './reports.ts';
import { storageRoutes } from './storage.ts';

/** Every route of the HTTP interface, by noun. */
export const routes: readonly Route[] = [
  ...projectRoutes,
  ...reportRoutes,
  ...documentRoutes,
  ...clipRoutes,
  ...placeRoutes,
  ...storageRoutes,
  ...handoffRoutes,
  ...jobRoutes,
];
