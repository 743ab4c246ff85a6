import { useState } from 'react';
import { useNavigate } from 'react-router';
import { vaultHolder, type DeskRowView, type PullDeskQuery } from '@legame/core/contract';
import { sourceName, type PullMark } from '@legame/core/report';
import { capital, count, timecode, when } from '@legame/words/numbers';
import { requestText } from '@legame/words/pulls';
import { useAppDispatch } from '../../app/store.ts';
import { pulls } from '../../api/pulls.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { filterStatus, pickMany } from '../../session/selection.ts';

/** What is said of the chosen sources, in one act; of one, all that is known of it. */
export function PullPanel({
  projectId,
  asked,
  holders,
  rows,
  onDone,
}: {
  projectId: string;
  asked: PullDeskQuery;
  holders: readonly string[];
  rows: readonly DeskRowView[];
  onDone: () => void;
}) {
  const [mark, marking] = pulls.useMarkPullsMutation();
  const [holder, setHolder] = useState('');
  const [note, setNote] = useState('');
  const [only] = rows.length === 1 ? rows : [];
  const say = (as: PullMark | null) =>
    void mark({ projectId, keys: rows.map((r) => r.key), mark: as, holder: holder.trim(), note: note.trim(), ...asked })
      .unwrap()
      .then(
        () => {
          setNote('');
          onDone();
        },
        // What went wrong is shown below.
        () => undefined,
      );
  if (rows.length === 0)
    return (
      <p className="p-3.5 text-quiet">
        Choose sources: by one, by reel or all. Then say here of whom they are asked, that they are here, or that nobody
        has them.
      </p>
    );
  const button = (label: string, as: PullMark | null, isMain = false) => (
    <button
      type="button"
      className={`btn btn-sm ${isMain ? 'btn-primary' : 'btn-plain'}`}
      disabled={marking.isLoading || (as === null && rows.every((r) => r.request === null))}
      onClick={() => say(as)}
    >
      {label}
    </button>
  );
  return (
    <section className="flex h-full flex-col overflow-auto" aria-label="say what came of it">
      <div className="line-b flex flex-col gap-2 px-3.5 py-3">
        <h3 className="text-[15px] font-bold [overflow-wrap:anywhere]">
          {only ? sourceName(only) : `${count(rows.length, 'source')} chosen`}
        </h3>
        <input
          className="input input-sm w-full"
          aria-label="of whom"
          placeholder="of whom: an archive, a lab, a person"
          list="pull-holders"
          maxLength={200}
          value={holder}
          onChange={(e) => setHolder(e.target.value)}
        />
        <datalist id="pull-holders">
          {holders.map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
        <input
          className="input input-sm w-full"
          aria-label="note"
          placeholder="note: by when, under which number"
          maxLength={500}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
        {holder.trim() === vaultHolder && (
          <p className="text-quiet">The vault answers by itself, by file name: what it holds is loaded at once.</p>
        )}
        <div className="flex flex-wrap gap-1.5">
          {button('Asked for', 'asked', true)}
          {button('Arrived', 'arrived')}
          {button('Not to be had', 'not-to-be-had')}
          {button('Take back', null)}
        </div>
        <ProblemNote error={marking.error} onClose={marking.reset} />
      </div>
      <div className="flex flex-col items-start gap-2.5 px-3.5 py-3">
        {only && <OneSource row={only} />}
        <ToLedger projectId={projectId} rows={rows} />
      </div>
    </section>
  );
}

function OneSource({ row }: { row: DeskRowView }) {
  const { ranges, beyond, request, here, names, rate, counting } = row;
  const stretch = (range: DeskRowView['ranges'][number]) =>
    `${timecode(range.start, rate, counting)} – ${timecode(range.end, rate, counting)}`;
  return (
    <>
      {names.some((name) => name !== row.file) && (
        <p className="[overflow-wrap:anywhere]">Used as {names.join(', ')}.</p>
      )}
      {request && (
        <p>
          {capital(requestText(request))}, {when(request.at)}.
        </p>
      )}
      <Stretches
        title={row.state === 'wanted' || row.state === 'asked' ? 'Wanted' : 'Was wanted'}
        ranges={ranges.map(stretch)}
      />
      {beyond.length > 0 && <Stretches title="Wanted since, and not asked for" ranges={beyond.map(stretch)} />}
      {here.length > 0 && (
        <section>
          <h4 className="font-semibold">
            {here.some((f) => f.isTied) ? 'Here' : 'May be this file; nobody has decided'}
          </h4>
          <ul>
            {here.map((file) => (
              <li key={file.mediaFileId} className="font-mono [overflow-wrap:anywhere]">
                {[file.placeName, file.folder, file.name].filter(Boolean).join('/')}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function Stretches({ title, ranges }: { title: string; ranges: readonly string[] }) {
  return (
    <section>
      <h4 className="font-semibold">{title}</h4>
      <ul className="max-h-48 overflow-auto">
        {ranges.map((text) => (
          <li key={text} className="font-mono">
            {text}
          </li>
        ))}
      </ul>
    </section>
  );
}

function ToLedger({ projectId, rows }: { projectId: string; rows: readonly DeskRowView[] }) {
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const clipIds = rows.flatMap((row) => row.clipIds);
  if (clipIds.length === 0) return null;
  return (
    <button
      type="button"
      className="btn btn-plain btn-sm"
      onClick={() => {
        dispatch(filterStatus('all'));
        dispatch(pickMany(clipIds));
        void navigate(`/projects/${projectId}/ledger`);
      }}
    >
      Show {count(clipIds.length, 'clip')} in the ledger
    </button>
  );
}
