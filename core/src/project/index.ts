/** What others use of `project`. */
export { collectTimelines, packProject, unpackProject, type DocumentToPack } from './package.ts';
export type { PackedClip, PackedFile } from './schema.ts';
