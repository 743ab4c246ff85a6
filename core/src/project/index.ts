/** What others use of `project`. */
export { collectTimelines, packProject, unpackProject, type DocumentToPack, type PackageFault } from './package.ts';
export type { PackedClip, PackedFile } from './schema.ts';
