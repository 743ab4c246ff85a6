/** A token in braces, with how many digits a number in it has at least: "{scene}", "{n:3}". */
const token = /\{([a-z]+)(?::([1-9]))?\}/g;
/** The same with what goes when it is empty: separators before it, and up to three letters behind those, as in "_sc{scene}". */
const tokenWithSeparator = /((?:[-_. ]+[A-Za-z]{0,3})?)\{([a-z]+)(?::([1-9]))?\}/g;

/** What stands in braces and is none of the tokens known, or is a brace that has no other. */
export function strangeTokens(pattern: string, known: readonly string[]): string[] {
  const rest = pattern.replace(token, (whole, name: string) => (known.includes(name) ? '' : whole));
  return [...rest.matchAll(/\{([^{}]*)\}?|\}/g)].map((m) => m[1] ?? '}');
}

/** Whether a pattern has this token, with digits or without. */
export const hasToken = (pattern: string, name: string): boolean =>
  [...pattern.matchAll(token)].some((m) => m[1] === name);

/**
 * Tokens give way to what is known; one that is empty takes what joins it to what stands before along. Numbers get as
 * many digits as the token asks for. Tokens that are not known stay as they are.
 */
export const fillPattern = (pattern: string, parts: Readonly<Record<string, string>>): string =>
  pattern
    .replace(tokenWithSeparator, (whole, before: string, name: string, digits: string | undefined) => {
      const known = parts[name];
      if (known === undefined) return whole;
      return known && before + (digits && /^\d+$/.test(known) ? known.padStart(Number(digits), '0') : known);
    })
    .replace(/^[-_. ]+/, '');
