import type { ClipToMatch, MatchInput } from '../../match/match.ts';
import { defaultRules } from '../../match/rules.ts';
import type { ClipId, MediaFileId } from '../../model/ids.ts';
import type { MediaFile } from '../../model/media.ts';
import { rate } from '../../time/rate.ts';
import { buildClip, buildFile, buildPlace, clipId } from '../build.ts';
import { seeded } from '../generate.ts';
import { chanceOf, type Chance } from './shoot.ts';

/**
 * A world of telephones and small cameras: no timecode, no reel, and every card begins anew with IMG_0001, so that of a
 * recording nothing is known but a name that all cards share, and how long it is.
 */
export type UntimedWorld = {
  readonly input: MatchInput;
  readonly clipOf: ReadonlyMap<ClipId, Take>;
  readonly fileOf: ReadonlyMap<MediaFileId, Take>;
};
type Take = { readonly card: number; readonly name: string; readonly length: number };

const inFrames = rate(30000, 1001);
/** From one second to ten, each as likely as the other: of three hundred takes two are as long by chance. */
const [shortest, longest] = [50, 349];

/** Where a card went: lost, moved with its folders, by card, into one heap, by day, by camera, under another card's name. */
const fates = ['lost', 'moved', 'by-card', 'heap', 'by-day', 'by-camera', 'under-another'] as const;

export function untimedWorld(seed: number, { cards: most = 7, takes = 14 } = {}): UntimedWorld {
  const chance = chanceOf(seeded(seed));
  const cards = chance.between(2, most);
  const folderOf = chance.pick([
    (day: number, card: number) => `/Volumes/OLD/day${day}/card${card}/100IMG`,
    (day: number, card: number) => `/Volumes/OLD/day${day}/card${card}`,
    (day: number, card: number) => `D:/footage/day${day}_card${card}`,
  ]);
  const clips: ClipToMatch[] = [];
  const files: MediaFile[] = [];
  const clipOf = new Map<ClipId, Take>();
  const fileOf = new Map<MediaFileId, Take>();
  const taken = new Set<string>();
  for (let card = 0; card < cards; card += 1) {
    const day = chance.between(0, 2);
    const lies = placing(chance, { day, card, cards });
    const first = chance.happens(0.7) ? 1 : chance.between(1, 6);
    for (let i = 0; i < chance.between(2, takes); i += 1) {
      const name = `IMG_${String(first + i).padStart(4, '0')}`;
      const take = { card, name, length: chance.between(shortest, longest) };
      const folder = chance.happens(0.08) ? null : lies();
      if (folder !== null) {
        const file = fileIn(folder, take, taken);
        files.push(file);
        fileOf.set(file.id, take);
      }
      if (!chance.happens(0.6)) continue;
      const clip = clipFrom(folderOf(day, card), take);
      clips.push(clip);
      clipOf.set(clip.id, take);
    }
  }
  const places = ['KILN', 'VAULT'].map((name) => buildPlace(name));
  return { input: { clips, files, places, rules: defaultRules }, clipOf, fileOf };
}

/** The folder of each file of a card, null where it is lost; a few of each went to the other drive. */
function placing(
  { pick, happens, between }: Chance,
  { day, card, cards }: { readonly day: number; readonly card: number; readonly cards: number },
): () => string | null {
  const folder = {
    lost: null,
    moved: `moved/day${day}/card${card}/100IMG`,
    'by-card': `cards/card${card}`,
    heap: 'all footage',
    'by-day': `day${day}`,
    'by-camera': `camera ${between(1, 2)}/roll${card + 1}`,
    'under-another': `archive/day${day}/card${(card + 1) % cards}`,
  }[pick(fates)];
  return () => (folder === null ? null : `${happens(0.15) ? 'VAULT' : 'KILN'}/${folder}`);
}

/** Where the name is taken, the file is called as file managers do. */
function fileIn(folder: string, { card, name, length }: Take, taken: Set<string>): MediaFile {
  let path = `${folder}/${name}.mov`;
  for (let again = 1; taken.has(path); again += 1) path = `${folder}/${name} (${again}).mov`;
  taken.add(path);
  return buildFile(
    path,
    { rate: inFrames, timecodeSource: 'none', start: 0, length, reel: null },
    { fingerprint: `${card}/${name}` },
  );
}

const clipFrom = (folder: string, { card, name, length }: Take): ClipToMatch => ({
  ...buildClip(`${folder}/${name}.mov`, {
    reel: null,
    rate: inFrames,
    available: { start: 0, end: length },
    used: [{ start: 2, end: 40 }],
  }),
  id: clipId(`${card}/${name}`),
  linkedTo: null,
  declined: [],
});
