import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { newHandoffSchema, type HandoffLayout } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { useTimelines } from '../../api/timelines.ts';
import { FolderChooser } from '../../parts/FolderChooser.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { clock } from '@legame/words/numbers';

const layouts: readonly { id: HandoffLayout; title: string; words: string }[] = [
  { id: 'folder', title: 'a folder', words: 'media, and every document as it came in, opening on it' },
  { id: 'otiod', title: 'an OpenTimelineIO bundle folder (.otiod)', words: 'media and one document of all timelines' },
  {
    id: 'otioz',
    title: 'an OpenTimelineIO bundle in one file (.otioz)',
    words: 'the same, stored in a zip, not resumable',
  },
];

/** What a person chooses; which timelines are left out rather than in, so that one that comes later is in. */
const planSchema = newHandoffSchema
  .omit({ timelines: true })
  .extend({ layout: newHandoffSchema.shape.layout.unwrap(), left: z.array(z.string()) });

/** What to gather, what to call it, and where to put it. */
export function PlanForm({ projectId, onPlanned }: { projectId: string; onPlanned: (id: string) => void }) {
  const project = api.useProjectQuery(projectId);
  const known = useTimelines(projectId);
  const [plan, planned] = api.usePlanHandoffMutation();
  const form = useForm({
    resolver: zodResolver(planSchema),
    defaultValues: { targetFolder: '', name: '', layout: 'folder', left: [] },
    // Until somebody names it, it is called after the project and the day.
    values: {
      targetFolder: '',
      name: `${project.data?.name ?? 'Project'} ${new Date().toISOString().slice(0, 10)}`,
      layout: 'folder' as const,
      left: [] as string[],
    },
    resetOptions: { keepDirtyValues: true },
  });
  const { targetFolder, name, layout, left } = form.watch();
  const leave = (ids: string[]) => form.setValue('left', ids, { shouldDirty: true });
  const putIn = (folder: string) => form.setValue('targetFolder', folder, { shouldDirty: true });
  const timelines = known ?? [];
  const chosen = timelines.filter((t) => !left.includes(t.id));
  const refused = Object.values(form.formState.errors)[0]?.message;
  const show = form.handleSubmit(({ left: out, ...wanted }) =>
    plan({ projectId, ...wanted, ...(out.length > 0 ? { timelines: chosen.map((t) => t.id) } : {}) })
      .unwrap()
      .then((handoff) => onPlanned(handoff.id))
      .catch(() => undefined),
  );
  return (
    <div className="mx-auto max-w-2xl">
      <h1 className="text-[17px] font-bold">Plan a handoff</h1>
      <p className="mb-3 text-quiet">
        Every file that the chosen timelines use, copied once, verified byte by byte, with the timelines beside it that
        open on it. Sources are only read.
      </p>
      <fieldset className="mb-3">
        <legend className="mb-1 font-semibold">Timelines</legend>
        {timelines.map((t) => (
          <label key={t.id} className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={!left.includes(t.id)}
              onChange={(e) => leave(e.target.checked ? left.filter((id) => id !== t.id) : [...left, t.id])}
            />
            {t.name}
            <span className="font-mono text-quiet">{clock((t.length * t.rate.den) / t.rate.num)}</span>
            {t.darkInFrames > 0 && (
              <span className="text-missing">{clock((t.darkInFrames * t.rate.den) / t.rate.num)} dark</span>
            )}
          </label>
        ))}
        {known?.length === 0 && (
          <p className="text-quiet">No timeline in this project, so all its clips are gathered.</p>
        )}
      </fieldset>
      <label className="mb-3 block">
        <span className="mb-1 block font-semibold">Name of the new folder</span>
        <input className="input input-sm w-96" aria-label="name of the new folder" {...form.register('name')} />
      </label>
      <fieldset className="mb-3">
        <legend className="mb-1 font-semibold">As</legend>
        {layouts.map(({ id, title, words }) => (
          <label key={id} className="flex items-baseline gap-2 py-0.5">
            <input type="radio" value={id} className="radio radio-xs translate-y-0.5" {...form.register('layout')} />
            <span>
              {title} <span className="text-quiet">{words}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <p className="mb-1 font-semibold">Where to put it</p>
      {targetFolder ? (
        <p className="sheet flex items-center justify-between gap-2 p-2">
          <span className="font-mono [overflow-wrap:anywhere]">
            {targetFolder}/
            <b>
              {name}
              {layout === 'otiod' && '.otiod'}
            </b>
          </span>
          <button type="button" className="btn btn-plain btn-xs" onClick={() => putIn('')}>
            Change…
          </button>
        </p>
      ) : (
        <FolderChooser verb="Put it here" onChoose={putIn} />
      )}
      <div className="mt-4 flex flex-col items-start gap-2">
        <ProblemNote error={planned.error} onClose={planned.reset} />
        {refused && <p className="text-missing">{refused}</p>}
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!targetFolder || !name.trim() || (timelines.length > 0 && chosen.length === 0) || planned.isLoading}
          onClick={() => void show()}
        >
          Show the plan
        </button>
      </div>
    </div>
  );
}
