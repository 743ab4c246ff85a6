import type { ProjectSummary } from '@legame/core/contract';
import { defaultRules } from '@legame/core/match';
import { uuid } from './page.tsx';

/** A project in sum, as the server tells of it. */
export const projectOf = (given: Partial<ProjectSummary> = {}): ProjectSummary => ({
  ...{ id: uuid(1) as ProjectSummary['id'], name: 'Saltglass', createdAt: '2026-11-20T10:00:00.000Z' },
  ...{ rules: defaultRules, clips: 3, toDo: 2, certain: 0, darkSeconds: 4, cutSeconds: 60 },
  statuses: { linked: 1, missing: 2, changed: 0, unreadable: 0, short: 0, parked: 0, waived: 0, unshown: 0 },
  ...{ lastAct: null, redoable: null },
  ...given,
});
