import type { PlaceId } from './ids.ts';

/** A storage root. `knownAs` are the names other machines know it by: a mount point's name, "S:", a share, or a path. */
export type Place = {
  readonly id: PlaceId;
  readonly name: string;
  readonly path: string;
  readonly knownAs: readonly string[];
  /** Of `knownAs`, the names that links taught it: they help to find, and tie nothing by themselves. */
  readonly taught?: readonly string[] | undefined;
  readonly there: boolean;
};
