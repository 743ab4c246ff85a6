import { commandIds, definitionOf, listKeys, whereWords, type Where } from './definitions.ts';
import { Modal } from '../parts/Modal.tsx';

/** Every key, by where it works. */
export function KeysOverview({ onClose }: { onClose: () => void }) {
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
    <Modal label="keys" boxClass="max-w-[500px] p-4" onClose={onClose}>
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
    </Modal>
  );
}
