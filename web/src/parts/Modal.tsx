import { useEffect, useRef, type ReactNode } from 'react';

/** A box over the page: the rest of it is out of reach, and Escape or a click beside the box closes it. */
export function Modal({
  label,
  boxClass,
  onClose,
  children,
}: {
  label: string;
  boxClass: string;
  onClose: () => void;
  children: ReactNode;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    // (jsdom has none.)
    dialog.current?.showModal?.();
  }, []);
  return (
    <dialog ref={dialog} className="modal" aria-label={label} onClose={onClose}>
      <div className={`modal-box rounded border border-base-300 shadow-lg ${boxClass}`}>{children}</div>
      <form method="dialog" className="modal-backdrop">
        <button type="submit" aria-label="close" />
      </form>
    </dialog>
  );
}
