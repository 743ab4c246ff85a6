import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Checked, Health } from '@legame/core/contract';
import { healthWords } from '@legame/words/health';
import { count, when } from '@legame/words/numbers';
import { health } from '../../api/health.ts';
import { ListAndPanel } from '../../parts/ListAndPanel.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { CheckPanel } from './CheckPanel.tsx';
import { FoldersPanel } from './FoldersPanel.tsx';
import { HomeLine } from './HomeLine.tsx';

/** What may go wrong with the media later: each check with its risk and a remedy, accepted with a note or mended. */
export function HealthView() {
  const { projectId = '' } = useParams();
  const found = health.useHealthQuery(projectId);
  const [keep, kept] = health.useKeepHealthMutation();
  const [shown, setShown] = useState<Checked['check'] | 'folders' | null>(null);
  if (!found.data) return <Waiting what="the health of the media" error={found.error} />;
  const { checks, keptAt, files, clips } = found.data;
  const withFindings = checks.filter((c) => c.open + c.accepted > 0);
  // What was mended stays in hand, to see that it is.
  const inHand = checks.find((c) => c.check === shown) ?? withFindings[0];
  return (
    <ListAndPanel
      name="health"
      listClass="min-w-0 overflow-auto! p-3.5"
      panelSize="420px"
      panelAtMost="65%"
      panel={
        shown === 'folders' ? (
          <FoldersPanel
            projectId={projectId}
            home={found.data.home ?? found.data.proposedHome}
            onClose={() => setShown(null)}
          />
        ) : inHand ? (
          <CheckPanel key={inHand.check} projectId={projectId} checked={inHand} hasHome={found.data.home !== null} />
        ) : (
          <p className="p-4 text-quiet">What a check finds is shown here, file by file, with what can be done.</p>
        )
      }
    >
      <header className="pb-2.5">
        <h2 className="text-[17px] font-bold">{verdictOn(found.data)}</h2>
        <p className="text-quiet">
          {count(files, 'file')} in use by {count(clips, 'clip')}, looked at just now.{' '}
          {keptAt
            ? `New and gone are told since ${when(keptAt)}.`
            : 'Keep this state, and the next look tells what is new.'}
        </p>
        <div className="flex flex-wrap gap-1.5 pt-1.5">
          <button
            type="button"
            className="btn btn-plain btn-sm"
            disabled={kept.isLoading}
            title="The next time, it is told what is new and what is gone since"
            onClick={() => void keep(projectId)}
          >
            Keep this state
          </button>
          <Link to={`/projects/${projectId}/health-report`} className="btn btn-plain btn-sm">
            Print…
          </Link>
        </div>
      </header>
      <ProblemNote error={kept.error ?? found.error} onClose={kept.reset} />
      <HomeLine projectId={projectId} health={found.data} onFolders={() => setShown('folders')} />
      <ol className="flex flex-col gap-2" aria-label="checks that found something">
        {withFindings.map((checked) => (
          <li key={checked.check}>
            <CheckCard
              checked={checked}
              isShown={checked === inHand && shown !== 'folders'}
              onShow={() => setShown(checked.check)}
            />
          </li>
        ))}
      </ol>
      <Clean checks={checks.filter((c) => c.isAsked && c.open + c.accepted === 0)} />
      <NotAsked checks={checks.filter((c) => !c.isAsked)} />
    </ListAndPanel>
  );
}

export function verdictOn({ checks, files }: Health): string {
  const open = checks.filter((c) => c.open > 0).length;
  if (files === 0) return 'No media are in use yet.';
  if (open > 0) return `${count(open, 'check')} of ${checks.length} found something.`;
  return checks.some((c) => c.accepted > 0) ? 'All is well, or accepted.' : 'All is well.';
}

function CheckCard({ checked, isShown, onShow }: { checked: Checked; isShown: boolean; onShow: () => void }) {
  const { found, risk } = healthWords[checked.check];
  const { open, accepted, added, gone } = checked;
  const notes = [
    added > 0 && `${added} new`,
    gone > 0 && `${gone} gone`,
    accepted > 0 && `${accepted} accepted`,
  ].filter(Boolean);
  return (
    <button
      type="button"
      aria-pressed={isShown}
      className={`sheet w-full px-3 py-2 text-left ${isShown ? 'border-primary!' : ''} ${open === 0 ? 'text-quiet' : ''}`}
      onClick={onShow}
    >
      <span className="flex items-baseline gap-2">
        <b className="flex-1">{found(open || accepted)}.</b>
        <span className="text-[12px] text-quiet">{notes.join(' · ')}</span>
      </span>
      <span className="block text-quiet">{risk}</span>
    </button>
  );
}

/** What was looked for and not found: to know that somebody looked. */
function Clean({ checks }: { checks: readonly Checked[] }) {
  if (checks.length === 0) return null;
  return (
    <p className="pt-3 text-quiet">
      Nothing found of: {checks.map(({ check }) => healthWords[check].title.toLowerCase()).join(', ')}.
    </p>
  );
}

/** What nobody can tell before somebody says how it should be. */
function NotAsked({ checks }: { checks: readonly Checked[] }) {
  if (checks.length === 0) return null;
  return (
    <p className="pt-1.5 text-quiet">
      Not looked for, since nothing says how it should be:{' '}
      {checks.map(({ check }) => healthWords[check].title.toLowerCase()).join(', ')}.
    </p>
  );
}
