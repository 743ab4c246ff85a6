import { Check } from 'lucide-react';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import { api } from '../api/legame.ts';
import { storage } from '../api/storage.ts';

const leftKey = 'legame.steps-left';

/** What a project still needs before anything can be said of it: a timeline, then a place. Covers nothing, and can be left. */
export function FirstSteps({ projectId }: { projectId: string }) {
  const documents = api.useDocumentsQuery(projectId);
  const places = storage.usePlacesQuery();
  const [isLeft, setLeft] = useState(localStorage.getItem(leftKey) === projectId);
  const { pathname } = useLocation();
  if (isLeft || !documents.data || !places.data) return null;
  const steps = [
    { name: 'Project', isDone: true, screen: '', says: '', to: '' },
    {
      name: 'Timeline',
      isDone: documents.data.length > 0,
      screen: 'intake',
      says: 'Bring in the timelines of the edit, as OTIO, EDL or shot log: drop the files here, or choose them.',
      to: 'Its timelines are brought in at Intake.',
    },
    {
      name: 'Place',
      isDone: places.data.length > 0,
      screen: 'places',
      says: 'Say where its media may be: add a drive, a share or a folder. Nothing there is changed unless you ask for it.',
      to: 'Then say at Places where its media may be.',
    },
  ];
  const next = steps.find((step) => !step.isDone);
  if (!next) return null;
  const isHere = pathname.split('/')[3] === next.screen;
  return (
    <section
      className="line-b flex flex-wrap items-center gap-3 bg-[var(--bond-wash)] px-3.5 py-2"
      aria-label="first steps"
    >
      <ol className="flex gap-2.5">
        {steps.map(({ name, isDone }, i) => (
          <li
            key={name}
            aria-current={name === next.name ? 'step' : undefined}
            className={name === next.name ? 'font-semibold' : 'text-quiet'}
          >
            {isDone ? <Check size={13} aria-label="done" className="inline" /> : `${i + 1}`} {name}
          </li>
        ))}
      </ol>
      <p className="min-w-60 flex-1">{isHere ? next.says : next.to}</p>
      {!isHere && (
        <Link to={`/projects/${projectId}/${next.screen}`} className="btn btn-primary btn-sm">
          Go there
        </Link>
      )}
      <button
        type="button"
        className="btn btn-plain btn-sm"
        onClick={() => {
          localStorage.setItem(leftKey, projectId);
          setLeft(true);
        }}
      >
        Leave it
      </button>
    </section>
  );
}
