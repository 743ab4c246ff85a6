import type { ClipDetail, WeighedFile } from '@legame/core/contract';
import { uuid } from './page.tsx';
import { clipRow } from './rows.ts';

const rate = { num: 25, den: 1 };

/** A file held against a clip, as the server tells of it; the number makes its id and its folder. */
export const weighedFile = (n: number, more: Partial<WeighedFile> = {}): WeighedFile => ({
  file: {
    id: uuid(n) as WeighedFile['file']['id'],
    placeId: uuid(90) as WeighedFile['file']['placeId'],
    placeName: 'KILN_B',
    placeThere: true,
    folder: `day${n}`,
    name: 'bowl.mov',
    sizeInBytes: 1000,
    facts: null,
    unreadable: null,
    sequence: null,
    gone: false,
    version: '1',
    quarantined: false,
    fingerprint: null,
    fullHash: null,
    trial: null,
  },
  evidence: [{ attribute: 'size', verdict: 'differs', finding: { code: 'size-differs', edit: 900, file: 1000 } }],
  refusedFor: [],
  holds: null,
  uncoveredInFrames: 0,
  ...more,
});

/** A clip in full, dark, with two candidates that nothing tells apart. */
export const clipDetail = (more: Partial<ClipDetail> = {}): ClipDetail =>
  ({
    ...clipRow(2, 'bowl.mov', 'missing', { name: 'bowl', reel: null, uses: 1 }),
    documentId: uuid(3),
    canPutBack: true,
    why: { code: 'several', count: 2 },
    decision: 'ask',
    certainty: 'possible',
    candidates: 2,
    rate,
    counting: 'non-drop',
    available: null,
    raster: null,
    used: [],
    metadata: {},
    usesInFull: [],
    interpretation: null,
    fullDecision: {
      kind: 'ask',
      certainty: 'possible',
      reason: 'several',
      mediaFileIds: [uuid(11), uuid(12)],
      second: null,
    },
    renditions: [],
    tiedFile: null,
    kept: null,
    linkedBecause: null,
    candidatesInFull: [weighedFile(11), weighedFile(12)],
    ...more,
  }) as ClipDetail;
