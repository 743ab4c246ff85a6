import { useEffect, useRef } from 'react';
import { commandIds, definitionOf, listKeys, whereWords, type Where } from './definitions.ts';

/** Every key, by where it works. */
export function KeysOverview({ onClose }: { onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    // A real modal: the rest of the page is out of reach, and Escape closes it. (jsdom has none.)
    dialog.current?.showModal?.();
  }, []);
  const withKeys = commandIds.filter((id) => definitionOf(id).shown);
  const places = [...new Set(withKeys.map((id) => definitionOf(id).where))];
  const row = (key: string, what: string) => (
    <div key={key} className="contents">
      <dt>
        <kbd className="kbd-mark">{key}</kbd>
      </dt>
      <dd>{what}</dd>
    </div>
  );
  const group = (title: string, rows: React.ReactNode) => (
    <section key={title} className="mb-3">
      <h3 className="mb-1 font-semibold text-quiet">{title}</h3>
      <dl className="grid grid-cols-[150px_1fr] gap-x-2 gap-y-1">{rows}</dl>
    </section>
  );
  return (
    <dialog ref={dialog} className="modal" aria-label="keys" onClose={onClose}>
      <div className="modal-box max-w-[500px] rounded border border-base-300 p-4 shadow-lg">
        <div className="mb-2 flex items-center justify-between">
          <h2 className="text-[15px] font-semibold">Keys</h2>
          <button type="button" className="btn btn-plain btn-xs" onClick={onClose}>
            Close
          </button>
        </div>
        {places.map((where: Where) =>
          group(
            whereWords[where],
            withKeys
              .filter((id) => definitionOf(id).where === where)
              .map((id) => row(definitionOf(id).shown!, definitionOf(id).title)),
          ),
        )}
        {group(
          'In lists',
          listKeys.map(([key, what]) => row(key, what)),
        )}
      </div>
      <form method="dialog" className="modal-backdrop">
        <button type="submit" aria-label="close" />
      </form>
    </dialog>
  );
}
