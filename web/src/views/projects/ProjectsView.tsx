import { newProjectSchema } from '@legame/core/contract';
import { NameForm } from '../../parts/NameForm.tsx';
import { FolderInput, ShieldCheck, Trash2, Undo2 } from 'lucide-react';
import { useDropzone } from 'react-dropzone';
import { Link, useNavigate } from 'react-router';
import { api } from '../../api/legame.ts';
import { ThemeSwitch, Wordmark } from '../../app/TopBar.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { statusText } from '../../parts/StatusMark.tsx';
import { clock, count, group, when } from '@legame/words/numbers';

/** All projects with what is left to do in each, and the start of a new one. */
export function ProjectsView() {
  const projects = api.useProjectsQuery();
  const [create, created] = api.useCreateProjectMutation();
  const [remove, deleted] = api.useDeleteProjectMutation();
  const [importProject, imported] = api.useImportProjectMutation();
  const navigate = useNavigate();
  const drop = useDropzone({
    noClick: true,
    multiple: false,
    onDrop: ([file]) => {
      if (!file) return;
      void importProject(file)
        .unwrap()
        .then((project) => navigate(`/projects/${project.id}/ledger`))
        .catch(() => undefined);
    },
  });
  return (
    <div className="flex h-full flex-col">
      <header className="line-b flex h-11 shrink-0 items-center justify-between bg-base-100 px-3">
        <Wordmark />
        <ThemeSwitch />
      </header>
      <main className="min-h-0 flex-1 overflow-auto">
        <div className="mx-auto max-w-3xl px-6 py-8">
          <h1 className="text-[20px] font-bold">Projects</h1>
          <p className="mb-5 text-quiet">
            One project is one edit. Bring in its timelines, say where media may be, and see why clips are dark.
          </p>
          {!projects.data ? (
            <Waiting what="projects" error={projects.error} />
          ) : (
            <ul className="flex flex-col gap-2">
              {projects.data.map((project) => (
                <li key={project.id} className="flex items-center gap-2">
                  <ProjectCard id={project.id} name={project.name} createdAt={project.createdAt} />
                  <button
                    type="button"
                    className="btn btn-plain btn-sm btn-square"
                    aria-label={`delete ${project.name}`}
                    title="Delete; it can be brought back for a week"
                    disabled={deleted.isLoading}
                    onClick={() => void remove(project.id)}
                  >
                    <Trash2 size={14} aria-hidden />
                  </button>
                </li>
              ))}
            </ul>
          )}
          {projects.data?.length === 0 && <p className="sheet p-4">No project yet. Name one below to begin.</p>}
          <NameForm
            className="mt-6"
            inputClass="w-80"
            button="btn-primary"
            schema={newProjectSchema.shape.name}
            label="name of a new project"
            hint="Name of a new project"
            verb="Create project"
            busy={created.isLoading}
            onName={(name) =>
              create(name)
                .unwrap()
                .then((project) => navigate(`/projects/${project.id}/intake`))
            }
          />
          <div className="mt-3 flex items-center gap-3">
            <button type="button" className="btn btn-plain btn-sm" onClick={drop.open} disabled={imported.isLoading}>
              <FolderInput size={14} aria-hidden /> Open an exported project…
            </button>
            <input {...drop.getInputProps({ 'aria-label': 'exported project to open' })} />
            <span className="text-quiet">
              {imported.isLoading
                ? 'Reading it…'
                : 'with its timelines, links and decisions, as another Legame wrote it'}
            </span>
          </div>
          <div className="mt-3 flex items-center gap-3">
            <Link to="/received" className="btn btn-plain btn-sm">
              <ShieldCheck size={14} aria-hidden /> Check a received set…
            </Link>
            <span className="text-quiet">that somebody handed over: every file against its hash, then open it</span>
          </div>
          <DeletedProjects />
          <div className="mt-3 flex flex-col gap-2">
            <ProblemNote error={deleted.error} onClose={deleted.reset} />
            <ProblemNote error={created.error} onClose={created.reset} />
            <ProblemNote error={imported.error} onClose={imported.reset} />
          </div>
        </div>
      </main>
    </div>
  );
}

/** What was deleted lately, and the way back. */
function DeletedProjects() {
  const { data = [] } = api.useDeletedProjectsQuery();
  const [restore, restored] = api.useRestoreProjectMutation();
  if (data.length === 0) return null;
  return (
    <section aria-label="deleted projects" className="mt-8">
      <h2 className="font-bold">Deleted</h2>
      <ul className="mt-1 flex flex-col">
        {data.map(({ id, name, keptUntil }) => (
          <li key={id} className="line-b flex items-center justify-between gap-3 py-1.5">
            <span>
              {name} <span className="text-quiet">kept until {when(keptUntil)}; no file of yours was touched</span>
            </span>
            <button
              type="button"
              className="btn btn-plain btn-xs"
              disabled={restored.isLoading}
              onClick={() => void restore(id)}
            >
              <Undo2 size={12} aria-hidden /> Bring back
            </button>
          </li>
        ))}
      </ul>
      <ProblemNote error={restored.error} onClose={restored.reset} />
    </section>
  );
}

function ProjectCard({ id, name, createdAt }: { id: string; name: string; createdAt: string }) {
  const { data } = api.useProjectQuery(id);
  return (
    <Link
      to={`/projects/${id}/ledger`}
      className="sheet flex min-w-0 flex-1 items-center justify-between gap-4 px-4 py-3 hover:border-primary"
    >
      <span>
        <b className="text-[15px]">{name}</b>
        <span className="block text-quiet">since {when(createdAt)}</span>
      </span>
      {data && (
        <span className="text-right">
          {data.cutSeconds > 0 ? (
            <>
              <b className={data.darkSeconds > 0 ? statusText.missing : statusText.linked}>
                {clock(data.darkSeconds)} dark
              </b>{' '}
              of {clock(data.cutSeconds)}
            </>
          ) : (
            <span className="text-quiet">no timeline</span>
          )}
          <span className="block text-quiet">
            {count(data.clips, 'clip')}, {group(data.toDo)} to do
          </span>
        </span>
      )}
    </Link>
  );
}
