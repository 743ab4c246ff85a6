import type { ReactNode } from 'react';
import { tipOf, type CommandId } from './definitions.ts';
import { runCommand, useCommandStates, whyNot } from './useCommand.ts';

/** A button of a command. Where it cannot be done now it stays in reach, looks so, and says why. */
export function CommandButton({
  id,
  className,
  busy = false,
  children,
}: {
  id: CommandId;
  className: string;
  busy?: boolean;
  children: ReactNode;
}) {
  useCommandStates();
  const why = whyNot(id);
  return (
    <button
      type="button"
      className={`${className} ${why === null ? '' : 'opacity-50'}`}
      title={why ?? tipOf(id)}
      aria-disabled={why !== null}
      disabled={busy}
      onClick={() => runCommand(id)}
    >
      {children}
    </button>
  );
}
