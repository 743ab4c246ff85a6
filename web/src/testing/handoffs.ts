import { acceptsAll } from '@legame/core/model';
import { standardChoices } from '@legame/core/consolidate';
import type { Handoff, HandoffPlan, PlannedRecording } from '@legame/core/contract';
import { uuid } from './page.tsx';
import { projectOf } from './project.ts';
import { clipRow } from './rows.ts';
import type { Asked } from './server.ts';

const at = '2026-11-20T10:00:00.000Z';
/** A recording of which a part goes. */
export const recording = (n: number, more: Partial<PlannedRecording> = {}): PlannedRecording => ({
  mediaFileId: uuid(n) as PlannedRecording['mediaFileId'],
  placeName: 'KILN_A',
  source: `day1/${n}.mov`,
  kind: 'picture',
  length: 200,
  used: [{ start: 50, end: 80 }],
  treatment: 'trim',
  coded: null,
  wholeBecause: null,
  tracksLeft: 0,
  sidecars: [],
  outs: [
    {
      target: `media/${n}.mov`,
      range: { start: 26, end: 104 },
      sizeInBytes: 1_500_000,
      files: 1,
      renamed: false,
      handlesCut: { head: 0, tail: 0 },
    },
  ],
  wholeInBytes: 4_000_000,
  sizeInBytes: 1_500_000,
  clips: 1,
  usedBy: [`clip ${n}`],
  ...more,
});
export const plan: HandoffPlan = {
  choices: { ...standardChoices, picture: 'trim' },
  recordings: [
    recording(1),
    recording(2, {
      wholeBecause: 'open-groups',
      outs: [{ ...recording(2).outs[0]!, range: null, handlesCut: { head: 7, tail: 0 } }],
    }),
  ],
  leftOut: [
    {
      clipId: uuid(8) as HandoffPlan['leftOut'][number]['clipId'],
      clipName: 'bowl',
      mediaFileId: null,
      kind: null,
      reason: 'place-away',
    },
    {
      clipId: uuid(9) as HandoffPlan['leftOut'][number]['clipId'],
      clipName: 'slate',
      mediaFileId: null,
      kind: null,
      reason: 'waived',
    },
  ],
  timelines: ['Cut 7'],
  clipsChosen: null,
  bins: [],
  ranges: [],
  sizeInBytes: 3_000_000,
  wholeInBytes: 8_000_000,
  targets: [
    {
      folder: '/out/to colour',
      room: { freeInBytes: 9e9, totalInBytes: 1e10, headroomShare: 0.1, usableInBytes: 8e9, fits: true },
      seconds: null,
    },
  ],
};
export const handoff = (state: Handoff['state'], more: Partial<Handoff> = {}): Handoff => ({
  id: uuid(20) as Handoff['id'],
  folder: plan.targets[0]!.folder,
  layout: 'folder',
  state,
  createdAt: at,
  finishedAt: null,
  problem: null,
  jobId: null,
  scope: { timelines: null, ranges: [], clips: null, bins: [] },
  plan,
  copied: plan.recordings.map((r) => ({
    target: r.outs[0]!.target,
    sizeInBytes: r.sizeInBytes,
    state: 'waiting',
    xxh64: null,
    problem: null,
    lost: [],
  })),
  ...more,
});

/** What the server answers to who plans and looks at handoffs. */
export function answerHandoffs({ method, url, body }: Asked, handoffs: readonly Handoff[]): object {
  const path = url.pathname.replace(/^\/api\//, '');
  if (path.endsWith('/handoffs/preview')) {
    return { ...plan, targets: JSON.parse(body).targetFolder ? plan.targets : [] };
  }
  if (path.endsWith('/run')) return handoff('planned');
  if (path.endsWith('/handoffs')) return method === 'POST' ? handoff('planned') : handoffs;
  if (path.endsWith('/darkness'))
    return [0, 1].map((i) => ({ key: `t${i}`, documentId: uuid(30), darkInFrames: i * 25, darkNests: [] }));
  if (path.endsWith('/cut'))
    return ['Cut 7', 'Trailer'].map((name, i) => ({
      key: `t${i}`,
      documentId: uuid(30),
      name,
      rate: { num: 25, den: 1 },
      counting: 'non-drop',
      start: 0,
      length: 250,
      top: true,
      events: [],
      trackNames: {},
      markers: [],
    }));
  if (path.endsWith('/bins'))
    return { bins: [['selects', 'furnace'], ['selects', 'pots'], ['music']], labels: [], columns: [] };
  if (path.endsWith('/clips')) return [clipRow(8, 'bowl.mov', 'linked', { bin: ['selects', 'furnace'] })];
  if (path.endsWith('/acceptance'))
    return {
      profile: acceptsAll,
      found: { containers: ['mov', 'mxf'], codecs: ['h264', 'mpeg2'], chroma: [], bitDepths: [8], rates: [] },
      refused: 0,
    };
  if (path.startsWith('folders')) return { path: '/out', parent: null, folders: [] };
  if (/^projects\/[^/]+$/.test(path)) return projectOf({ clips: 2, toDo: 0 });
  return [];
}
