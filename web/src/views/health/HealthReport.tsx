import { useParams } from 'react-router';
import { healthWords, subjectDetail, subjectText } from '@legame/words/health';
import { count, when } from '@legame/words/numbers';
import { health } from '../../api/health.ts';
import { api } from '../../api/legame.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { Sheet } from '../report/Sheet.tsx';
import { verdictOn } from './HealthView.tsx';

/** The health of a project's media on paper: what was looked for, what was found, what is accepted. */
export function HealthReport() {
  const { projectId = '' } = useParams();
  const project = api.useProjectQuery(projectId);
  const found = health.useHealthQuery(projectId);
  if (!project.data || !found.data) return <Waiting what="the report" error={project.error ?? found.error} />;
  const { checks, files, clips, keptAt } = found.data;
  return (
    <Sheet projectId={projectId} title={`${project.data.name} health`} back="health">
      <h1 className="text-[19px] font-bold">{project.data.name}: health of its media</h1>
      <p className="text-quiet">
        {when(new Date().toISOString())}, {count(files, 'file')} in use by {count(clips, 'clip')}
        {keptAt && `; new and gone since ${when(keptAt)}`}
      </p>
      <p className="mt-2 mb-3 text-[15px]">
        <b>{verdictOn(found.data)}</b>
      </p>
      {checks.map((checked) => {
        const { title, found: told, risk, remedy } = healthWords[checked.check];
        const { check, isAsked, open, accepted, added, gone, findings } = checked;
        if (open + accepted === 0)
          return (
            <p key={check} className="line-b py-1">
              <b>{title}</b>:{' '}
              <span className="text-quiet">
                {isAsked ? 'nothing found' : 'not looked for, since nothing says how it should be'}
                {gone > 0 && `, ${gone} gone`}
              </span>
            </p>
          );
        return (
          <section key={check} className="line-b py-2">
            <h2 className="text-[15px] font-semibold">
              {told(open || accepted)}
              {accepted > 0 && (open > 0 ? `, ${count(accepted, 'other')} accepted` : ', accepted')}
              {added > 0 && `, ${added} new`}
              {gone > 0 && `, ${gone} gone`}
            </h2>
            <p className="text-quiet">
              {risk} {remedy}
            </p>
            <ul className="pt-1">
              {findings.map((finding) => {
                const detail = subjectDetail(finding.subject);
                return (
                  <li key={finding.key} className="break-inside-avoid py-0.5">
                    <span className="font-mono [overflow-wrap:anywhere]">{subjectText(finding.subject)}</span>
                    {detail && <span className="text-quiet"> {detail}</span>}
                    {finding.isNew && <b> new</b>}
                    {finding.accepted && (
                      <span>
                        , accepted {when(finding.accepted.at)}
                        {finding.accepted.note && `: ${finding.accepted.note}`}
                      </span>
                    )}
                  </li>
                );
              })}
              {open + accepted > findings.length && (
                <li className="text-quiet">and {count(open + accepted - findings.length, 'other')}</li>
              )}
            </ul>
          </section>
        );
      })}
    </Sheet>
  );
}
