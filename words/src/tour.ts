import type { screenHelp } from './help.ts';

/** The way round the demo, screen by screen. */
export const tour: readonly { readonly screen: keyof typeof screenHelp; readonly says: string }[] = [
  {
    screen: 'causes',
    says: 'The edit opened with dark clips. Here is why: a handful of causes, each with what it costs on screen.',
  },
  {
    screen: 'ledger',
    says: 'Clip by clip: what the edit remembers, what was found, and the evidence. Link what is certain in one act.',
  },
  { screen: 'cut', says: 'Where the cut is still dark. Every event hangs by a thread on the recording it reads.' },
  { screen: 'pulls', says: 'What is nowhere is asked for here, by reel; what comes back is linked by itself.' },
  {
    screen: 'handoff',
    says: 'In the end, what the next person needs: gathered, trimmed without loss, proven byte by byte.',
  },
];
