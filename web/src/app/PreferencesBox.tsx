import { useState } from 'react';
import { dateStyles, densities, dropFrameMarks, personSchema, themes, type Settings } from '@legame/core/contract';
import { dateStyleText, densityText, dropFrameText, themeText } from '@legame/words/preferences';
import { settings } from '../api/settings.ts';
import { Modal } from '../parts/Modal.tsx';
import { NameForm } from '../parts/NameForm.tsx';
import { ProblemNote } from '../parts/ProblemNote.tsx';
import { Check, NumberIn } from '../parts/Word.tsx';
import { goAs, openPreferences } from '../session/preferences.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import { prefer } from './usePreferences.ts';

/** How somebody likes to work, changed at once and kept under their name; and what is so for everybody. */
export function PreferencesBox() {
  const dispatch = useAppDispatch();
  const close = () => dispatch(openPreferences(false));
  return (
    <Modal label="preferences" boxClass="flex max-h-[84vh] max-w-[620px] flex-col gap-3 overflow-auto" onClose={close}>
      <header className="flex items-center gap-2">
        <h2 className="flex-1 text-[15px] font-semibold">Preferences</h2>
        <button type="button" className="btn btn-plain btn-xs" onClick={close}>
          Close
        </button>
      </header>
      <Mine />
      <Everybody />
    </Modal>
  );
}

function Mine() {
  const { person, mine } = useAppSelector((state) => state.preferences);
  const dispatch = useAppDispatch();
  const people = settings.usePeopleQuery(undefined, { refetchOnMountOrArgChange: true });
  const [failed, setFailed] = useState<unknown>(null);
  const set = (changed: Parameters<typeof prefer>[0]) =>
    void dispatch(prefer(changed)).then(({ error }) => setFailed(error ?? null));
  const names = [...new Set([person, ...(people.data ?? [])])].sort((a, b) => a.localeCompare(b));
  return (
    <section aria-label="how you like to work" className="flex flex-col gap-2.5">
      <div className="flex flex-wrap items-center gap-2">
        <label className="flex items-center gap-2">
          Those of
          <select
            className="select select-sm w-44"
            aria-label="whose preferences"
            value={person}
            onChange={(event) => dispatch(goAs(event.target.value))}
          >
            {names.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <NameForm
          className="flex-1"
          inputClass="min-w-0 flex-1"
          schema={personSchema}
          label="name of somebody else"
          hint="Another name"
          verb="Be that"
          onName={(name) => {
            dispatch(goAs(name));
            return Promise.resolve();
          }}
        />
      </div>
      <p className="text-quiet">Under this name you find them again in any browser that opens this Legame.</p>
      <Row name="Theme">
        <Choice label="theme" ids={themes} texts={themeText} chosen={mine.theme} onChoose={(theme) => set({ theme })} />
      </Row>
      <Row name="Rows of tables">
        <Choice
          label="rows"
          ids={densities}
          texts={densityText}
          chosen={mine.density}
          onChoose={(density) => set({ density })}
        />
      </Row>
      <Row name="Dates">
        <Choice
          label="dates"
          ids={dateStyles}
          texts={dateStyleText}
          chosen={mine.dates}
          onChoose={(dates) => set({ dates })}
        />
      </Row>
      <Row name="Drop-frame timecode">
        <Choice
          label="drop-frame timecode"
          ids={dropFrameMarks}
          texts={dropFrameText}
          chosen={mine.dropFrame}
          onChoose={(dropFrame) => set({ dropFrame })}
        />
      </Row>
      <Row name="Handles to begin with">
        <NumberIn
          label="frames of handles in a new plan"
          value={mine.handlesInFrames}
          most={100_000}
          onChange={(handlesInFrames) => set({ handlesInFrames })}
        />
      </Row>
      <Check
        label="Show keys beside what they do"
        isOn={mine.areKeysShown}
        onChange={(areKeysShown) => set({ areKeysShown })}
      />
      <Check
        label="Show pictures in the rows of the ledger"
        isOn={mine.arePicturesShown}
        onChange={(arePicturesShown) => set({ arePicturesShown })}
      />
      <ProblemNote error={failed} onClose={() => setFailed(null)} />
    </section>
  );
}

/** What is so for everybody: changed when it is said, for it concerns others. */
function Everybody() {
  const known = settings.useSettingsQuery(undefined);
  const [change, changed] = settings.useChangeSettingsMutation();
  const [draft, setDraft] = useState<Settings | null>(null);
  if (!known.data) return <ProblemNote error={known.error} />;
  const shown = draft ?? known.data;
  const isLimited = shown.cacheLimitInMB !== null;
  return (
    <section aria-label="for everybody" className="line-t flex flex-col gap-2.5 pt-3">
      <h3 className="font-semibold">For everybody who uses this Legame</h3>
      <Row name="Headroom">
        <NumberIn
          label="percent of every drive are kept free"
          value={shown.headroomPercent}
          most={80}
          onChange={(headroomPercent) => setDraft({ ...shown, headroomPercent })}
        />
      </Row>
      <Row name="Cache of pictures">
        <Check
          label="Its own limit"
          isOn={isLimited}
          onChange={(isOn) => setDraft({ ...shown, cacheLimitInMB: isOn ? 2000 : null })}
        />
        {shown.cacheLimitInMB !== null && (
          <NumberIn
            label="megabytes at the most"
            value={shown.cacheLimitInMB}
            most={10_000_000}
            onChange={(cacheLimitInMB) => setDraft({ ...shown, cacheLimitInMB })}
          />
        )}
      </Row>
      {draft && (
        <div className="flex gap-1.5">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={changed.isLoading}
            onClick={() =>
              void change(draft)
                .unwrap()
                .then(() => setDraft(null))
                .catch(() => undefined)
            }
          >
            Say so for everybody
          </button>
          <button type="button" className="btn btn-plain btn-sm" onClick={() => setDraft(null)}>
            Leave it as it was
          </button>
        </div>
      )}
      <ProblemNote error={changed.error} onClose={changed.reset} />
    </section>
  );
}

const Row = ({ name, children }: { name: string; children: React.ReactNode }) => (
  <div className="flex flex-wrap items-center gap-3">
    <span className="w-40 shrink-0 text-quiet">{name}</span>
    {children}
  </div>
);

function Choice<T extends string>({
  label,
  ids,
  texts,
  chosen,
  onChoose,
}: {
  label: string;
  ids: readonly T[];
  texts: Readonly<Record<T, string>>;
  chosen: T;
  onChoose: (id: T) => void;
}) {
  return (
    <select
      className="select select-sm w-56"
      aria-label={label}
      value={chosen}
      onChange={(event) => onChoose(event.target.value as T)}
    >
      {ids.map((id) => (
        <option key={id} value={id}>
          {texts[id]}
        </option>
      ))}
    </select>
  );
}
