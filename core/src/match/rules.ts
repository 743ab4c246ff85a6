import type { MediaKind } from '../model/edit.ts';
import type { PlaceId } from '../model/ids.ts';

/** What is compared, in the order in which it is shown everywhere; the first eight make the evidence strip. */
export const attributes = [
  'name',
  'folder',
  'reel',
  'timecode',
  'length',
  'rate',
  'raster',
  'content',
  'kind',
  'codec',
  'sound',
  'size',
  'date',
] as const;
export type Attribute = (typeof attributes)[number];
export const attributesInShort = attributes.slice(0, 8);

/**
 * What an attribute does in a decision. `must`: a candidate that differs in it is refused. `counts`: a difference
 * keeps a link from being certain. `ignored`: it is shown and does nothing. Unknown never refuses and never identifies.
 */
export type RuleWeight = 'must' | 'counts' | 'ignored';

/** A folder of a place, and all below it; "" is the whole place. */
export type SearchedFolder = { readonly placeId: PlaceId; readonly folder: string };

export type MatchRules = {
  readonly weights: Readonly<Record<Attribute, RuleWeight>>;
  /** "BOWL.MOV" agrees with "bowl.mov"; else it nearly agrees. */
  readonly ignoreCase: boolean;
  /** "bowl.mxf" agrees with "bowl.mov"; else it nearly agrees. */
  readonly ignoreExtension: boolean;
  /** A rate of the same count at another speed (24 and 23.976) agrees; else it nearly agrees, and is asked about. */
  readonly acrossRates: boolean;
  /** Where to look; null looks everywhere. */
  readonly within: readonly SearchedFolder[] | null;
  /** Which kinds of media to tie; null is every kind. */
  readonly kinds: readonly MediaKind[] | null;
};

const usual: MatchRules['weights'] = {
  name: 'counts',
  folder: 'counts',
  reel: 'counts',
  timecode: 'must',
  length: 'must',
  rate: 'must',
  raster: 'counts',
  content: 'counts',
  kind: 'must',
  codec: 'counts',
  sound: 'counts',
  size: 'counts',
  date: 'ignored',
};
const everywhere = { within: null, kinds: null } as const;

export const defaultRules: MatchRules = {
  weights: usual,
  ignoreCase: true,
  ignoreExtension: false,
  acrossRates: false,
  ...everywhere,
};

/** A set of rules under a name, kept with a project. */
export type RuleSet = { readonly name: string; readonly rules: MatchRules };

/** The sets that every project has from the start. */
export const shippedRuleSets: readonly RuleSet[] = [
  {
    name: 'Strict',
    rules: {
      weights: { ...usual, name: 'must', reel: 'must', raster: 'must', content: 'must', codec: 'must', sound: 'must' },
      ignoreCase: false,
      ignoreExtension: false,
      acrossRates: false,
      ...everywhere,
    },
  },
  { name: 'Usual', rules: defaultRules },
  {
    name: 'By name',
    rules: {
      weights: { ...usual, name: 'must', reel: 'ignored', timecode: 'ignored', codec: 'ignored', size: 'ignored' },
      ignoreCase: true,
      ignoreExtension: true,
      acrossRates: true,
      ...everywhere,
    },
  },
  {
    name: 'By reel and timecode',
    rules: {
      weights: { ...usual, name: 'ignored', folder: 'ignored', reel: 'must', raster: 'ignored', codec: 'ignored' },
      ignoreCase: true,
      ignoreExtension: true,
      acrossRates: true,
      ...everywhere,
    },
  },
];
