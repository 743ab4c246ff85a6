import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { setAsideRequestSchema, type ClipRow } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { count } from '@legame/words/numbers';

const reasonSchema = setAsideRequestSchema.pick({ reason: true });

/** Reasons that come up, the likeliest for these clips first. */
export function reasonsFor(rows: readonly Pick<ClipRow, 'kind' | 'uses'>[]): string[] {
  const sound = rows.length > 0 && rows.every((r) => r.kind === 'sound');
  const unused = rows.length > 0 && rows.every((r) => r.uses === 0);
  return [
    ...(unused ? ['no timeline uses it'] : []),
    ...(sound ? ['empty audio'] : []),
    'a slate or leader',
    ...(sound ? [] : ['empty audio']),
    'will be made anew',
    ...(unused ? [] : ['cut from the show']),
  ];
}

/** Waives clips: they need no media and leave the to-do count. The reason is kept. */
export function WaivePanel({
  projectId,
  rows,
  onClose,
}: {
  projectId: string;
  rows: readonly ClipRow[];
  onClose: () => void;
}) {
  const reasons = reasonsFor(rows);
  const form = useForm({ resolver: zodResolver(reasonSchema), defaultValues: { reason: reasons[0] ?? '' } });
  const tooLong = form.formState.errors.reason?.message;
  const [setAside, aside] = api.useSetAsideMutation();
  return (
    <section className="p-3.5" aria-label="waive">
      <h2 className="text-[15px] font-semibold">{count(rows.length, 'clip')} will need no media</h2>
      <p className="mt-1 text-quiet">
        Waived clips leave the to-do count and stay out of pull lists. Park them instead if they are only for later.
      </p>
      <form
        className="mt-2"
        onSubmit={(event) =>
          void form.handleSubmit(({ reason }) =>
            setAside({ projectId, clipIds: rows.map((r) => r.id), as: 'waived', reason })
              .unwrap()
              .then(onClose)
              .catch(() => undefined),
          )(event)
        }
      >
        <label className="block">
          <span className="text-quiet">Because</span>
          <input
            // The panel is opened to say why.
            autoFocus
            className="input input-sm mt-0.5 w-full"
            aria-invalid={tooLong !== undefined}
            {...form.register('reason')}
          />
        </label>
        {tooLong && <p className="text-missing">{tooLong}</p>}
        <div className="mt-1.5 flex flex-wrap gap-1">
          {reasons.map((text) => (
            <button
              key={text}
              type="button"
              className="rounded border border-base-300 px-2 py-0.5"
              onClick={() => form.setValue('reason', text)}
            >
              {text}
            </button>
          ))}
        </div>
        <div className="mt-3 flex gap-2">
          <button type="submit" className="btn btn-primary btn-sm" disabled={aside.isLoading || rows.length === 0}>
            Waive {rows.length}
          </button>
          <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
            Close
          </button>
        </div>
      </form>
      <ProblemNote error={aside.error} onClose={aside.reset} />
    </section>
  );
}
