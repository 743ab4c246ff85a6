import { X } from 'lucide-react';
import { Link, useNavigate, useParams } from 'react-router';
import type { SetCheck } from '@legame/core/contract';
import { when } from '@legame/words/numbers';
import { sets } from '../../api/sets.ts';
import { ThemeSwitch, Wordmark } from '../../app/TopBar.tsx';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { CheckPanel } from './CheckPanel.tsx';
import { NewCheck } from './NewCheck.tsx';
import { standingOf } from './standing.ts';

/** Received sets: whether every file is what was handed over, and the way from there into a project. */
export function ReceivedView() {
  const { checkId } = useParams();
  const navigate = useNavigate();
  const checks = sets.useSetChecksQuery();
  const shown = checks.data?.find((check) => check.id === checkId);
  return (
    <div className="flex h-full flex-col">
      <header className="line-b flex h-11 shrink-0 items-center gap-4 bg-base-100 px-3">
        <Wordmark />
        <Link to="/" className="text-quiet hover:underline">
          All projects
        </Link>
        <span className="flex-1" />
        <ThemeSwitch />
      </header>
      {!checks.data ? (
        <Waiting what="received sets" error={checks.error} />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[220px_minmax(0,1fr)]">
          <aside className="line-r flex min-h-0 flex-col gap-2 overflow-auto bg-base-100 p-3">
            <button
              type="button"
              className="btn btn-plain btn-sm"
              disabled={!shown}
              onClick={() => void navigate('/received')}
            >
              Check another set…
            </button>
            <ul className="flex flex-col gap-1" aria-label="checked sets">
              {checks.data.map((check) => (
                <li key={check.id}>
                  <Kept check={check} isShown={check === shown} />
                </li>
              ))}
            </ul>
          </aside>
          <main className="flex min-h-0 flex-col overflow-hidden p-4">
            {shown ? (
              <CheckPanel key={shown.id} check={shown} />
            ) : (
              <NewCheck onBegun={(id) => void navigate(`/received/${id}`)} />
            )}
          </main>
        </div>
      )}
    </div>
  );
}

function Kept({ check, isShown }: { check: SetCheck; isShown: boolean }) {
  const [forget, forgetting] = sets.useForgetCheckMutation();
  const { text, tone } = standingOf(check);
  const name = check.folder.split('/').at(-1)!;
  return (
    <div
      className={`group flex items-start border-l-[3px] ${isShown ? 'border-primary bg-base-200' : 'border-transparent'}`}
    >
      <Link
        to={`/received/${check.id}`}
        className="min-w-0 flex-1 px-2 py-1"
        aria-current={isShown ? 'page' : undefined}
      >
        <b className="block truncate font-mono">{name}</b>
        <span className={`block ${tone}`}>{text}</span>
        <span className="block text-[12px] text-quiet">{when(check.createdAt)}</span>
      </Link>
      <button
        type="button"
        className="btn btn-ghost btn-xs px-1 opacity-40 group-hover:opacity-100 focus:opacity-100"
        aria-label={`forget the check of ${name}`}
        title="Forget this check; the set stays as it is"
        disabled={forgetting.isLoading}
        onClick={() => void forget(check.id)}
      >
        <X size={13} aria-hidden />
      </button>
    </div>
  );
}
