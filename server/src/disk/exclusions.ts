/**
 * Patterns of paths that are left out: `*` and `?` within a name, `**` over folders, `[a-z]` one of these,
 * `{a,b}` the one or the other, all else as it is, upper and lower case alike. Matched position by position in time that grows with pattern times path and no
 * faster, whatever somebody writes; a pattern made into a regular expression has no such bound.
 */
type Token =
  { readonly is: 'folders' | 'all' | 'some' } | { readonly is: 'one'; readonly fits: (c: string) => boolean };

/** Whether one of the patterns names this path, or the file or folder at its end. */
export function excluder(patterns: readonly string[]): (path: string) => boolean {
  const spelled = patterns.flatMap(choices);
  const whole = spelled.map(tokensOf);
  const last = spelled.filter((p) => !p.includes('/')).map(tokensOf);
  return (path) => {
    const text = path.toLowerCase();
    const name = text.slice(text.lastIndexOf('/') + 1);
    return (
      whole.some((tokens) => fits(tokens, text) || fits(tokens, `${text}/`)) ||
      last.some((tokens) => fits(tokens, name))
    );
  };
}

/** More spellings than this nobody means; the rest stays as it is written. */
const mostChoices = 64;

/** Every spelling of a pattern with choices. */
function choices(pattern: string): string[] {
  let spelled = [pattern];
  for (;;) {
    const next = spelled.flatMap((text) => {
      const found = /\{([^{}]*,[^{}]*)\}/.exec(text);
      if (!found) return [text];
      const [before, after] = [text.slice(0, found.index), text.slice(found.index + found[0].length)];
      return found[1]!.split(',').map((one) => before + one + after);
    });
    if (next.length === spelled.length || next.length > mostChoices) return spelled;
    spelled = next;
  }
}

function tokensOf(pattern: string): Token[] {
  const tokens: Token[] = [];
  const text = pattern.toLowerCase();
  for (let at = 0; at < text.length;) {
    const rest = text.slice(at);
    const set = /^\[([!^]?)([^\]]+)\]/.exec(rest);
    if (rest.startsWith('**/')) tokens.push({ is: 'folders' });
    else if (rest.startsWith('**')) tokens.push({ is: 'all' });
    else if (rest.startsWith('*')) tokens.push({ is: 'some' });
    else if (rest.startsWith('?')) tokens.push({ is: 'one', fits: (c) => c !== '/' });
    else if (set) tokens.push({ is: 'one', fits: oneOf(set[2]!, set[1] !== '') });
    else {
      const wanted = text[at];
      tokens.push({ is: 'one', fits: (c) => c === wanted });
    }
    at += rest.startsWith('**/') ? 3 : rest.startsWith('**') ? 2 : set ? set[0].length : 1;
  }
  return tokens;
}

function oneOf(set: string, isNot: boolean): (c: string) => boolean {
  const ranges = [...set.matchAll(/(.)-(.)|(.)/g)].map(([, from, to, one]) => [from ?? one!, to ?? one!] as const);
  return (c) => c !== '/' && ranges.some(([from, to]) => from <= c && c <= to) !== isNot;
}

/** How far each prefix of the text is matched by the tokens so far: one row of it a token. */
function fits(tokens: readonly Token[], text: string): boolean {
  let row = Array.from({ length: text.length + 1 }, (_, i) => i === 0);
  for (const token of tokens) {
    const next = row.map((isReached) => (token.is === 'one' ? false : isReached));
    let isOpen = false;
    for (let i = 0; i < text.length; i += 1) {
      const c = text[i]!;
      isOpen ||= row[i]!;
      if (token.is === 'one') next[i + 1] = row[i]! && token.fits(c);
      else if (token.is === 'all') next[i + 1] ||= isOpen;
      else if (token.is === 'some') next[i + 1] ||= next[i]! && c !== '/';
      // Any folders above, or none: it ends behind a slash.
      else next[i + 1] ||= isOpen && c === '/';
    }
    row = next;
  }
  return row[text.length]!;
}
