import { endOfString, pointerKeys, strictJson } from './json.ts';

/** Where a value stands in a JSON text: from its first character to after its last. */
export type Place = { readonly from: number; readonly to: number };

/** A member of an object with the places of its name and value. */
export type JsonMember = { readonly name: string; readonly at: number; readonly value: Place };

type Wanted = { readonly children: Map<string, Wanted>; pointer: string | null };

/**
 * Finds the values at these JSON pointers in a text that JSON.parse takes. The text is passed over once and only the
 * branches that a pointer names are entered, so a change in a document of many megabytes costs one scan of it.
 */
export function locate(text: string, pointers: Iterable<string>): Map<string, Place> {
  const root: Wanted = { children: new Map(), pointer: null };
  for (const pointer of pointers) {
    let node = root;
    for (const key of pointerKeys(pointer)) {
      const next = node.children.get(key) ?? { children: new Map(), pointer: null };
      node.children.set(key, next);
      node = next;
    }
    node.pointer = pointer;
  }
  const found = new Map<string, Place>();
  enter(strictJson(text), 0, root, found);
  return found;
}

/** The members of the object at this place, in order. Of two with one name the last counts, as for JSON.parse. */
export function membersAt(text: string, from: number): JsonMember[] {
  const members: JsonMember[] = [];
  const strict = strictJson(text.slice(from, endOfValue(text, from)));
  eachMember(strict, 0, (name, at, valueAt) => {
    const to = endOfValue(strict, valueAt);
    members.push({ name, at: from + at, value: { from: from + valueAt, to: from + to } });
    return to;
  });
  return members;
}

function enter(text: string, from: number, wanted: Wanted, found: Map<string, Place>): number {
  const start = skipSpace(text, from);
  let end: number;
  if (wanted.children.size === 0) end = endOfValue(text, start);
  else if (text[start] === '{') {
    end = eachMember(text, start, (name, _, valueAt) => {
      const child = wanted.children.get(name);
      return child ? enter(text, valueAt, child, found) : endOfValue(text, valueAt);
    });
  } else if (text[start] === '[') {
    end = start + 1;
    for (let i = 0; ; i += 1) {
      end = skipSpace(text, end);
      if (end >= text.length || text[end] === ']') break;
      if (text[end] === ',') end = skipSpace(text, end + 1);
      const child = wanted.children.get(String(i));
      end = child ? enter(text, end, child, found) : endOfValue(text, end);
    }
    end += 1;
  } else end = endOfValue(text, start);
  if (wanted.pointer !== null) found.set(wanted.pointer, { from: start, to: end });
  return end;
}

/** Calls back for each member; the answer is where its value ends. Returns where the object ends. */
function eachMember(text: string, from: number, visit: (name: string, at: number, valueAt: number) => number): number {
  let at = from + 1;
  for (;;) {
    at = skipSpace(text, at);
    if (text[at] === ',') at = skipSpace(text, at + 1);
    if (at >= text.length || text[at] !== '"') return Math.min(at + 1, text.length);
    const nameEnd = endOfString(text, at);
    const name = JSON.parse(text.slice(at, nameEnd)) as string;
    const valueAt = skipSpace(text, skipSpace(text, nameEnd) + 1);
    at = visit(name, at, valueAt);
  }
}

export function endOfValue(text: string, from: number): number {
  const start = skipSpace(text, from);
  const first = text[start];
  if (first === '"') return endOfString(text, start);
  if (first !== '{' && first !== '[') {
    const rest = /[\s,}\]]/g;
    rest.lastIndex = start;
    return rest.exec(text)?.index ?? text.length;
  }
  let depth = 0;
  for (let at = start; at < text.length; at += 1) {
    const code = text.charCodeAt(at);
    if (code === 34) at = endOfString(text, at) - 1;
    else if (code === 123 || code === 91) depth += 1;
    else if (code === 125 || code === 93) {
      depth -= 1;
      if (depth === 0) return at + 1;
    }
  }
  return text.length;
}

function skipSpace(text: string, from: number): number {
  let at = from;
  while (at < text.length && text.charCodeAt(at) <= 32) at += 1;
  return at;
}
