import { useState, type ReactNode } from 'react';
import { newProjectSchema, type Project, type ProjectStanding } from '@legame/core/contract';
import { NameForm } from '../../parts/NameForm.tsx';
import { Copy, FolderInput, Pencil, ShieldCheck, Trash2, Undo2 } from 'lucide-react';
import { useDropzone } from 'react-dropzone';
import { Link, useNavigate } from 'react-router';
import { api } from '../../api/legame.ts';
import { projects as projectActs } from '../../api/projects.ts';
import { ThemeSwitch, Wordmark } from '../../app/TopBar.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { statusText } from '../../parts/StatusMark.tsx';
import { listed } from '@legame/words/handoffs';
import { clock, count, group, when } from '@legame/words/numbers';
import { actSentence } from '@legame/words/statuses';

/** All projects with what is left to do in each, and the start of a new one. */
export function ProjectsView() {
  const projects = api.useProjectsQuery();
  const [create, created] = api.useCreateProjectMutation();
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
                <ProjectLine key={project.id} project={project} />
              ))}
            </ul>
          )}
          {projects.data?.length === 0 && <Beginning />}
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
            <ProblemNote error={created.error} onClose={created.reset} />
            <ProblemNote error={imported.error} onClose={imported.reset} />
          </div>
        </div>
      </main>
    </div>
  );
}

/** What a new user does, in the order in which it is done. */
const Beginning = () => (
  <section className="sheet p-4" aria-label="how to begin">
    <p className="font-semibold">No project yet. Name one below to begin.</p>
    <ol className="list-decimal pt-1.5 pl-5 text-quiet">
      <li>A project is one edit: name it as the edit is called.</li>
      <li>Bring in its timelines, as OTIO, EDL or shot logs. They stay as they are.</li>
      <li>Say where its media may be: drives, shares, folders. Nothing there is changed unless you ask for it.</li>
    </ol>
    <p className="pt-1.5 text-quiet">
      Then you see why clips are dark, in a few causes, and what mends each of them for all clips it fits.
    </p>
  </section>
);

/** A project with what is done to it as a whole: another name, a second one of it, deleting it. */
function ProjectLine({ project: { id, name, createdAt } }: { project: Project }) {
  const [asks, setAsks] = useState<'rename' | 'duplicate' | null>(null);
  const [rename, renamed] = projectActs.useRenameProjectMutation();
  const [duplicate, duplicated] = projectActs.useDuplicateProjectMutation();
  const [remove, deleted] = api.useDeleteProjectMutation();
  const isBusy = renamed.isLoading || duplicated.isLoading || deleted.isLoading;
  const button = (what: string, title: string, icon: ReactNode, onClick: () => void) => (
    <button
      type="button"
      className="btn btn-plain btn-sm btn-square"
      aria-label={`${what} ${name}`}
      title={title}
      disabled={isBusy}
      onClick={onClick}
    >
      {icon}
    </button>
  );
  const ask = (what: 'rename' | 'duplicate') => () => setAsks(asks === what ? null : what);
  return (
    <li className="flex flex-col gap-1.5">
      <div className="flex items-center gap-2">
        <ProjectCard id={id} name={name} createdAt={createdAt} />
        {button('rename', 'Give it another name', <Pencil size={14} aria-hidden />, ask('rename'))}
        {button(
          'duplicate',
          'Make a second project of what it is now; its history begins anew',
          <Copy size={14} aria-hidden />,
          ask('duplicate'),
        )}
        {button(
          'delete',
          'Delete; it can be brought back for a week',
          <Trash2 size={14} aria-hidden />,
          () => void remove(id),
        )}
      </div>
      {asks && (
        <NameForm
          key={asks}
          className="pl-3"
          inputClass="w-80"
          focused
          schema={newProjectSchema.shape.name}
          label={asks === 'rename' ? `new name of ${name}` : `name of the second ${name}`}
          hint={asks === 'rename' ? 'Another name' : 'Name of the second one'}
          verb={asks === 'rename' ? 'Rename' : 'Duplicate'}
          initial={asks === 'rename' ? name : `${name} 2`}
          busy={isBusy}
          onName={(given) =>
            (asks === 'rename' ? rename({ id, name: given }) : duplicate({ id, name: given }))
              .unwrap()
              .then(() => setAsks(null))
          }
        />
      )}
      <ProblemNote
        error={renamed.error ?? duplicated.error ?? deleted.error}
        onClose={() => {
          renamed.reset();
          duplicated.reset();
          deleted.reset();
        }}
      />
    </li>
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
  const { data: standing } = projectActs.useStandingQuery(id);
  return (
    <Link
      to={`/projects/${id}/ledger`}
      className="sheet flex min-w-0 flex-1 items-center justify-between gap-4 px-4 py-3 hover:border-primary"
    >
      <span>
        <b className="text-[15px]">{name}</b>
        <span className="block text-quiet">since {when(createdAt)}</span>
        {data?.lastAct && (
          <span className="block text-quiet">
            {actSentence(data.lastAct.verb, data.lastAct.count)}, {when(data.lastAct.madeAt)}
          </span>
        )}
        {standing && standing.shares.length > 0 && (
          <span className="block text-quiet">{sharesText(standing.shares)}</span>
        )}
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
          {standing && (
            <span className="block text-quiet">
              {standing.openChecks > 0
                ? `health: ${count(standing.openChecks, 'check')} found something`
                : 'health: well'}
            </span>
          )}
        </span>
      )}
    </Link>
  );
}

/** Which other projects use the same recordings: what is done to those files concerns them too. */
function sharesText(shares: ProjectStanding['shares']): string {
  const told = shares.slice(0, 3).map(({ name, files }) => `${name} (${group(files)})`);
  const more = shares.length - told.length;
  return `same recordings as ${listed([...told, ...(more > 0 ? [count(more, 'other project')] : [])])}`;
}
