import { z } from 'zod';
import type { BinPath } from '@legame/core/bins';
import { standardChoices } from '@legame/core/consolidate';
import {
  handoffChoicesSchema,
  type Handoff,
  type HandoffChoices,
  type HandoffLayout,
  type HandoffScope,
  type PlannedRecording,
} from '@legame/core/contract';
import { formatTimecode, parseTimecode } from '@legame/core/time';
import type { ShownTimeline } from '../../api/timelines.ts';

/** What is chosen so far. Timelines are left out rather than in, so that one that comes later is in. */
export type Draft = {
  readonly name: string;
  readonly targetFolder: string;
  /** Where the same is written at the same time; null for nowhere else. */
  readonly secondFolder: string | null;
  readonly layout: HandoffLayout;
  readonly left: readonly string[];
  /** Only these clips; null for all that the timelines show. */
  readonly clips: readonly string[] | null;
  /** Of these timelines only a stretch, from and to as timecode; empty is from its start, or to its end. */
  readonly stretches: Readonly<Record<string, Stretch>>;
  /** All that lies in these comes as well. */
  readonly bins: readonly BinPath[];
  readonly choices: HandoffChoices;
};
export type Stretch = { readonly from: string; readonly to: string };

/** What a screen that comes here brings along: chosen clips, or a stretch of one timeline. */
export const broughtSchema = z.object({
  clips: z.array(z.string()).min(1).optional(),
  /** Timelines that are left out. */
  left: z.array(z.string()).optional(),
  stretches: z.record(z.string(), z.object({ from: z.string(), to: z.string() })).optional(),
});
export type Brought = z.infer<typeof broughtSchema>;

export const firstDraft = (name: string, { clips, left, stretches }: Brought, handlesInFrames: number): Draft => ({
  name,
  targetFolder: '',
  secondFolder: null,
  layout: 'folder',
  left: left ?? [],
  clips: clips ?? null,
  stretches: stretches ?? {},
  bins: [],
  choices: { ...standardChoices, picture: 'trim', handlesInFrames },
});

/** A kept plan as it was chosen, to be changed. */
export function draftOf({ folder, layout, plan, scope }: Handoff, timelines: readonly ShownTimeline[]): Draft {
  const [first, second] = plan.targets.map((target) => target.folder.slice(0, target.folder.lastIndexOf('/')) || '/');
  const known = new Map(timelines.map((t) => [t.id, t]));
  return {
    name: folder
      .split('/')
      .at(-1)!
      .replace(layout === 'otiod' ? /\.otiod$/ : '', ''),
    targetFolder: first!,
    secondFolder: second ?? null,
    layout,
    left: scope.timelines ? timelines.map((t) => t.id).filter((id) => !scope.timelines!.includes(id)) : [],
    clips: scope.clips,
    stretches: Object.fromEntries(
      scope.ranges.flatMap(({ timeline, start, end }) => {
        const of = known.get(timeline);
        const timecode = (frames: number) => formatTimecode(frames, of!.rate, of!.counting);
        return of ? [[timeline, { from: timecode(start), to: timecode(end) }]] : [];
      }),
    ),
    bins: scope.bins,
    choices: plan.choices,
  };
}

/** The timelines that are in. */
export const chosenOf = ({ left }: Pick<Draft, 'left'>, timelines: readonly ShownTimeline[]): ShownTimeline[] =>
  timelines.filter((t) => !left.includes(t.id));

type Range = HandoffScope['ranges'][number];

/** A stretch in record frames, cut to its timeline; null where none is chosen, and why it is none where it cannot be. */
export function rangeOf(
  timeline: ShownTimeline,
  stretch: Stretch | undefined,
): Range | null | { readonly wrong: string } {
  const { id, start, length, rate, counting } = timeline;
  const [from, to] = [stretch?.from.trim() ?? '', stretch?.to.trim() ?? ''];
  if (from === '' && to === '') return null;
  const at = (text: string, otherwise: number) => {
    const parsed = text === '' ? null : parseTimecode(text, rate, counting);
    return parsed === null ? otherwise : parsed.ok ? parsed.frames : text;
  };
  const [begin, end] = [at(from, start), at(to, start + length)];
  if (typeof begin === 'string' || typeof end === 'string')
    return { wrong: `${typeof begin === 'string' ? begin : String(end)} is no timecode here` };
  const range = { timeline: id, start: Math.max(start, begin), end: Math.min(start + length, end) };
  if (range.start < range.end) return range;
  const timecode = (frames: number) => formatTimecode(frames, rate, counting);
  return { wrong: `nothing lies there: it runs from ${timecode(start)} to ${timecode(start + length)}` };
}

/** Stretches of the chosen timelines; null where one of them cannot be. */
function rangesOf(draft: Draft, timelines: readonly ShownTimeline[]): Range[] | null {
  const all = chosenOf(draft, timelines).map((t) => rangeOf(t, draft.stretches[t.id]));
  return all.some((r) => r && 'wrong' in r) ? null : all.filter((r): r is Range => r !== null && !('wrong' in r));
}

export const canBePlanned = (draft: Draft, timelines: readonly ShownTimeline[]): boolean =>
  handoffChoicesSchema.safeParse(draft.choices).success &&
  rangesOf(draft, timelines) !== null &&
  (timelines.length === 0 || chosenOf(draft, timelines).length > 0);

/** What is asked for; what is not said is all. */
export function askedOf(projectId: string, draft: Draft, timelines: readonly ShownTimeline[]) {
  const ranges = rangesOf(draft, timelines) ?? [];
  return {
    projectId,
    choices: draft.choices,
    ...(draft.left.length > 0 ? { timelines: chosenOf(draft, timelines).map((t) => t.id) } : {}),
    ...(ranges.length > 0 ? { ranges } : {}),
    ...(draft.clips ? { clips: draft.clips } : {}),
    ...(draft.bins.length > 0 ? { bins: draft.bins } : {}),
    ...(draft.targetFolder ? { targetFolder: draft.targetFolder } : {}),
    ...(draft.targetFolder && draft.secondFolder ? { secondFolder: draft.secondFolder } : {}),
  };
}

/** With this recording something else is to be done than with its kind; null takes that back. */
export function treatedOtherwise(
  draft: Draft,
  mediaFileId: PlannedRecording['mediaFileId'],
  treatment: PlannedRecording['treatment'] | null,
): Draft {
  const others = draft.choices.exceptions.filter((e) => e.mediaFileId !== mediaFileId);
  const exceptions = treatment === null ? others : [...others, { mediaFileId, treatment }];
  return { ...draft, choices: { ...draft.choices, exceptions } };
}
