import { ChevronDown, CircleQuestionMark, Keyboard, Lamp, SlidersHorizontal, Sun } from 'lucide-react';
import { Link } from 'react-router';
import { CommandButton } from '../commands/CommandButton.tsx';
import { FindOrDo } from '../commands/FindOrDo.tsx';
import { Notices } from './Notices.tsx';
import { RunningJobs } from './RunningJobs.tsx';
import { useAppDispatch, useAppSelector } from './store.ts';
import { prefer } from './usePreferences.ts';

export function Wordmark() {
  return (
    <Link to="/" className="flex items-center gap-2.5" title="All projects">
      <svg viewBox="0 0 34 24" width="30" height="22" fill="none" strokeWidth="2.6" aria-hidden>
        <circle cx="12" cy="12" r="8.4" stroke="var(--status-linked)" />
        <circle cx="22" cy="12" r="8.4" stroke="currentColor" />
      </svg>
      <span className="text-[16px] font-bold">Legame</span>
    </Link>
  );
}

export function TopBar({ projectId, projectName }: { projectId: string; projectName: string }) {
  return (
    <div className="flex h-[43px] items-center gap-4 px-3">
      <Wordmark />
      <Link to="/" className="flex items-center gap-1 text-quiet" title="Choose another project">
        {projectName} <ChevronDown size={13} aria-hidden />
      </Link>
      <FindOrDo projectId={projectId} />
      <div className="ml-auto flex items-center gap-2">
        <RunningJobs />
        <Notices projectId={projectId} />
        <ThemeSwitch />
        <CommandButton id="preferences" className="btn btn-ghost btn-sm px-2">
          <SlidersHorizontal size={15} aria-hidden />
          <span className="sr-only">preferences</span>
        </CommandButton>
        <CommandButton id="help" className="btn btn-ghost btn-sm px-2">
          <CircleQuestionMark size={15} aria-hidden />
          <span className="sr-only">help</span>
        </CommandButton>
        <CommandButton id="keys" className="btn btn-ghost btn-sm px-2">
          <Keyboard size={15} aria-hidden />
          <span className="sr-only">keys</span>
        </CommandButton>
      </div>
    </div>
  );
}

export function ThemeSwitch() {
  const theme = useAppSelector((state) => state.preferences.mine.theme);
  const dispatch = useAppDispatch();
  const other = theme === 'paper' ? 'lamp' : 'paper';
  return (
    <button
      type="button"
      className="btn btn-ghost btn-sm px-2"
      title={`Theme: ${theme}. Change to ${other}`}
      aria-label={`change to ${other} theme`}
      onClick={() => void dispatch(prefer({ theme: other }))}
    >
      {theme === 'paper' ? <Lamp size={15} /> : <Sun size={15} />}
    </button>
  );
}
