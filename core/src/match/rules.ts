/** What is compared, in the order in which it is shown everywhere. */
export const attributes = ['name', 'folder', 'reel', 'timecode', 'length', 'rate', 'raster'] as const;
export type Attribute = (typeof attributes)[number];

/**
 * What an attribute does in a decision. `must`: a candidate that differs in it is refused. `counts`: a difference
 * keeps a link from being certain. `ignored`: it is shown and does nothing. Unknown never refuses and never identifies.
 */
export type RuleWeight = 'must' | 'counts' | 'ignored';
export type MatchRules = Readonly<Record<Attribute, RuleWeight>>;

export const defaultRules: MatchRules = {
  name: 'counts',
  folder: 'counts',
  reel: 'counts',
  timecode: 'must',
  length: 'must',
  rate: 'must',
  raster: 'counts',
};
