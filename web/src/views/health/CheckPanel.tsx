import { useState } from 'react';
import { useNavigate } from 'react-router';
import { homeChecks, type Checked, type HealthFindingView } from '@legame/core/contract';
import { healthWords, subjectDetail, subjectText } from '@legame/words/health';
import { bytes, capital, count, when } from '@legame/words/numbers';
import { health } from '../../api/health.ts';
import { PathText } from '../../parts/PathText.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { BringHome } from './BringHome.tsx';
import { useRemedies } from './useRemedies.ts';

/** What one check found, thing by thing: what may come of it, what can be done, and accepting it with a note. */
export function CheckPanel({ projectId, checked, hasHome }: { projectId: string; checked: Checked; hasHome: boolean }) {
  const { found, title, risk, remedy } = healthWords[checked.check];
  const remedies = useRemedies(projectId, checked);
  const [isHoming, setHoming] = useState(false);
  const { check, open, accepted, sizeInBytes } = checked;
  const homeCheck = hasHome ? homeChecks.find((c) => c === check) : undefined;
  return (
    <section className="flex h-full flex-col" aria-label={title}>
      <header className="line-b px-3 py-2.5">
        <h3 className="text-[15px] font-bold">
          {open + accepted > 0 ? `${found(open || accepted)}.` : `${title}: nothing any more.`}
        </h3>
        <p>{risk}</p>
        <p className="text-quiet">
          {capital(remedy)}
          {sizeInBytes > 0 && ` ${bytes(sizeInBytes)} in all.`}
        </p>
        {open > 0 && !isHoming && (
          <div className="flex flex-wrap gap-1.5 pt-2">
            {homeCheck && (
              <button type="button" className="btn btn-primary btn-sm" onClick={() => setHoming(true)}>
                Bring them home…
              </button>
            )}
            {remedies.actions.map(({ label, title: tip, isMain, onDo }) => (
              <button
                key={label}
                type="button"
                title={tip}
                className={`btn btn-sm ${isMain && !homeCheck ? 'btn-primary' : 'btn-plain'}`}
                disabled={remedies.isBusy}
                onClick={onDo}
              >
                {label}
              </button>
            ))}
          </div>
        )}
        {remedies.said && (
          <p role="status" className="pt-1.5">
            {remedies.said}
          </p>
        )}
        <ProblemNote error={remedies.error} />
      </header>
      {homeCheck && isHoming ? (
        <BringHome projectId={projectId} check={homeCheck} onClose={() => setHoming(false)} />
      ) : (
        <Findings projectId={projectId} checked={checked} />
      )}
    </section>
  );
}

/** The things themselves, each accepted or taken back by itself, or all that are open together. */
function Findings({ projectId, checked }: { projectId: string; checked: Checked }) {
  const [accept, accepting] = health.useAcceptFindingsMutation();
  const [note, setNote] = useState('');
  const { check, open, accepted, findings } = checked;
  const say = (keys: readonly string[] | null, text: string | null) =>
    void accept({ projectId, check, keys, note: text })
      .unwrap()
      .then(
        () => setNote(''),
        () => undefined,
      );
  return (
    <>
      {open > 0 && (
        <form
          className="line-b flex gap-1.5 px-3 py-2"
          onSubmit={(event) => {
            event.preventDefault();
            say(null, note.trim());
          }}
        >
          <input
            className="input input-sm min-w-0 flex-1"
            aria-label="why it stays so"
            placeholder="why it stays so"
            maxLength={500}
            value={note}
            onChange={(e) => setNote(e.target.value)}
          />
          <button type="submit" className="btn btn-plain btn-sm" disabled={accepting.isLoading}>
            Accept {open === 1 ? 'it' : `all ${open}`}
          </button>
        </form>
      )}
      <ProblemNote error={accepting.error} onClose={accepting.reset} />
      <ul className="min-h-0 flex-1 overflow-auto" aria-label="what it found" tabIndex={0}>
        {findings.map((finding) => (
          <Finding
            key={finding.key}
            projectId={projectId}
            finding={finding}
            isBusy={accepting.isLoading}
            onAccept={() => say([finding.key], note.trim())}
            onTakeBack={() => say([finding.key], null)}
          />
        ))}
        {open + accepted > findings.length && (
          <li className="px-3 py-2 text-quiet">
            and {count(open + accepted - findings.length, 'other')}; what is done for all is done to them too
          </li>
        )}
      </ul>
    </>
  );
}

function Finding({
  projectId,
  finding: { subject, placeId, accepted, isNew },
  isBusy,
  onAccept,
  onTakeBack,
}: {
  projectId: string;
  finding: HealthFindingView;
  isBusy: boolean;
  onAccept: () => void;
  onTakeBack: () => void;
}) {
  const navigate = useNavigate();
  const detail = subjectDetail(subject);
  const isPlace = (subject.what === 'folder' || subject.what === 'place') && placeId !== null;
  // Its path begins with the name of its place.
  const folder = subject.what === 'folder' ? subject.path.split('/').slice(1).join('/') : '';
  return (
    <li className={`line-b flex items-baseline gap-2 px-3 py-1.5 ${accepted ? 'text-quiet' : ''}`}>
      <span className="min-w-0 flex-1">
        <PathText path={subjectText(subject)} />
        {isNew && <b className="pl-1.5 text-[12px]">new</b>}
        {detail && <span className="block text-quiet [overflow-wrap:anywhere]">{detail}</span>}
        {accepted && (
          <span className="block">
            Accepted {when(accepted.at)}
            {accepted.note && `: ${accepted.note}`}
          </span>
        )}
      </span>
      {isPlace && (
        <button
          type="button"
          className="btn btn-plain btn-xs"
          onClick={() =>
            void navigate(`/projects/${projectId}/places/${placeId}/room?${new URLSearchParams({ folder })}`)
          }
        >
          Map
        </button>
      )}
      {accepted ? (
        <button type="button" className="btn btn-plain btn-xs" disabled={isBusy} onClick={onTakeBack}>
          Take back
        </button>
      ) : (
        <button type="button" className="btn btn-plain btn-xs" disabled={isBusy} onClick={onAccept}>
          Accept
        </button>
      )}
    </li>
  );
}
