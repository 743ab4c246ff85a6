import {
  excusedBy,
  groundsOf,
  type Marks,
  prepareClip,
  type PreparedClip,
  type PreparedFile,
  prepareFile,
  refusedFor,
  verdictIn,
  verdictsIn,
  weigh,
} from '@legame/core/match';
import { type ClipId, type Interpretation, type MediaFileId, type ProjectId, thenReadAs } from '@legame/core/model';
import { learnedName, nameKey } from '@legame/core/paths';
import { isDark, seenOf } from '@legame/core/state';
import type { About, Act, Because, Verb, WhySkipped } from '@legame/core/contract';
import { loadClipsInTurn } from '../clips/project.ts';
import { certainFile, type ClipState, loadClips, preparedClip, type SomeClips } from '../clips/state.ts';
import { renewRows } from '../clips/renewal.ts';
import type { Context } from '../context.ts';
import { act } from '../history/act.ts';
import { Owners } from './owners.ts';
import { notFound } from '../problems.ts';
import { clipRowStore } from '../stores/clipRows.ts';
import type { ClipRecord, LinkMaker } from '../stores/clips.ts';
import type { ClipChange, NameLearned } from '../stores/journal.ts';
import { type MediaFileRecord, mediaFileStore } from '../stores/mediaFiles.ts';
import { projectStore } from '../stores/projects.ts';

const verbs: Readonly<Record<LinkMaker, Verb>> = {
  rule: 'link-by-rule',
  hand: 'link',
  carry: 'carry',
  cause: 'mend',
  follow: 'follow',
};

export type WantedLink = {
  readonly clipId: ClipId;
  /** Null takes the link away. */
  readonly mediaFileId: MediaFileId | null;
  /** How the clip is read from then on, on top of how it is read now. */
  readonly interpretation?: Interpretation | null | undefined;
  /** The clip as it was when this was worked out: of what was decided otherwise since, it is not done. */
  readonly asOf?: ClipState | undefined;
  /** Independent recordings that bear it out, where a cause links it. */
  readonly witnesses?: number | undefined;
};

type Prepared = { readonly clip: PreparedClip; readonly file: PreparedFile };

type How = {
  readonly by: LinkMaker;
  readonly verb?: Verb;
  readonly about?: About | null;
  /** Carried from this clip to others, while they are dark. */
  readonly carriedFrom?: ClipId | null;
  /** A clip and a file made ready by whoever looked at them before, where both are as they were then. */
  readonly preparedFor?: (state: ClipState, file: MediaFileRecord) => Prepared | null;
  /** Clips that share a file now go on sharing its copy: that they do was decided before. */
  readonly shareOn?: boolean;
};

/**
 * Ties clips to files, or unties them, as one journal entry. What a rule or a carry asks for is judged again here, on
 * what is known now: a link that is no longer certain, or differs in what must agree, is skipped and says so. Pinned
 * clips are changed by a hand alone.
 */
export async function linkClips(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  { by, verb, about = null, carriedFrom, preparedFor, shareOn = false }: How,
  links: readonly WantedLink[],
): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    const project = await loadClipsInTurn(
      db,
      trx,
      projectId,
      links.map((l) => l.clipId),
    );
    const states = new Map(project.states.map((s) => [s.clip.id, s]));
    const wanted = links.flatMap((l) => l.mediaFileId ?? []);
    const files = new Map(
      (await mediaFileStore.listToLink(trx, wanted, (id) => project.files.get(id))).map((f) => [f.id, f]),
    );
    // By rules that were changed since, nothing is certain.
    const isMatched = (await projectStore.getProject(trx, projectId)).matchedBy !== null;
    const changes: ClipChange[] = [];
    const skipped: Act['skipped'][number][] = [];
    // One clip and one file is a decision of its own; over many nobody looked at each.
    const owners =
      links.length > 1 && !shareOn
        ? new Owners(
            links.flatMap(({ clipId, mediaFileId }) => {
              const state = states.get(clipId);
              return state && mediaFileId ? [{ state, mediaFileId }] : [];
            }),
          )
        : null;
    for (const { clipId, mediaFileId, interpretation, asOf, witnesses } of new Map(
      links.map((l) => [l.clipId, l]),
    ).values()) {
      const state = states.get(clipId);
      if (!state) throw notFound('clip');
      const { clip } = state;
      const skip = (why: WhySkipped) => skipped.push({ clipId, why });
      if (clip.pinned && by !== 'hand') {
        skip('pinned');
        continue;
      }
      const before = clip.link;
      const isHealed = carriedFrom !== undefined && clipId !== carriedFrom && !isDark(state.status.status);
      if (isHealed || (asOf && isDecidedOtherwise(clip, asOf.clip))) {
        skip('decided-since');
        continue;
      }
      if (mediaFileId === null) {
        changes.push(...takenOffline(state));
        continue;
      }
      // Asked for by two at once, or twice, it is done once. A hand that links again takes what lies there now.
      if (by !== 'hand' && before?.mediaFileId === mediaFileId && !interpretation) continue;
      const file = files.get(mediaFileId);
      if (!file) throw notFound('media-file');
      const read = interpretation ? thenReadAs(clip.interpretation, interpretation) : clip.interpretation;
      if (by === 'rule' && !(isMatched && certainFile(state) === mediaFileId)) {
        skip('not-certain');
        continue;
      }
      const weighed = weighedNow(preparedFor?.(state, file) ?? preparedNow(project, state, file));
      if ((by === 'rule' || by === 'cause') && isOtherThanMatched(clip, file, weighed.marks)) {
        skip('differs');
        continue;
      }
      if (by === 'carry' && differing(project, state, file, interpretation).length > 0) {
        skip('differs');
        continue;
      }
      if (file.gone) {
        skip('file-gone');
        continue;
      }
      if (owners?.isContested(state, mediaFileId)) {
        skip('contested');
        continue;
      }
      if (interpretation) changes.push({ what: 'interpret', clipId, before: clip.interpretation, after: read });
      if (clip.takenOffline) changes.push({ what: 'offline', clipId, before: true, after: false });
      const because = becauseOf(project, state, file, { ...weighed, witnesses: witnesses ?? null });
      changes.push({ what: 'link', clipId, before, after: { mediaFileId, by, seen: seenOf(file), because } });
    }
    const all = [...changes, ...namesLearned(project, changes, files)];
    const isUnlink = links.every((l) => l.mediaFileId === null);
    return act(trx, projectId, verb ?? (isUnlink ? 'unlink' : verbs[by]), all, { skipped, about });
  });
}

