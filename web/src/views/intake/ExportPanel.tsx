import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { FormProvider, useForm, useFormContext } from 'react-hook-form';
import type { DocumentView } from '@legame/core/contract';
import { fetchExport } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { saveAs } from '../../parts/saveAs.ts';
import { count } from '@legame/words/numbers';
import { formatWords } from '@legame/words/remarks';
import { choiceSchema, formatsFor, isOwnForm, queryOf, type ExportChoice } from './exports.ts';

/** How a document goes out: as what, and how its references say where files lie on the machine that will open it. */
export function ExportPanel({ document }: { document: DocumentView }) {
  const form = useForm<ExportChoice>({
    resolver: zodResolver(choiceSchema),
    defaultValues: {
      format: document.format,
      timeline: document.timelines.find((t) => t.top)?.key ?? '',
      track: '',
      paths: 'absolute',
      folder: document.folder ?? '',
      roots: {},
      reels: false,
    },
  });
  const [said, setSaid] = useState('');
  const [error, setError] = useState<unknown>(null);
  const choice = form.watch();
  const isOwn = isOwnForm(document, choice);
  const save = async (wanted: ExportChoice) => {
    setError(null);
    setSaid('');
    try {
      const exported = await fetchExport(document.id, queryOf(document, wanted));
      saveAs(exported.content, exported.name);
      setSaid(
        `${exported.name}: ${count(exported.relinked, 'clip')} of ${document.clips} refer to their files.${
          exported.reencoded ? ' Its old encoding cannot hold a new name, so it is UTF-8 now.' : ''
        }`,
      );
    } catch (failure) {
      setError(failure);
    }
  };
  return (
    <FormProvider {...form}>
      <form
        className="line-t mt-2 flex flex-col gap-2.5 pt-2"
        aria-label={`export of ${document.name}`}
        onSubmit={(event) => void form.handleSubmit(save)(event)}
      >
        <div className="flex flex-wrap items-end gap-3">
          <As document={document} />
          <Select label="References say" name="paths" aria="references say" className="w-72">
            <option value="absolute">whole paths, as on this machine</option>
            <option value="relative">paths seen from the document’s folder</option>
            <option value="place-roots">where the receiver’s places lie</option>
          </Select>
        </div>
        <WhereFilesLie />
        <div className="flex items-center gap-4">
          <button type="submit" className="btn btn-primary btn-sm">
            Export {isOwn ? 'relinked' : `as ${formatWords[choice.format]}`}
          </button>
          {choice.format === 'edl' && (
            <label className="flex items-center gap-2">
              <input type="checkbox" className="checkbox checkbox-xs" {...form.register('reels')} />
              write the reels of linked files too
            </label>
          )}
          <span className="text-quiet" role="status">
            {said || (isOwn ? 'Its references change, and not one other character.' : '')}
          </span>
        </div>
        <ProblemNote error={error} onClose={() => setError(null)} />
      </form>
    </FormProvider>
  );
}

function Select({
  label,
  name,
  aria,
  className,
  children,
}: {
  label: string;
  name: 'format' | 'timeline' | 'track' | 'paths';
  aria: string;
  className: string;
  children: React.ReactNode;
}) {
  const { register, setValue } = useFormContext<ExportChoice>();
  return (
    <label className="flex flex-col gap-0.5">
      <span className="text-quiet">{label}</span>
      <select
        className={`select select-sm ${className}`}
        aria-label={aria}
        // Another format or timeline has other tracks.
        {...register(name, { onChange: () => name !== 'track' && name !== 'paths' && setValue('track', '') })}
      >
        {children}
      </select>
    </label>
  );
}

/** The format, and for a list the timeline and the track. */
function As({ document }: { document: DocumentView }) {
  const { watch } = useFormContext<ExportChoice>();
  const tops = document.timelines.filter((t) => t.top);
  const timeline = document.timelines.find((t) => t.key === watch('timeline'));
  return (
    <>
      <Select label="As" name="format" aria="export as" className="w-60">
        {formatsFor(document).map((id) => (
          <option key={id} value={id}>
            {id === document.format ? `${formatWords[id]}, as it came in` : `${formatWords[id]}, written anew`}
          </option>
        ))}
      </Select>
      {watch('format') === 'edl' && timeline && (
        <>
          {tops.length > 1 && (
            <Select label="Timeline" name="timeline" aria="timeline to export" className="w-48">
              {tops.map((t) => (
                <option key={t.key} value={t.key}>
                  {t.name}
                </option>
              ))}
            </Select>
          )}
          <Select label="Track" name="track" aria="track to export" className="w-40">
            <option value="">{document.format === 'edl' ? 'the whole list' : (timeline.tracks[0] ?? 'V1')}</option>
            {timeline.tracks.slice(document.format === 'edl' ? 0 : 1).map((t) => (
              <option key={t} value={t}>
                {t}
              </option>
            ))}
          </Select>
        </>
      )}
    </>
  );
}

/** What the chosen kind of path asks for. */
function WhereFilesLie() {
  const places = storage.usePlacesQuery();
  const { register, watch, formState } = useFormContext<ExportChoice>();
  const paths = watch('paths');
  if (paths === 'relative')
    return (
      <label className="flex flex-col gap-0.5">
        <span className="text-quiet">The folder in which the document will lie</span>
        <input
          className="input input-sm w-full font-mono"
          aria-label="folder of the document"
          aria-invalid={formState.errors.folder !== undefined}
          placeholder="/path/to/the/folder"
          {...register('folder')}
        />
        {formState.errors.folder && (
          <span role="alert" className="text-missing">
            {formState.errors.folder.message}
          </span>
        )}
      </label>
    );
  if (paths !== 'place-roots') return null;
  return (
    <ul className="grid grid-cols-2 gap-x-4 gap-y-1" aria-label="where places lie">
      {places.data?.map((place) => (
        <li key={place.id}>
          <label className="flex items-center gap-2">
            <span className="w-24 shrink-0 truncate font-mono" title={place.name}>
              {place.name}
            </span>
            <input
              className="input input-sm min-w-0 flex-1 font-mono"
              aria-label={`where ${place.name} lies`}
              placeholder={`/Volumes/${place.name}`}
              {...register(`roots.${place.id}`)}
            />
          </label>
        </li>
      ))}
    </ul>
  );
}
