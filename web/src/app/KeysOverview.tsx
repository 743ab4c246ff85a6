import { keys } from './steps.ts';

export function KeysOverview({ onClose }: { onClose: () => void }) {
  return (
    <div
      className="fixed inset-0 z-20 flex items-center justify-center bg-base-content/20"
      onClick={onClose}
      role="presentation"
    >
      <section
        className="sheet max-h-full w-[460px] overflow-auto p-4"
        aria-label="keys"
        onClick={(event) => event.stopPropagation()}
      >
        <div className="mb-2 flex items-center justify-between">
          <h2 className="text-[15px] font-semibold">Keys</h2>
          <button type="button" className="btn btn-plain btn-xs" onClick={onClose}>
            Close
          </button>
        </div>
        <dl className="grid grid-cols-[150px_1fr] gap-x-2 gap-y-1.5">
          {keys.map(([key, what]) => (
            <div key={key} className="contents">
              <dt>
                <kbd className="kbd-mark">{key}</kbd>
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </section>
    </div>
  );
}
