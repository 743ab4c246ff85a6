import { archiveStore } from '../stores/archives.ts';
import { readLogStore } from '../stores/readLog.ts';

/** What was opened, newest first, what is still open before all others. */
export const listReadLog = (...args: Parameters<typeof readLogStore.list>) => readLogStore.list(...args);

/** The index archives of a place, newest first. */
export const listArchives = (...args: Parameters<typeof archiveStore.list>) => archiveStore.list(...args);
