import { useEffect, useState } from 'react';
import { termsIn } from '@legame/words/help';
import { askHelp, askWhatThisIs } from '../session/look.ts';
import { useAppDispatch } from './store.ts';

type Told = { readonly terms: ReturnType<typeof termsIn>; readonly title: string };

/** More is no explanation any more. */
const mostTold = 3;
const longestText = 160;

/**
 * What the words under the pointer, or in the keyboard's focus, mean. While it is on, nothing that is clicked does what it
 * does: a click goes to the help of that word.
 */
export function WhatIsThis() {
  const dispatch = useAppDispatch();
  const [told, setTold] = useState<Told | null>(null);
  useEffect(() => {
    let last: EventTarget | null = null;
    const look = ({ target }: Event) => {
      if (target === last || !(target instanceof Element) || target.closest('[data-explains]')) return;
      last = target;
      setTold(toldOf(target));
    };
    const open = (event: MouseEvent) => {
      if (!(event.target instanceof Element) || event.target.closest('[data-explains]')) return;
      event.preventDefault();
      event.stopPropagation();
      if (event.type !== 'click') return;
      const [first] = toldOf(event.target)?.terms ?? [];
      if (!first) return;
      dispatch(askWhatThisIs(false));
      dispatch(askHelp(first[0]));
    };
    const key = (event: KeyboardEvent) => {
      const isOwn = event.target instanceof Element && event.target.closest('[data-explains]');
      if (event.key === 'Tab' || (isOwn && event.key !== 'Escape')) return;
      // What is the browser's own, as loading the page anew, stays so.
      if (!event.ctrlKey && !event.metaKey && !/^F\d/.test(event.key)) event.preventDefault();
      event.stopPropagation();
      if (event.key === 'Escape') dispatch(askWhatThisIs(false));
    };
    const heard: readonly (readonly [string, (event: never) => void])[] = [
      ...['pointermove', 'focusin'].map((what) => [what, look] as const),
      ...['pointerdown', 'mousedown', 'click', 'dblclick', 'contextmenu'].map((what) => [what, open] as const),
      ['keydown', key],
    ];
    const hear = (how: 'addEventListener' | 'removeEventListener') => {
      for (const [what, listen] of heard) document[how](what, listen as EventListener, { capture: true });
    };
    hear('addEventListener');
    document.documentElement.classList.add('cursor-help');
    return () => {
      hear('removeEventListener');
      document.documentElement.classList.remove('cursor-help');
    };
  }, [dispatch]);
  return (
    <section
      data-explains
      aria-label="what this is"
      aria-live="polite"
      className="sheet fixed bottom-10 left-1/2 z-50 w-[560px] max-w-[94vw] -translate-x-1/2 border-primary! px-3.5 py-2.5 shadow-lg"
    >
      {told ? (
        <dl>
          {told.terms.map(([term, meaning]) => (
            <div key={term}>
              <dt className="inline font-semibold">{term}</dt>: <dd className="inline">{meaning}.</dd>
            </div>
          ))}
          {told.title && <dd className="text-quiet">{told.title}</dd>}
        </dl>
      ) : (
        <p>Point at a word, or go to it by Tab, and it is told here what it means.</p>
      )}
      <p className="flex items-baseline justify-between gap-3 pt-1 text-[12px] text-quiet">
        <span>Nothing that you click does anything now; it opens the help of its word.</span>
        <button type="button" className="btn btn-plain btn-xs" onClick={() => dispatch(askWhatThisIs(false))}>
          Done <kbd className="kbd-mark">Esc</kbd>
        </button>
      </p>
    </section>
  );
}

/** The terms of what is pointed at, or of what it stands in; and what its tooltip says. */
function toldOf(element: Element): Told | null {
  const title = element.closest('[title]')?.getAttribute('title') ?? '';
  let at: Element | null = element;
  for (let up = 0; at && up < 4; up += 1, at = at.parentElement) {
    const text = `${at.getAttribute('aria-label') ?? ''} ${(at.textContent ?? '').slice(0, longestText)}`;
    const terms = termsIn(text);
    if (terms.length > 0) return { terms: terms.slice(0, mostTold), title };
  }
  return title ? { terms: [], title } : null;
}
