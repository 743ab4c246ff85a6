import { Command } from 'cmdk';
import { glossary } from '@legame/words/help';
import { useAppDispatch } from '../app/store.ts';
import { askHelp } from '../session/look.ts';

/** Words that the help explains, where one begins as what was typed. */
export function WordsFound({ wanted, itemClass, onDone }: { wanted: string; itemClass: string; onDone: () => void }) {
  const dispatch = useAppDispatch();
  const found = glossary.filter(([term]) => wanted.length > 1 && term.toLowerCase().startsWith(wanted)).slice(0, 3);
  return found.map(([term, meaning]) => (
    <Command.Item
      key={`help ${term}`}
      value={`help ${term}`}
      className={itemClass}
      onMouseDown={(event) => event.preventDefault()}
      onSelect={() => {
        onDone();
        dispatch(askHelp(term));
      }}
    >
      <span>{term}</span>
      <span className="truncate text-quiet">{meaning}</span>
    </Command.Item>
  ));
}
