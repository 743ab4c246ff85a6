/**
 * The forms in which one recording lies on the storage. `original`: the largest raster there is. `small`: the same
 * shape, smaller. `accepted`: an accepted copy that Legame made. `other`: as large, in another container or codec.
 */
export const forms = ['original', 'small', 'accepted', 'other'] as const;
export type Form = (typeof forms)[number];
/** What a project works with until somebody says otherwise. */
export const defaultForm: Form = 'original';
