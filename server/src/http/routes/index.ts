import type { Route } from '../route.ts';
import { actRoutes } from './acts.ts';
import { binRoutes } from './bins.ts';
import { clipRoutes } from './clips.ts';
import { documentRoutes } from './documents.ts';
import { findRoutes } from './find.ts';
import { folderRoutes } from './folders.ts';
import { handoffRoutes } from './handoffs.ts';
import { healthRoutes } from './health.ts';
import { jobRoutes } from './jobs.ts';
import { placeRoutes } from './places.ts';
import { layoutRoutes } from './layouts.ts';
import { projectRoutes } from './projects.ts';
import { pullRoutes } from './pulls.ts';
import { reportRoutes } from './reports.ts';
import { ruleRoutes } from './rules.ts';
import { setRoutes } from './sets.ts';
import { settingRoutes } from './settings.ts';
import { storageRoutes } from './storage.ts';

/** Every route of the HTTP interface, by noun. */
export const routes: readonly Route[] = [
  ...layoutRoutes,
  ...projectRoutes,
  ...actRoutes,
  ...ruleRoutes,
  ...pullRoutes,
  ...reportRoutes,
  ...documentRoutes,
  ...binRoutes,
  ...clipRoutes,
  ...placeRoutes,
  ...storageRoutes,
  ...findRoutes,
  ...folderRoutes,
  ...handoffRoutes,
  ...healthRoutes,
  ...setRoutes,
  ...jobRoutes,
  ...settingRoutes,
];
