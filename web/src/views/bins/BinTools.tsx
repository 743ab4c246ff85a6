import { fileRules, type FileRule, type Label } from '@legame/core/bins';
import { fileRuleWords } from '@legame/words/bins';
import { group } from '@legame/words/numbers';
import { CommandButton } from '../../commands/CommandButton.tsx';
import { LabelMark } from './LabelMark.tsx';

/** What is looked for in the bin, and what is done to the selection. */
export function BinTools({
  text,
  onText,
  areGathered,
  onGather,
  shown,
  of,
  chosen,
  labels,
  onLabel,
  onLabels,
  onFileBy,
  onSave,
  onPrint,
}: {
  text: string;
  onText: (text: string) => void;
  areGathered: boolean;
  onGather: (areGathered: boolean) => void;
  shown: number;
  of: number;
  /** Rows that are selected. */
  chosen: number;
  labels: readonly Label[];
  onLabel: (label: string | null) => void;
  onLabels: () => void;
  onFileBy: (rule: FileRule) => void;
  onSave: () => void;
  onPrint: () => void;
}) {
  const what = chosen > 0 ? 'the selected clips' : 'all clips that are shown';
  return (
    <div className="line-b flex flex-wrap items-center gap-1.5 bg-base-200 px-2.5 py-2">
      <input
        className="input input-sm h-[26px] w-32"
        placeholder="find in this bin…"
        aria-label="find in this bin"
        value={text}
        onChange={(event) => onText(event.target.value)}
        // Out of the field, so that the keys work on the rows again.
        onKeyDown={(event) => (event.key === 'Escape' || event.key === 'Enter') && event.currentTarget.blur()}
      />
      <span className="text-quiet" role="status">
        {shown === of ? group(of) : `${group(shown)} of ${group(of)}`}
        {chosen > 0 && ` · ${group(chosen)} selected`}
      </span>
      <label className="flex items-center gap-1.5" title="A clip of several documents is one row, with all its uses">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={areGathered}
          onChange={(event) => onGather(event.target.checked)}
        />
        by recording
      </label>
      <span className="ml-auto flex flex-wrap items-center gap-1.5">
        <select
          className="select select-sm h-[26px] w-24"
          aria-label="label the selected clips"
          value=""
          disabled={chosen === 0}
          onChange={(event) => {
            if (event.target.value === 'none') onLabel(null);
            else onLabel(event.target.value);
          }}
        >
          <option value="" disabled>
            Label…
          </option>
          {labels.map((label) => (
            <option key={label.id} value={label.id}>
              {label.name}
            </option>
          ))}
          <option value="none">no label</option>
        </select>
        <button
          type="button"
          className="btn btn-plain btn-sm h-[26px]"
          onClick={onLabels}
          title="Make and change labels"
        >
          {labels.length === 0
            ? 'Labels…'
            : labels.slice(0, 4).map((label) => <LabelMark key={label.id} label={label} />)}
        </button>
        <CommandButton id="file-in-bin" className="btn btn-plain btn-sm h-[26px]">
          Into a bin…
        </CommandButton>
        <select
          className="select select-sm h-[26px] w-26"
          aria-label="put into bins by"
          title={`Puts ${what} into bins inside this one`}
          value=""
          onChange={(event) => onFileBy(event.target.value as FileRule)}
        >
          <option value="" disabled>
            Into bins…
          </option>
          {fileRules.map((rule) => (
            <option key={rule} value={rule}>
              {fileRuleWords[rule]}
            </option>
          ))}
        </select>
        <button type="button" className="btn btn-plain btn-sm h-[26px]" onClick={onSave} title="What is shown, as CSV">
          CSV
        </button>
        <button
          type="button"
          className="btn btn-plain btn-sm h-[26px]"
          onClick={onPrint}
          title="What is shown, on paper"
        >
          Print
        </button>
      </span>
    </div>
  );
}
