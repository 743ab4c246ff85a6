import { X } from 'lucide-react';
import { useState } from 'react';
import { layoutSchema, type Arrangement, type TableName } from '@legame/core/contract';
import { bins } from '../../api/bins.ts';
import { NameForm } from '../NameForm.tsx';
import { ProblemNote } from '../ProblemNote.tsx';

/** Arrangements of a table under names: those that come with Legame, those of the project, and those for all. */
export function Layouts({
  projectId,
  table,
  shipped,
  now,
  onTake,
}: {
  projectId: string;
  table: TableName;
  shipped: readonly { readonly name: string; readonly arrangement: Arrangement }[];
  now: Arrangement;
  onTake: (arrangement: Arrangement) => void;
}) {
  const kept = bins.useLayoutsQuery({ projectId, table });
  const [keep, keeping] = bins.useKeepLayoutMutation();
  const [drop, dropping] = bins.useDropLayoutMutation();
  const [forAll, setForAll] = useState(false);
  const button = (name: string, arrangement: Arrangement, note?: string) => (
    <button
      type="button"
      className="btn btn-plain btn-xs min-w-0 flex-1 justify-start truncate"
      title={note}
      onClick={() => onTake(arrangement)}
    >
      {name}
      {note && <span className="font-normal text-quiet"> {note}</span>}
    </button>
  );
  return (
    <section aria-label="layouts" className="line-b mb-2 pb-2">
      <ul className="grid grid-cols-2 gap-1">
        {shipped.map(({ name, arrangement }) => (
          <li key={name} className="flex">
            {button(name, arrangement)}
          </li>
        ))}
        {kept.data?.map(({ name, forAll: isForAll, arrangement }) => (
          <li key={`${isForAll} ${name}`} className="flex items-center">
            {button(name, arrangement, isForAll ? 'of all' : undefined)}
            <button
              type="button"
              className="btn btn-ghost btn-xs px-0.5"
              aria-label={`forget ${name}`}
              onClick={() => void drop({ projectId, table, name, forAll: isForAll })}
            >
              <X size={11} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <NameForm
        schema={layoutSchema.shape.name}
        label="name of this layout"
        hint="Keep as…"
        verb="Keep"
        size="xs"
        className="mt-1.5"
        inputClass="min-w-0 flex-1"
        busy={keeping.isLoading}
        onName={(name) => keep({ projectId, table, name, forAll, arrangement: now }).unwrap()}
      >
        <label className="flex w-full items-center gap-1.5 text-quiet">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={forAll}
            onChange={(event) => setForAll(event.target.checked)}
          />
          for all projects
        </label>
      </NameForm>
      <ProblemNote error={keeping.error ?? dropping.error ?? kept.error} />
    </section>
  );
}
