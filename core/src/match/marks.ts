import type { Evidence, Finding, Verdict } from './evidence/evidence.ts';
import { attributes, type Attribute, type MatchRules } from './rules.ts';

/**
 * Evidence for one file in one number, so that twenty thousand clips are decided anew while a hand is on a rule: two
 * bits an attribute for its verdict, in the order of `attributes`, above them the grade of the name, and whether it lies
 * beside. What was compared, and the sentence, are worked out when somebody looks.
 */
export type Marks = number;

const verdicts = ['unknown', 'agrees', 'nearly', 'differs'] as const satisfies readonly Verdict[];
const codes: Readonly<Record<Verdict, number>> = { unknown: 0, agrees: 1, nearly: 2, differs: 3 };
/** Ways for names to stand to one another that decisions ask for beyond the verdict. */
const nameGrades = ['as-said', 'case', 'unicode', 'extension', 'version', 'number', 'copy'] as const;
export type NameGrade = (typeof nameGrades)[number];

const gradeShift = attributes.length * 2;
const besideBit = 1 << (gradeShift + 3);
const position = Object.fromEntries(attributes.map((attribute, i) => [attribute, i * 2])) as Readonly<
  Record<Attribute, number>
>;

/** Packs evidence in the order of `attributes`. */
export function packMarks<T>(list: readonly T[], weighing: (item: T) => Pick<Evidence, 'verdict' | 'finding'>): Marks {
  let marks = 0;
  for (let i = 0; i < list.length; i += 1) {
    const { verdict, finding } = weighing(list[i]!);
    marks |= codes[verdict] << (i * 2);
    // The name is the first, and says more than its verdict.
    if (i === 0) marks |= gradeOf(finding) << gradeShift;
    if (finding.code === 'folder-beside') marks |= besideBit;
  }
  return marks;
}

const gradesByFinding: Partial<Record<Finding['code'], NameGrade>> = {
  'name-case': 'case',
  'name-unicode': 'unicode',
  'name-extension': 'extension',
  'name-version': 'version',
  'name-in-other-folder': 'version',
  'name-version-untold': 'version',
  'name-number': 'number',
  'name-copy': 'copy',
};
const gradeOf = (finding: Finding): number => nameGrades.indexOf(gradesByFinding[finding.code] ?? 'as-said');

/** How the names stand to one another, where that is more than the verdict says. */
export const nameGradeIn = (marks: Marks): NameGrade => nameGrades[(marks >> gradeShift) & 7]!;

/** Its folder is that of another camera, eye or channel, which may have rolled from the same frame to the same frame. */
export const liesBeside = (marks: Marks): boolean => (marks & besideBit) !== 0;

/** How much a verdict says for a file, beside others. */
export const verdictRank: Readonly<Record<Verdict, number>> = { agrees: 3, nearly: 2, unknown: 1, differs: 0 };

/** The verdict as evidence gave it; rules have no say here. */
export const verdictIn = (marks: Marks, attribute: Attribute): Verdict => verdicts[(marks >> position[attribute]) & 3]!;

export const verdictsIn = (marks: Marks): Verdict[] => attributes.map((attribute) => verdictIn(marks, attribute));

/** Rules taken apart into bits, so that asking them costs no more than the marks do. Made once for many clips. */
export type RuleBits = { readonly shown: number; readonly must: number; readonly rules: MatchRules };

const bitsOf = new WeakMap<MatchRules, RuleBits>();

export function ruleBits(rules: MatchRules): RuleBits {
  const known = bitsOf.get(rules);
  if (known) return known;
  const made = takeApart(rules);
  bitsOf.set(rules, made);
  return made;
}

function takeApart(rules: MatchRules): RuleBits {
  let [shown, must] = [0, 0];
  for (const attribute of attributes) {
    if (rules.weights[attribute] !== 'ignored') shown |= 3 << position[attribute];
    if (rules.weights[attribute] === 'must') must |= 1 << position[attribute];
  }
  return { shown, must, rules };
}

/**
 * Marks as the rules take them, to be read with `verdictIn`: ignored attributes say nothing, and three options turn
 * "nearly" into "agrees".
 */
export function marksUnder({ shown, rules }: RuleBits, marks: Marks): Marks {
  let seen = marks & shown;
  const grade = nameGradeIn(marks);
  if (grade === 'case' && (shown & 3) !== 0) seen = (seen & ~3) | (rules.ignoreCase ? codes.agrees : codes.nearly);
  if (grade === 'extension' && rules.ignoreExtension && (shown & 3) !== 0) seen = (seen & ~3) | codes.agrees;
  if (rules.acrossRates && verdictIn(seen, 'rate') === 'nearly')
    seen = (seen & ~(3 << position.rate)) | (codes.agrees << position.rate);
  return seen;
}

/** Whether anything that must agree differs. A name that must agree is refused for anything less. */
export function isRefusedUnder({ must }: RuleBits, seen: Marks): boolean {
  const nameMust = (must & 1) !== 0 && (seen & 3) !== codes.unknown && (seen & 3) !== codes.agrees;
  return nameMust || (seen & (seen >> 1) & must & ~1) !== 0;
}

/** The verdict as the rules take it, for one look. */
export const verdictUnder = (rules: MatchRules, marks: Marks, attribute: Attribute): Verdict =>
  verdictIn(marksUnder(ruleBits(rules), marks), attribute);
