import { uuid } from './page.tsx';

/** A job of a kind as the server tells of it, waiting for its turn. */
export const jobOf = (kind: string) => ({
  id: uuid(70),
  kind,
  payload:
    kind === 'fetch-shelved'
      ? { shelf: 'vault', path: 'x' }
      : kind === 'index-place'
        ? { placeId: uuid(1), folder: '' }
        : { trialId: uuid(2), scope: 'used', copyId: uuid(3), mediaFileId: uuid(4) },
  about: 'x',
  state: 'queued',
  progress: null,
  problem: null,
  createdAt: '2026-11-20T10:00:00.000Z',
  startedAt: null,
  finishedAt: null,
});
