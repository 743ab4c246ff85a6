import { NavLink } from 'react-router';
import { isQuestion } from '@legame/core/match';
import { acts } from '../api/acts.ts';
import { lists } from '../api/clipList.ts';
import { api } from '../api/legame.ts';
import { storage } from '../api/storage.ts';
import { watched } from '../api/watched.ts';
import { records, steps, tipOf } from '../commands/definitions.ts';

/** The steps of the work in order, with what is left of each, and the records below. */
export function Rail({ projectId }: { projectId: string }) {
  const project = api.useProjectQuery(projectId);
  const places = storage.usePlacesQuery();
  const documents = api.useDocumentsQuery(projectId);
  // Rows come first: to find causes the whole project is looked at.
  const clips = lists.useClipsQuery(projectId);
  const causes = acts.useCausesQuery(projectId, { skip: clips.isUninitialized || clips.isLoading });
  const away = places.data?.filter((p) => !p.there).length ?? 0;
  // Nobody tells of a folder that is not indexed: it is looked at now and then.
  const newer = watched.useWatchedQuery(projectId, { pollingInterval: 20_000 }).data?.newer.length ?? 0;
  const left: Record<string, string> = {
    intake: documents.data?.length === 0 ? 'empty' : newer > 0 ? `${newer} newer` : '',
    places: places.data?.length === 0 ? 'none' : away ? `${away} away` : '',
    causes: causes.data?.causes.length ? String(causes.data.causes.filter((c) => !isQuestion(c)).length) : '',
    ledger: project.data?.toDo ? String(project.data.toDo) : '',
    handoff: '',
  };
  return (
    <nav className="line-r min-h-0 overflow-auto bg-base-100 py-2" aria-label="steps">
      {[...steps, ...records].map((step, i) => (
        <NavLink
          key={step.path}
          to={`/projects/${projectId}/${step.path}`}
          title={tipOf(`go-${step.path}`)}
          className={({ isActive }) =>
            `flex items-baseline gap-2.5 border-l-[3px] px-3 py-1.5 text-[14px] max-[900px]:gap-1 max-[900px]:px-1.5 max-[900px]:text-[13px] ${i === steps.length ? 'mt-4' : ''} ${isActive ? 'border-primary bg-base-200 font-semibold' : 'border-transparent hover:bg-base-200'}`
          }
        >
          {i < steps.length && <span className="w-3 font-mono text-quiet">{i + 1}</span>}
          <span className="flex-1">{step.title}</span>
          <span className="text-[12px] text-quiet max-[900px]:sr-only">{left[step.path]}</span>
        </NavLink>
      ))}
    </nav>
  );
}
