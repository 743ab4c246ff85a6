import { excusedBy, interpretationOf, timecodeDisplacement, type TimecodeDisplacement } from './displacement.ts';
import type { Interpretation } from '../model/interpretation.ts';
import type { Decision } from './decision.ts';
import type { Form } from './forms.ts';
import type { ClipId, MediaFileId } from '../model/ids.ts';
import { displace, displacementOf, type Displacement } from '../paths/displacement.ts';
import { nameKey } from '../paths/names.ts';
import { rename, renamingOf, type Renaming } from '../paths/renaming.ts';
import { refusedFor } from './decide.ts';
import { verdictIn } from './marks.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';
import type { Attribute, MatchRules } from './rules.ts';
import { weigh, type Candidate } from './weigh.ts';

/** What one decision reveals: where its folder went, how its name changed, how its timecode stands apart. */
export type CarryPattern = {
  readonly displacement: Displacement;
  readonly renaming: Renaming;
  readonly timecode: TimecodeDisplacement | null;
};

export type Carried = Candidate & {
  readonly clipId: ClipId;
  readonly interpretation: Interpretation | null;
} & ({ readonly fits: true } | { readonly fits: false; readonly differs: readonly Attribute[] });

/** The pattern of tying this clip to this file; null when the edit remembers no path for it, or the names share nothing. */
export function carryPattern(clip: PreparedClip, file: PreparedFile): CarryPattern | null {
  if (clip.folders.length === 0) return null;
  const renaming = renamingOf(clip.name, file.file.name);
  if (!renaming) return null;
  return {
    displacement: displacementOf(clip.folders, file.folders),
    renaming,
    timecode: timecodeDisplacement(clip, file),
  };
}

/**
 * Finds, for every other clip, the file to which the same displacement and renaming lead, in any folder and of any
 * kind. Each is weighed like any candidate: what must agree and differs does not fit, and says why; a timecode that
 * stands apart as the first one does is no difference. Clips that the pattern does not reach are absent.
 */
export function carry(
  pattern: CarryPattern,
  clips: readonly PreparedClip[],
  files: ReadonlyMap<string, PreparedFile>,
  rules: MatchRules,
): Carried[] {
  const carried: Carried[] = [];
  for (const clip of clips) {
    const folders = clip.folders.length ? displace(clip.folders, pattern.displacement) : null;
    const name = folders && rename(clip.name, pattern.renaming);
    const file = folders && name ? files.get(pathKey(folders, name)) : undefined;
    if (!file) continue;
    const candidate = weigh(clip, file);
    const shared = sharedShift(pattern.timecode, clip, candidate);
    const interpretation = shared && interpretationOf(shared);
    const excused = excusedBy(interpretation);
    const differs = refusedFor(candidate.marks, rules).filter((a) => !excused.includes(a));
    const found = { clipId: clip.id, interpretation, ...candidate };
    carried.push(
      differs.length === 0 && file.state !== 'unusable' ? { fits: true, ...found } : { fits: false, differs, ...found },
    );
  }
  return carried;
}

/**
 * Whether a clip is known to be another file than the one a pattern leads to: neither a copy of it nor the same recording
 * in another form. What was decided of one clip is then nothing to it.
 */
export function isKnownElsewhere(
  decision: Decision,
  candidates: readonly { readonly mediaFileId: MediaFileId; readonly form: Form | null }[],
  mediaFileId: MediaFileId,
): boolean {
  if (decision.kind !== 'certain' || decision.copies.includes(mediaFileId)) return false;
  const formOf = (id: MediaFileId) => candidates.find((c) => c.mediaFileId === id)?.form ?? null;
  const areForms = formOf(decision.mediaFileId) !== null && formOf(mediaFileId) !== null;
  return decision.mediaFileId !== mediaFileId && !areForms;
}

/** The clip's own displacement, where it is of the kind that the first decision revealed. */
function sharedShift(
  first: TimecodeDisplacement | null,
  clip: PreparedClip,
  { file, marks }: Candidate,
): TimecodeDisplacement | null {
  if (!first || verdictIn(marks, 'timecode') === 'agrees') return null;
  const own = timecodeDisplacement(clip, file);
  if (own?.kind === 'shifted' && first.kind === 'shifted') return own.byFrames === first.byFrames ? own : null;
  return own?.kind === first.kind ? own : null;
}

/** Files by place name, folders and name, for `carry`. */
export const filesByPath = (files: Iterable<PreparedFile>): Map<string, PreparedFile> =>
  new Map([...files].map((file) => [pathKey(file.folders, file.file.name), file]));

const pathKey = (folders: readonly string[], name: string): string => nameKey(`${folders.join('/')}/${name}`);
