import { useState } from 'react';
import type { screenHelp } from '@legame/words/help';
import { findHelp, type ScreenHelp } from '@legame/words/help';
import { Modal } from '../parts/Modal.tsx';

type Path = keyof typeof screenHelp;

/** Help: of the screen at hand first, then of the others, then what each word means; all of it searched by one field. */
export function Help({
  screen,
  asked,
  onKeys,
  onTour,
  onAsk,
  onClose,
}: {
  screen: string | undefined;
  /** What somebody looked for who came from elsewhere. */
  asked: string;
  onKeys: () => void;
  onTour: () => void;
  /** To point at a word and be told what it means. */
  onAsk: () => void;
  onClose: () => void;
}) {
  const [text, setText] = useState(asked);
  const { screens, terms } = findHelp(text);
  const here = screens.find((one) => one.path === (screen as Path));
  const inOrder = here ? [here, ...screens.filter((one) => one !== here)] : screens;
  return (
    <Modal label="help" boxClass="flex max-h-[80vh] max-w-[640px] flex-col p-0" onClose={onClose}>
      <header className="line-b flex items-center gap-2 p-3">
        <h2 className="text-[15px] font-semibold">Help</h2>
        <input
          autoFocus
          className="input input-sm flex-1"
          aria-label="look for help"
          placeholder="a word, or what you want to do"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <button type="button" className="btn btn-plain btn-xs" onClick={onAsk}>
          What is this?
        </button>
        <button type="button" className="btn btn-plain btn-xs" onClick={onTour}>
          Show me around
        </button>
        <button type="button" className="btn btn-plain btn-xs" onClick={onKeys}>
          Keys
        </button>
        <button type="button" className="btn btn-plain btn-xs" onClick={onClose}>
          Close
        </button>
      </header>
      <div className="min-h-0 flex-1 overflow-auto p-4" tabIndex={0} role="region" aria-label="what help says">
        {inOrder.map(({ path, help }) => (
          <OneScreen key={`${path} ${text === ''}`} help={help} isOpen={path === screen || text.trim() !== ''} />
        ))}
        {terms.length > 0 && (
          <section aria-label="words">
            <h3 className="mt-3 mb-1 font-semibold">Words</h3>
            <dl className="grid grid-cols-[150px_1fr] gap-x-3 gap-y-1">
              {terms.map(([term, meaning]) => (
                <div key={term} className="contents">
                  <dt className="font-semibold">{term}</dt>
                  <dd>{meaning}</dd>
                </div>
              ))}
            </dl>
          </section>
        )}
        {inOrder.length + terms.length === 0 && (
          <p className="text-quiet">Nothing in the help speaks of “{text.trim()}”. Try fewer words, or another one.</p>
        )}
      </div>
    </Modal>
  );
}

/** Of the screen at hand all is shown; of others their first line, until they are opened. */
const OneScreen = ({ help: { title, about, how }, isOpen }: { help: ScreenHelp; isOpen: boolean }) => (
  <details open={isOpen} className="line-b py-1.5">
    <summary className="cursor-pointer">
      <b>{title}.</b> {about}
    </summary>
    <ul className="list-disc py-1 pl-8">
      {how.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  </details>
);
