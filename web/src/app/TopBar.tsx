import { problemText } from '@legame/words/problems';
import { jobTitle, progressText } from '@legame/words/jobs';
import { ChevronDown, Lamp, Sun } from 'lucide-react';
import { useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useNavigate } from 'react-router';
import { api } from '../api/legame.ts';
import { JobProgress } from '../parts/JobProgress.tsx';
import { setTheme } from '../session/look.ts';
import { filterStatus, filterText, pick } from '../session/selection.ts';
import { count } from '@legame/words/numbers';
import { statusWords } from '@legame/words/statuses';
import { records, steps } from './steps.ts';
import { useAppDispatch, useAppSelector } from './store.ts';

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

export function TopBar({
  projectId,
  projectName,
  onKeys,
  onUndo,
}: {
  projectId: string;
  projectName: string;
  onKeys: () => void;
  onUndo: () => void;
}) {
  return (
    <div className="flex h-[43px] items-center gap-4 px-3">
      <Wordmark />
      <Link to="/" className="flex items-center gap-1 text-quiet" title="Choose another project">
        {projectName} <ChevronDown size={13} aria-hidden />
      </Link>
      <FindOrDo projectId={projectId} onUndo={onUndo} />
      <div className="ml-auto flex items-center gap-2">
        <RunningJobs />
        <ThemeSwitch />
        <button type="button" className="btn btn-ghost btn-sm px-2" onClick={onKeys} title="Keys (?)" aria-label="keys">
          ?
        </button>
      </div>
    </div>
  );
}

export function ThemeSwitch() {
  const theme = useAppSelector((state) => state.look.theme);
  const dispatch = useAppDispatch();
  const other = theme === 'paper' ? 'lamp' : 'paper';
  return (
    <button
      type="button"
      className="btn btn-ghost btn-sm px-2"
      title={`Theme: ${theme}. Change to ${other}`}
      aria-label={`change to ${other} theme`}
      onClick={() => dispatch(setTheme(other))}
    >
      {theme === 'paper' ? <Lamp size={15} /> : <Sun size={15} />}
    </button>
  );
}

type Choice = { readonly key: string; readonly title: string; readonly hint: string; readonly act: () => void };

/** One field for both: finds clips by name, file or reel, and does what its words say. */
function FindOrDo({ projectId, onUndo }: { projectId: string; onUndo: () => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const { data: clips } = api.useClipsQuery(projectId, { skip: !projectId });
  useHotkeys('slash', () => input.current?.focus(), { preventDefault: true });

  const choices = useMemo((): Choice[] => {
    const wanted = text.trim().toLowerCase();
    if (!wanted) return [];
    const doings: Choice[] = [
      ...[...steps, ...records].map((step) => ({
        key: step.path,
        title: `Go to ${step.title}`,
        hint: `g ${step.key}`,
        act: () => void navigate(`/projects/${projectId}/${step.path}`),
      })),
      {
        key: 'report',
        title: 'Open the status report',
        hint: 'to print',
        act: () => void navigate(`/projects/${projectId}/report`),
      },
      {
        key: 'pull-list',
        title: 'Open the pull list',
        hint: 'to print',
        act: () => void navigate(`/projects/${projectId}/pull-list`),
      },
      { key: 'undo', title: 'Undo the last act', hint: 'u', act: onUndo },
      { key: 'paper', title: 'Theme: paper', hint: '', act: () => void dispatch(setTheme('paper')) },
      { key: 'lamp', title: 'Theme: lamp', hint: '', act: () => void dispatch(setTheme('lamp')) },
    ];
    const found = (clips ?? [])
      .filter((c) => `${c.fileName} ${c.name} ${c.reel ?? ''}`.toLowerCase().includes(wanted))
      .slice(0, 8);
    return [
      ...doings.filter((d) => d.title.toLowerCase().includes(wanted)),
      ...found.map((clip) => ({
        key: clip.id,
        title: clip.fileName,
        hint: statusWords[clip.status.status],
        act: () => {
          dispatch(filterStatus('all'));
          dispatch(filterText(''));
          dispatch(pick(clip.id));
          void navigate(`/projects/${projectId}/ledger`);
        },
      })),
    ];
  }, [text, clips, projectId, navigate, dispatch, onUndo]);

  const choose = (choice: Choice | undefined) => {
    if (!choice) return;
    choice.act();
    setText('');
    setOpen(false);
    input.current?.blur();
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'Escape') input.current?.blur();
    else if (event.key === 'Enter') choose(choices[at]);
    else if (event.key === 'ArrowDown') setAt((n) => Math.min(n + 1, choices.length - 1));
    else if (event.key === 'ArrowUp') setAt((n) => Math.max(0, n - 1));
    else return;
    event.preventDefault();
  };
  return (
    <div className="relative mx-auto w-[min(460px,40vw)]">
      <input
        ref={input}
        className="input input-sm w-full bg-base-200 pr-8"
        placeholder="find or do…"
        aria-label="find or do"
        value={text}
        onFocus={() => setOpen(true)}
        onBlur={() => setTimeout(() => setOpen(false), 150)}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
        onKeyDown={onKey}
      />
      <kbd className="kbd-mark absolute top-1.5 right-2 text-quiet">/</kbd>
      {open && text.trim() && (
        <ul className="sheet absolute top-full z-30 mt-1 w-full py-1" role="listbox" aria-label="found">
          {choices.map((choice, i) => (
            <li key={choice.key} role="option" aria-selected={i === at}>
              <button
                type="button"
                className={`flex w-full justify-between px-3 py-1 text-left ${i === at ? 'bg-[var(--bond-wash)]' : ''}`}
                onMouseDown={(e) => e.preventDefault()}
                onClick={() => choose(choice)}
              >
                <span className="font-mono">{choice.title}</span>
                <span className="text-quiet">{choice.hint}</span>
              </button>
            </li>
          ))}
          {choices.length === 0 && (
            <li className="px-3 py-1 text-quiet">No clip, reel or command with “{text.trim()}”.</li>
          )}
        </ul>
      )}
    </div>
  );
}

function RunningJobs() {
  const { data } = api.useJobsQuery();
  const [open, setOpen] = useState(false);
  const running = data?.filter((job) => job.state === 'running' || job.state === 'queued') ?? [];
  // The newest of its kind about the same comes first: one that was done since says nothing any more.
  const failed =
    data?.filter(
      (job, i) =>
        job.state === 'failed' &&
        data.findIndex(
          (other) => other.kind === job.kind && JSON.stringify(other.payload) === JSON.stringify(job.payload),
        ) === i,
    ) ?? [];
  if (running.length === 0 && failed.length === 0) return null;
  const first = running[0];
  return (
    <div className="relative">
      <button
        type="button"
        className="btn btn-plain btn-sm max-w-72"
        onClick={() => setOpen(!open)}
        aria-expanded={open}
      >
        <span className="truncate">
          {first
            ? [jobTitle(first), progressText(first)].filter(Boolean).join(' · ')
            : `${count(failed.length, 'job')} failed`}
        </span>
        {running.length > 1 && <span className="text-quiet">+{running.length - 1}</span>}
      </button>
      {open && (
        <div className="sheet absolute right-0 z-30 mt-1 flex w-96 flex-col gap-3 p-3" aria-label="jobs">
          {running.map((job) => (
            <JobProgress key={job.id} job={job} />
          ))}
          {failed.map((job) => (
            <div key={job.id}>
              <p className="font-semibold">{jobTitle(job)} failed</p>
              <p className="[overflow-wrap:anywhere]">{job.problem && problemText(job.problem)}</p>
            </div>
          ))}
        </div>
      )}
    </div>
  );
}
