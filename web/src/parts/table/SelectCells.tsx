/** The cell over a list's rows that selects all that are shown. */
export const SelectAllCell = ({ isOn, onChange }: { isOn: boolean; onChange: (isOn: boolean) => void }) => (
  <span role="columnheader">
    <input
      type="checkbox"
      className="checkbox checkbox-xs"
      aria-label="select all shown"
      checked={isOn}
      onChange={(event) => onChange(event.target.checked)}
    />
  </span>
);

/** The cell of a row that takes it into the selection, or out, beside what is selected already. */
export const SelectCell = ({ name, isOn, onToggle }: { name: string; isOn: boolean; onToggle: () => void }) => (
  <span role="gridcell">
    <input
      type="checkbox"
      className="checkbox checkbox-xs"
      aria-label={`select ${name}`}
      checked={isOn}
      onClick={(event) => event.stopPropagation()}
      onChange={onToggle}
    />
  </span>
);
