import { Bell } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { count, when } from '@legame/words/numbers';
import { noticeText, type Notice } from '@legame/words/notices';
import type { Screen } from '../commands/definitions.ts';
import { clearNotices, seeNotices, tellInBrowser } from '../session/notices.ts';
import { useAppDispatch, useAppSelector } from './store.ts';

/** Where it is to be seen, inside a project. */
function screenOf(notice: Notice): Screen {
  if (!('job' in notice)) return notice.code === 'newer' ? 'intake' : 'places';
  switch (notice.job.kind) {
    case 'run-handoff':
      return 'handoff';
    case 'bring-home':
      return 'health';
    case 'trial-read':
      return 'read-log';
    case 'fetch-shelved':
      return 'pulls';
    case 'unpack-bundle':
      return 'intake';
    case 'index-place':
    case 'hash-files':
      return 'places';
    default:
      return 'ledger';
  }
}

/** A quiet list of what ended, came, went or turned up; how many since it was looked at last. */
export function Notices({ projectId }: { projectId: string }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { list, seenUntil, inBrowser } = useAppSelector((state) => state.notices);
  const [isOpen, setOpen] = useState(false);
  const unseen = list.filter((n) => n.at > seenUntil).length;
  const label = unseen > 0 ? `notices, ${count(unseen, 'new one', 'new ones')}` : 'notices';
  const look = (open: boolean) => {
    setOpen(open);
    if (open) dispatch(seeNotices(new Date().toISOString()));
  };
  return (
    <div className="relative">
      <button
        type="button"
        className="btn btn-ghost btn-sm px-2"
        aria-label={label}
        aria-expanded={isOpen}
        title="What ended, came, went or turned up"
        onClick={() => look(!isOpen)}
      >
        <Bell size={15} aria-hidden />
        {unseen > 0 && <span className="text-[12px]">{unseen}</span>}
      </button>
      {isOpen && (
        <section className="sheet absolute right-0 z-30 mt-1 flex w-96 flex-col gap-2 p-3" aria-label="notices">
          {list.length === 0 ? (
            <p className="text-quiet">Nothing has happened by itself since this page was opened.</p>
          ) : (
            <ul className="flex max-h-96 flex-col gap-1 overflow-auto" tabIndex={0} aria-label="what happened">
              {list.map((notice) => (
                <li key={notice.id}>
                  <button
                    type="button"
                    className="w-full rounded px-1.5 py-1 text-left hover:bg-[var(--bond-wash)]"
                    onClick={() => {
                      look(false);
                      void navigate(`/projects/${projectId}/${screenOf(notice)}`);
                    }}
                  >
                    <span className="block [overflow-wrap:anywhere]">{noticeText(notice)}</span>
                    <span className="text-[12px] text-quiet">{when(notice.at)}</span>
                  </button>
                </li>
              ))}
            </ul>
          )}
          <div className="line-t flex flex-wrap items-center gap-2 pt-2">
            <InBrowser isOn={inBrowser} onChange={(isOn) => dispatch(tellInBrowser(isOn))} />
            {list.length > 0 && (
              <button type="button" className="btn btn-plain btn-xs" onClick={() => dispatch(clearNotices())}>
                Clear the list
              </button>
            )}
          </div>
        </section>
      )}
    </div>
  );
}

/** Asks the browser for its leave the moment somebody wants it, and not before. */
function InBrowser({ isOn, onChange }: { isOn: boolean; onChange: (isOn: boolean) => void }) {
  const [isRefused, setRefused] = useState(false);
  if (!('Notification' in window)) return null;
  return (
    <label className="flex flex-1 items-center gap-1.5">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={isOn && Notification.permission === 'granted'}
        onChange={(event) => {
          if (!event.target.checked) return onChange(false);
          void Notification.requestPermission().then((leave) => {
            setRefused(leave !== 'granted');
            onChange(leave === 'granted');
          });
        }}
      />
      {isRefused ? 'The browser was told not to let this page do that.' : 'By the browser too, while I am elsewhere'}
    </label>
  );
}
