import type { Evidence, Finding, Verdict } from './evidence/evidence.ts';
import { attributes, type Attribute, type MatchRules } from './rules.ts';

/**
 * Evidence for one file in one number, so that twenty thousand clips are decided anew while a hand is on a rule: two
 * bits an attribute for its verdict, in the order of `attributes`, and above them the grade of the name. What was
 * compared, and the sentence, are worked out when somebody looks.
 */
export type Marks = number;

const verdicts = ['unknown', 'agrees', 'nearly', 'differs'] as const satisfies readonly Verdict[];
const codes: Readonly<Record<Verdict, number>> = { unknown: 0, agrees: 1, nearly: 2, differs: 3 };
const nameGrades = ['as-said', 'case', 'extension'] as const;
const gradeShift = attributes.length * 2;
const position = Object.fromEntries(attributes.map((attribute, i) => [attribute, i * 2])) as Readonly<
  Record<Attribute, number>
>;

/** Packs evidence in the order of `attributes`. */
export function packMarks(weighings: readonly Pick<Evidence, 'verdict' | 'finding'>[]): Marks {
  let marks = 0;
  for (let i = 0; i < weighings.length; i += 1) marks |= codes[weighings[i]!.verdict] << (i * 2);
  return marks | (gradeOf(weighings[0]!.finding) << gradeShift);
}

/** Case and extension are the two ways for a name to differ that a rule may overlook. */
function gradeOf(finding: Finding): number {
  if (finding.code === 'name-case') return nameGrades.indexOf('case');
  return finding.code === 'name-extension' ? nameGrades.indexOf('extension') : nameGrades.indexOf('as-said');
}

/** The verdict as evidence gave it; rules have no say here. */
export const verdictIn = (marks: Marks, attribute: Attribute): Verdict => verdicts[(marks >> position[attribute]) & 3]!;

export const verdictsIn = (marks: Marks): Verdict[] => attributes.map((attribute) => verdictIn(marks, attribute));

/** The verdict as the rules take it: ignored attributes say nothing, and three options turn "nearly" into "agrees". */
export function verdictUnder(rules: MatchRules, marks: Marks, attribute: Attribute): Verdict {
  if (rules.weights[attribute] === 'ignored') return 'unknown';
  const verdict = verdictIn(marks, attribute);
  if (attribute === 'name') {
    const grade = nameGrades[marks >> gradeShift];
    if (grade === 'case') return rules.ignoreCase ? 'agrees' : 'nearly';
    if (grade === 'extension' && rules.ignoreExtension) return 'agrees';
  }
  if (attribute === 'rate' && verdict === 'nearly' && rules.acrossRates) return 'agrees';
  return verdict;
}
