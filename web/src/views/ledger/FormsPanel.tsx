import { useState } from 'react';
import { defaultForm, type Form } from '@legame/core/match';
import type { ClipRow } from '@legame/core/contract';
import { acts } from '../../api/acts.ts';
import { ActPanel } from '../../parts/ActPanel.tsx';
import { MemberList } from '../../parts/MemberList.tsx';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { formWords } from '@legame/words/causes';
import { count } from '@legame/words/numbers';

/** One recording may lie here in several forms: switches the selection, or everything, from one to another in one act. */
export function FormsPanel({
  projectId,
  rows,
  onClose,
}: {
  projectId: string;
  rows: readonly ClipRow[];
  onClose: () => void;
}) {
  const forms = acts.useFormsQuery(projectId);
  const [form, setForm] = useState<Form | null>(null);
  const [onlyChosen, setOnlyChosen] = useState(rows.length > 1);
  const clipIds = onlyChosen && rows.length > 0 ? rows.map((r) => r.id) : undefined;
  const [switchForm, switched] = acts.useSwitchFormMutation();
  const wanted = form ?? forms.data?.available[0]?.form ?? null;
  const preview = acts.useFormPreviewQuery({ projectId, form: wanted ?? 'original', clipIds }, { skip: !wanted });
  if (!forms.data) return <Waiting what="the forms of recordings" error={forms.error} />;
  // Of the form that is chosen, never of the one before.
  const members = preview.currentData ?? [];
  const fitting = members.filter((m) => m.fits);
  return (
    <ActPanel
      label="forms of recordings"
      title="Forms of recordings"
      verb={wanted && `Switch ${fitting.length}`}
      isPossible={fitting.length > 0}
      asked={switched}
      previewError={preview.error}
      onAct={() => switchForm({ projectId, form: wanted!, clipIds }).unwrap()}
      onClose={onClose}
    >
      <p className="mt-1 text-quiet">
        Files of the same reel, timecode, length and shape are one recording in several forms. This project works with{' '}
        the {formWords[forms.data.preferred ?? defaultForm]} where it is here.
      </p>
      {forms.data.available.length === 0 ? (
        <p className="my-3">No linked clip has its recording here in another form.</p>
      ) : (
        <>
          <div className="mt-2 flex flex-wrap gap-1.5" role="group" aria-label="forms">
            {forms.data.available.map((f) => (
              <button
                key={f.form}
                type="button"
                aria-pressed={wanted === f.form}
                className={`rounded border px-2 py-0.5 ${wanted === f.form ? 'border-base-content font-semibold' : 'border-base-300'}`}
                onClick={() => setForm(f.form)}
              >
                {formWords[f.form]} {f.clips}
              </button>
            ))}
          </div>
          <label className="my-2 flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              disabled={rows.length === 0}
              checked={onlyChosen && rows.length > 0}
              onChange={(e) => setOnlyChosen(e.target.checked)}
            />
            only the selection ({rows.length})
          </label>
          <p className="mb-2" role="status">
            {preview.currentData
              ? `${count(fitting.length, 'clip')} would be linked to the ${wanted ? formWords[wanted] : ''} of their recording.`
              : 'Looking…'}
          </p>
          <MemberList members={members} label="clips that would be switched" />
        </>
      )}
    </ActPanel>
  );
}
