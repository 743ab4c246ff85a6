/** A bin by the names of the bins it stands in, outermost first, and its own; empty for the project itself. */
export type BinPath = readonly string[];

/**
 * What people note of a clip beside what its documents say. Nothing of it is a link, and nothing of it goes into a
 * document of theirs.
 */
export type Noted = {
  /** The bin it was put in; null where it lies in its document's. */
  readonly bin: BinPath | null;
  /** The id of a label of the project. */
  readonly label: string | null;
  /** Values by column, over what logs and documents say; an empty one hides what they say. */
  readonly values: Readonly<Record<string, string>>;
};

export const nothingNoted: Noted = { bin: null, label: null, values: {} };

/** Marks of labels: told apart without colour, too. */
export const labelMarks = ['dot', 'square', 'triangle', 'diamond', 'star', 'cross', 'ring', 'bar'] as const;
export const labelColours = ['ember', 'amber', 'moss', 'lake', 'plum', 'stone'] as const;
export type Label = {
  readonly id: string;
  readonly name: string;
  readonly colour: (typeof labelColours)[number];
  readonly mark: (typeof labelMarks)[number];
};

/** Columns that logs and people write into, beside any column of a log. */
export const notedColumns = ['scene', 'take', 'circled', 'notes'] as const;
/** What stands in `circled` where a take is. */
export const circledValue = 'yes';

/** What is noted of a clip in a column: what a person wrote, else what its document says. */
export const notedValue = (
  { metadata, noted }: { readonly metadata: Readonly<Record<string, string>>; readonly noted: Noted | null },
  column: string,
): string => noted?.values[column] ?? metadata[column] ?? '';

/**
 * A clip's notes with some columns written. What comes to what the document says is no note of its own, and a clip of
 * which nothing is noted any more has none.
 */
export function withValues(
  clip: { readonly metadata: Readonly<Record<string, string>>; readonly noted: Noted | null },
  written: Readonly<Record<string, string>>,
): Noted | null {
  const values = { ...clip.noted?.values };
  for (const [column, value] of Object.entries(written)) {
    if (value === (clip.metadata[column] ?? '')) delete values[column];
    else values[column] = value;
  }
  return orNothing({ ...(clip.noted ?? nothingNoted), values });
}

/** Null where nothing is noted. */
export const orNothing = (noted: Noted): Noted | null =>
  noted.bin === null && noted.label === null && Object.keys(noted.values).length === 0 ? null : noted;
