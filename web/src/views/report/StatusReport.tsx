import { useParams } from 'react-router';
import { isQuestion } from '@legame/core/match';
import { statusNames } from '@legame/core/state';
import type { CauseView, ClipRow } from '@legame/core/contract';
import { acts } from '../../api/acts.ts';
import { isWhole, lists } from '../../api/clipList.ts';
import { api, pictureUrl } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { CausePath } from '../../parts/CausePath.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { StatusMark } from '../../parts/StatusMark.tsx';
import { causeSentence } from '@legame/words/causes';
import { clock, count, when } from '@legame/words/numbers';
import { statusSentence, whySentence } from '@legame/words/statuses';
import { Sheet } from './Sheet.tsx';

/** Clips named under a cause; the rest are in the list below. */
const named = 8;

/** The state of a project on paper: how much is dark, why, what is linked to what. */
export function StatusReport() {
  const { projectId = '' } = useParams();
  const project = api.useProjectQuery(projectId);
  const clips = lists.useClipsQuery(projectId);
  const documents = api.useDocumentsQuery(projectId);
  const places = storage.usePlacesQuery();
  const found = acts.useCausesQuery(projectId);
  // A sheet with some of the clips would be taken for all of them.
  if (!project.data || !clips.data || !isWhole(clips.data) || !found.data)
    return <Waiting what="the report" error={project.error ?? clips.error ?? found.error} />;
  const { name, darkSeconds, cutSeconds, statuses, toDo } = project.data;
  const { causes, parked } = found.data;
  const questions = causes.filter(isQuestion).length;
  const share = cutSeconds > 0 ? Math.round((darkSeconds / cutSeconds) * 100) : 0;
  return (
    <Sheet projectId={projectId} title={`${name} status`} back="ledger">
      <h1 className="text-[19px] font-bold">{name}: state of its media</h1>
      <p className="text-quiet">{when(new Date().toISOString())}</p>
      <p className="mt-2 text-[15px]">
        {darkSeconds > 0 ? (
          <>
            <b className="text-missing">{clock(darkSeconds)} dark</b> of {clock(cutSeconds)} ({share} %);{' '}
            {count(toDo, 'clip')} of {clips.data.length} to do, for {count(causes.length - questions, 'cause')}
            {questions > 0 && ` and ${count(questions, 'question')} that only a person can answer`}
            {parked > 0 && `, ${parked} of them parked for later`}.
          </>
        ) : (
          <b className="text-linked">Nothing is dark in {clock(cutSeconds)}.</b>
        )}
      </p>
      <ul className="my-3 flex flex-wrap gap-x-6 gap-y-1" aria-label="by status">
        {statusNames
          .filter((status) => (statuses[status] ?? 0) > 0)
          .map((status) => (
            <li key={status} className="flex items-center gap-2">
              <StatusMark status={status} />
              <b className="font-mono">{statuses[status]}</b>
            </li>
          ))}
      </ul>
      <section className="mb-4">
        <h2 className="line-b mb-1 text-[15px] font-semibold">Timelines</h2>
        <ul>
          {documents.data?.map((d) => (
            <li key={d.id}>
              {d.timelines
                .filter((t) => t.top)
                .map((t) => t.name)
                .join(', ') || d.title}{' '}
              <span className="font-mono text-quiet">{d.name}</span>
            </li>
          ))}
        </ul>
        <p className="mt-1 text-quiet">
          Looked for in{' '}
          {places.data?.map((p) => `${p.name}${p.there ? '' : ' (not plugged in)'}`).join(', ') || 'no place'}.
        </p>
        <ProblemNote error={documents.error ?? places.error} />
      </section>
      {causes.length > 0 && (
        <section className="mb-4" aria-label="why">
          <h2 className="line-b mb-1 text-[15px] font-semibold">Why clips are dark</h2>
          {causes.map((cause) => (
            <CauseLine key={cause.key} cause={cause} />
          ))}
        </section>
      )}
      <section>
        <h2 className="line-b mb-1 text-[15px] font-semibold">All clips</h2>
        <table className="w-full table-fixed text-left">
          <thead className="text-quiet">
            <tr>
              <th className="w-24 font-normal">Picture</th>
              <th className="font-normal">Remembered</th>
              <th className="w-24 font-normal">Status</th>
              <th className="font-normal">Found, or why not</th>
              <th className="w-16 text-right font-normal">Used</th>
            </tr>
          </thead>
          <tbody>
            {clips.data.map((row) => (
              <ClipLine key={row.id} row={row} />
            ))}
          </tbody>
        </table>
      </section>
    </Sheet>
  );
}

/** A cause as the Causes screen says it; of its clips some by name. */
function CauseLine({ cause: { kind, clipIds, samples, screenSeconds } }: { cause: CauseView }) {
  const [clips, isNamed] = [clipIds.length, kind.code === 'displaced' || kind.code === 'choice'];
  return (
    <div className="break-inside-avoid py-1">
      <p>
        <b>{count(clips, 'clip')}</b>, {clock(screenSeconds)}: {causeSentence(kind, clips)}
      </p>
      {isNamed && <CausePath kind={kind} samples={[]} />}
      <p className="font-mono text-quiet [overflow-wrap:anywhere]">
        {samples.slice(0, named).join(', ')}
        {clips > Math.min(named, samples.length) && ` and ${clips - Math.min(named, samples.length)} more`}
      </p>
    </div>
  );
}

function ClipLine({ row }: { row: ClipRow }) {
  const hasPicture = row.tied !== null && row.kind !== 'sound' && row.status.status !== 'unreadable';
  return (
    <tr className="line-b break-inside-avoid align-top">
      <td className="py-1">
        {hasPicture && (
          <img
            src={pictureUrl({ id: row.tied!.mediaFileId, version: row.tied!.version }, 0)}
            alt=""
            loading="lazy"
            className="aspect-video w-20 rounded-[2px] bg-base-300 object-cover"
            onError={(event) => event.currentTarget.remove()}
          />
        )}
      </td>
      <td className="py-1 pr-2 [overflow-wrap:anywhere]">
        <span className="font-mono">{row.fileName}</span>
        <span className="block text-quiet">
          {row.folder}
          {row.reel && ` · reel ${row.reel}`}
        </span>
      </td>
      <td className="py-1">
        <StatusMark status={row.status.status} />
      </td>
      <td className="py-1 pr-2 [overflow-wrap:anywhere]">
        {row.tied ? (
          <span className="font-mono">
            {[row.tied.placeName, row.tied.folder, row.tied.name].filter((p) => p !== '').join('/')}
          </span>
        ) : null}
        {row.status.status !== 'linked' && (
          <span className="block">{row.why ? whySentence(row.why) : statusSentence(row.status)}</span>
        )}
      </td>
      <td className="py-1 text-right font-mono">{row.usedSeconds > 0 ? clock(row.usedSeconds) : '–'}</td>
    </tr>
  );
}
