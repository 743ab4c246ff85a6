import { nameTokens } from './names.ts';

/**
 * Words that say a picture or a sound was worked on after it was recorded. A file that bears one more or another of
 * them may show something else at the same timecode: a grade, a composite, a mix, a later version.
 */
const workedOn = new Set(
  (
    'grade graded grading regrade regraded color colour coloured colored cc corrected comp composite composited vfx fx ' +
    'clean cleaned cleanup matte denoise denoised stab stabilised stabilized retime retimed resized reframed cropped ' +
    'mix mixed premix remix mono edit edited cut recut final online conform conformed temp alt alternate fixed fix wip ' +
    'slated burnin subtitled titled warm cold revised version ver rev'
  ).split(' '),
);

const isVersion = (token: string): boolean => /^(?:v|ver|version|rev|r)\d{1,4}$/.test(token) || workedOn.has(token);

/**
 * How the numbers and words of two stems stand to one another. `version`: they differ in nothing but what tells one
 * version of a picture from another. `number`: the words are the same, a number is not, and a number is identity.
 */
export function kinshipOf(a: string, b: string): 'same' | 'version' | 'number' | 'other' {
  // Names that begin with other letters are no kin, and most are not.
  if (a.charAt(0) !== b.charAt(0) && !/[^a-z]/.test(a.charAt(0) + b.charAt(0))) return 'other';
  const [x, y] = [nameTokens(a), nameTokens(b)];
  const [plainX, plainY] = [x.filter((t) => !isVersion(t)).join(' '), y.filter((t) => !isVersion(t)).join(' ')];
  if (plainX === plainY && plainX !== '') return x.join(' ') === y.join(' ') ? 'same' : 'version';
  const shape = (text: string) => text.replace(/\d+/g, '#');
  return shape(plainX) === shape(plainY) ? 'number' : 'other';
}

/** Whether something that was added to a stem says that the picture was worked on. */
export const addsVersion = (stem: string, longer: string): boolean => {
  const own = nameTokens(stem);
  return nameTokens(longer).some((token) => isVersion(token) && !own.includes(token));
};

/** The numbered versions that the name of a folder tells: "v002", "comp_v2", "rev 3". */
export function versionsIn(folder: string): number[] {
  const tokens = nameTokens(folder);
  return tokens.flatMap((token, i) => {
    const [, word, number] = /^(v|ver|version|rev)(\d{0,4})$/.exec(token) ?? [];
    const told = number || (word && word !== 'v' ? /^\d{1,4}$/.exec(tokens[i + 1] ?? '')?.[0] : undefined);
    return told ? [Number(told)] : [];
  });
}

/**
 * Whether the lowest folders that differ do so in nothing but their numbers, as those of two days or rolls; the drive
 * itself, which is the first, is none of them.
 */
export function areOfOtherNumber(a: readonly string[], b: readonly string[]): boolean {
  let up = 1;
  while (up < a.length && up < b.length && a.at(-up) === b.at(-up)) up += 1;
  if (up >= a.length || up >= b.length) return false;
  const [x, y] = [a.at(-up)!, b.at(-up)!];
  const plain = (folder: string) => folder.replace(/(^|\D)0+(?=\d)/g, '$1');
  const shape = (folder: string) => folder.replace(/\d+/g, '#');
  return shape(x) === shape(y) && plain(x) !== plain(y);
}
