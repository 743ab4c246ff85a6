import { SaxesParser } from 'saxes';
import { text } from './xml.ts';

export const chainName = 'ascmhl_chain.xml';
/** A generation by the name of its list, and the C4 identifier of what that says, so that none is changed unnoticed. */
export type Link = { readonly name: string; readonly c4: string };

/** The list of generations, oldest first. */
export function writeChain(links: readonly Link[]): string {
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<ascmhldirectory xmlns="urn:ASC:MHL:DIRECTORY:v2.0">',
    ...links.flatMap((link, i) => linesOf(link, i + 1)),
    '</ascmhldirectory>',
    '',
  ].join('\n');
}

/** A chain with one generation more; all that stands in it stays to the letter. Null where it is no chain. */
export function lengthenChain(chain: string, link: Link): string | null {
  const links = readChain(chain);
  const end = chain.lastIndexOf('</ascmhldirectory>');
  if (!links || end < 0) return null;
  return `${chain.slice(0, end)}${linesOf(link, links.length + 1).join('\n')}\n${chain.slice(end)}`;
}

const linesOf = ({ name, c4 }: Link, number: number): string[] => [
  `  <hashlist sequencenr="${number}">`,
  `    <path>${text(name)}</path>`,
  `    <c4>${c4}</c4>`,
  '  </hashlist>',
];

/** The generations that a chain names, oldest first; null where it is no chain, or a broken one. */
export function readChain(xml: string): Link[] | null {
  const links: Link[] = [];
  const parser = new SaxesParser({ xmlns: false });
  let [isBroken, depth, said] = [false, 0, ''];
  let link: { name?: string; c4?: string } = {};
  parser.on('error', () => (isBroken = true));
  parser.on('opentag', ({ name }) => {
    isBroken ||= depth === 0 && name !== 'ascmhldirectory';
    depth += 1;
    said = '';
    if (name === 'hashlist') link = {};
  });
  parser.on('text', (piece) => (said += piece));
  parser.on('closetag', ({ name }) => {
    depth -= 1;
    if (name === 'path') link.name = said.trim();
    if (name === 'c4') link.c4 = said.trim();
    if (name === 'hashlist' && link.name && link.c4) links.push({ name: link.name, c4: link.c4 });
  });
  parser.write(xml).close();
  return isBroken ? null : links;
}
