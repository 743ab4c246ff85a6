import { doesNotApply, editSaysNothing, fileSaysNothing, notReadYet, type AttributeCheck } from './evidence.ts';

/** Picture size: equal, the same shape scaled (a small copy), or different. */
export const rasterCheck: AttributeCheck = {
  attribute: 'raster',
  weigh({ clip }, { file }) {
    if (!file.facts) return notReadYet;
    if (file.facts.kind === 'sound') return doesNotApply;
    if (!clip.raster) return editSaysNothing;
    if (!file.facts.raster) return fileSaysNothing;
    const rasters = { edit: clip.raster, file: file.facts.raster };
    const { edit, file: found } = rasters;
    if (edit.width === found.width && edit.height === found.height) {
      return { verdict: 'agrees', finding: { code: 'raster-equal', ...rasters } };
    }
    // One pixel of rounding is what scaling an odd size costs.
    const sameShape =
      Math.abs(edit.width * found.height - found.width * edit.height) <= Math.max(edit.width, found.width);
    return sameShape
      ? { verdict: 'nearly', finding: { code: 'raster-scaled', ...rasters } }
      : { verdict: 'differs', finding: { code: 'raster-differs', ...rasters } };
  },
};
