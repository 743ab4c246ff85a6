import type { Looking } from '../context.ts';
import { attributes, type Cause, verdictIn } from '@legame/core/match';
import type { Interpretation, ProjectId } from '@legame/core/model';
import type { CausePreview, Causes, CauseView } from '@legame/core/contract';
import { alternativesOf, causeByKey, explainDark, type Explained } from './explained.ts';
import { backSeconds } from '../clips/screenTime.ts';
import { member } from '../clips/memberViews.ts';
import { statusAfter } from '../clips/state.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';

/** Names of a cause's clips that are told at first sight. */
const samplesShown = 6;

/** Why clips are dark, in as few causes as there are. */
export async function listCauses({ db }: Looking, projectId: ProjectId): Promise<Causes> {
  const explained = await explainDark(db, projectId);
  return {
    causes: explained.causes.map((cause) => viewCause(cause, explained)),
    dark: explained.states.size,
    parked: explained.parked,
    files: explained.filesThere,
  };
}

function viewCause(cause: Cause, { states, dark }: Explained): CauseView {
  const marks = cause.links.map(
    ({ clipId, mediaFileId }) => dark.get(clipId)!.decided.candidates.find((c) => c.file.id === mediaFileId)!.marks,
  );
  const speaksForAll = (attribute: (typeof attributes)[number]) =>
    marks.every((m) => ['agrees', 'nearly'].includes(verdictIn(m, attribute)));
  return {
    key: cause.key,
    kind: cause.kind,
    certainty: cause.certainty,
    clipIds: cause.clipIds,
    screenSeconds: cause.screenSeconds,
    links: cause.links.length,
    apart: cause.clipIds.length - cause.links.length,
    samples: cause.clipIds.slice(0, samplesShown).map((id) => states.get(id)!.clip.name),
    agreeing: marks.length ? attributes.filter(speaksForAll) : [],
    wanting: cause.wanting,
    witnesses: cause.links.length === 0 ? 0 : Math.min(...cause.links.map((l) => l.witnesses)),
  };
}

/** What a cause's remedy would do, clip by clip. Nothing is changed. */
export async function previewCause({ db }: Looking, projectId: ProjectId, key: string): Promise<CausePreview> {
  const explained = await explainDark(db, projectId);
  const cause = causeByKey(explained, key);
  const links = new Map(cause.links.map((l) => [l.clipId, l]));
  const apart = new Map(cause.apart.map((a) => [a.clipId, a]));
  const members = cause.clipIds.map((clipId) => {
    const [link, near, dark] = [links.get(clipId), apart.get(clipId), explained.dark.get(clipId)!];
    const id = link?.mediaFileId ?? near?.mediaFileId;
    const file = (id && explained.files.get(id)) ?? null;
    const marks = dark.decided.candidates.find((c) => c.file.id === id)?.marks;
    return member(
      explained.states.get(clipId)!,
      dark.screenSeconds,
      file,
      file ? explained.project.places.get(file.placeId) : undefined,
      {
        ...(marks === undefined ? {} : { marks }),
        fits: link !== undefined,
        certain: link?.certain ?? false,
        differs: [...(near?.differs ?? [])],
        interpretation: link?.interpretation ?? null,
        after: file && link ? afterIn(explained, clipId, file, link.interpretation) : null,
      },
    );
  });
  return {
    cause: viewCause(cause, explained),
    members,
    backSeconds: backSeconds(members, explained.states.values(), explained.seconds),
    alternatives: [...alternativesOf(cause, explained)],
  };
}

function afterIn({ project, states }: Explained, clipId: string, file: MediaFileRecord, read: Interpretation | null) {
  const place = project.places.get(file.placeId);
  return place
    ? statusAfter(states.get(clipId)!, file, place, { interpretation: read, acceptance: project.acceptance })
    : null;
}
