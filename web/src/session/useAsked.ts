import { useState } from 'react';
import { useSearchParams } from 'react-router';

/** What the address asks to be shown, until something else is chosen; and again as soon as it asks for another. */
export function useAsked(name: string): readonly [string | null, (chosen: string | null) => void] {
  const [query] = useSearchParams();
  const asked = query.get(name);
  const [before, setBefore] = useState(asked);
  const [chosen, setChosen] = useState(asked);
  if (asked !== before) {
    setBefore(asked);
    setChosen(asked);
  }
  return [chosen, setChosen];
}
