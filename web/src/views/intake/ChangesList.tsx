import { Link, useParams } from 'react-router';
import type { DocumentView } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { versionsInAddress } from '../cut/versions/versions.ts';
import { ChangesOf } from '../../parts/ChangesOf.tsx';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { count, when } from '@legame/words/numbers';

/** What changed since the version that this document replaced, and what is dark because of it. */
export function ChangesList({ document }: { document: DocumentView }) {
  const { projectId = '' } = useParams();
  const comparison = api.useComparisonQuery(document.id);
  if (!comparison.data) return <Waiting what="the comparison" error={comparison.error} />;
  const { former, timelines } = comparison.data;
  const dark = timelines.flatMap((t) => t.changes).filter((c) => c.isDark).length;
  return (
    <section aria-label="what changed">
      <h2 className="text-[15px] font-semibold [overflow-wrap:anywhere]">{document.name}</h2>
      <p className="mt-1 mb-3 text-quiet">
        Compared with “{former.name}” of {when(former.broughtInAt)}.{' '}
        {dark > 0 ? (
          <b className="text-missing">{count(dark, 'changed event')} dark.</b>
        ) : (
          'Nothing that changed is dark.'
        )}
      </p>
      {timelines.map((timeline, i) => (
        <div key={i} className="mb-4">
          <ChangesOf timeline={timeline} />
          {timeline.key !== null && timeline.only === null && timeline.changes.length > 0 && (
            <Link
              className="underline underline-offset-2"
              to={`/projects/${projectId}/cut?${versionsInAddress(`${document.id}/${timeline.key}`)}`}
            >
              Both versions, one above the other
            </Link>
          )}
        </div>
      ))}
    </section>
  );
}