const isDecidedOtherwise = (now: ClipRecord, then: ClipRecord): boolean =>
  now.link?.mediaFileId !== then.link?.mediaFileId ||
  now.takenOffline !== then.takenOffline ||
  JSON.stringify([now.setAside, now.interpretation]) !== JSON.stringify([then.setAside, then.interpretation]);

/**
 * What unties a clip for good: its link goes, and what merely lies where the edit says does not tie it again, nor does a
 * rule. Linking it by hand, or undo, brings it back.
 */
function takenOffline({ clip, tied }: ClipState): ClipChange[] {
  const changes: ClipChange[] = [];
  if (clip.link) changes.push({ what: 'link', clipId: clip.id, before: clip.link, after: null });
  if (tied && !clip.takenOffline) changes.push({ what: 'offline', clipId: clip.id, before: false, after: true });
  return changes;
}

const preparedNow = ({ places }: SomeClips, state: ClipState, file: MediaFileRecord): Prepared => ({
  clip: preparedClip(state),
  file: prepareFile(file, places.get(file.placeId)?.name ?? ''),
});

/** A clip and a file on what is known of both now, which may be more than when they were matched. */
const weighedNow = ({ clip, file }: Prepared) => ({ prepared: clip, marks: weigh(clip, file).marks });

/** Something speaks against the file that did not when it was matched: it was read anew since. */
function isOtherThanMatched({ proposal }: ClipRecord, { id }: MediaFileRecord, now: Marks): boolean {
  const then = proposal?.candidates.find((c) => c.mediaFileId === id);
  return then !== undefined && differingIn(now).some((a) => !differingIn(then.marks).includes(a));
}
/** What the file itself says; the rest is held against what it was linked to before, which may be since. */
const saidByFiles = ['reel', 'timecode', 'length', 'rate', 'raster', 'kind'] as const;
const differingIn = (marks: Marks) => saidByFiles.filter((a) => verdictIn(marks, a) === 'differs');

/** What a link rests on at the moment at which it is made. */
function becauseOf(
  { rules }: SomeClips,
  { clip }: ClipState,
  file: MediaFileRecord,
  { prepared, marks, witnesses }: ReturnType<typeof weighedNow> & { readonly witnesses: number | null },
): Because {
  const decision = clip.proposal?.decision;
  const named = decision && 'second' in decision ? decision.second : null;
  return {
    grounds: groundsOf(marks, rules, prepared),
    verdicts: verdictsIn(marks),
    witnesses,
    second: named && named.mediaFileId !== file.id ? named : null,
  };
}

/** What must agree and differs; what an interpretation accounts for is no difference. */
function differing(
  project: SomeClips,
  state: ClipState,
  file: MediaFileRecord,
  interpretation: Interpretation | null | undefined,
) {
  const place = project.places.get(file.placeId);
  const { marks } = weigh(prepareClip(state.matched), prepareFile(file, place?.name ?? ''));
  const excused = excusedBy(interpretation);
  return refusedFor(marks, project.rules).filter((a) => !excused.includes(a));
}

/** Links every clip, or every one of these, that has one certain, unrivalled candidate. */
export async function linkCertain(
  context: Pick<Context, 'db'>,
  projectId: ProjectId,
  clipIds?: readonly ClipId[],
): Promise<Act> {
  await renewRows(context.db, projectId);
  const certain = await clipRowStore.listCertain(context.db, projectId, clipIds ?? null);
  const { states } = await loadClips(context.db, projectId, certain);
  const links = states.flatMap((state) => {
    const mediaFileId = certainFile(state);
    return mediaFileId ? [{ clipId: state.clip.id, mediaFileId }] : [];
  });
  return linkClips(context, projectId, { by: 'rule' }, links);
}

/**
 * The names under which the edit knows the places of files that are being linked, so that whatever comes from the same
 * machine next is understood at once. A name that means another place already, or was taken away, is not learned.
 */
function namesLearned(
  { states, places }: SomeClips,
  changes: readonly ClipChange[],
  files: ReadonlyMap<MediaFileId, MediaFileRecord>,
): NameLearned[] {
  const clips = new Map(states.map((s) => [s.clip.id, s.clip]));
  const taken = new Set([...places.values()].flatMap((p) => [p.name, ...p.knownAs]).map(nameKey));
  const learned: NameLearned[] = [];
  for (const change of changes) {
    const file = change.what === 'link' && change.after ? files.get(change.after.mediaFileId) : undefined;
    const remembered = clips.get(change.clipId)?.remembered;
    const name = file && remembered ? learnedName(remembered, file.folder) : null;
    const place = file && places.get(file.placeId);
    if (!name || !place || taken.has(nameKey(name)) || place.unlearnedNames.includes(name)) continue;
    // Learned for one place, it means no other.
    taken.add(nameKey(name));
    learned.push({ what: 'learn', placeId: place.id, name });
  }
  return learned;
}
