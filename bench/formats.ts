import { formatOf, readDocument, relinkDocument } from '../core/src/formats/documents.ts';
import { formatTimecode } from '../core/src/time/timecode.ts';
import { rate } from '../core/src/time/rate.ts';
import { type Edit } from '../core/src/model/edit.ts';
import { buildEvent, seeded } from '../core/src/testing/index.ts';
import { measure, ms, say } from './measure.ts';

const pal = rate(25);
const utf8 = (text: string) => new TextEncoder().encode(text);

/** A list of cuts with names and source files, as long and as varied as real ones. */
export function madeList(events: number): string {
  const random = seeded(7);
  const tc = (frames: number) => formatTimecode(frames, pal);
  const lines = ['TITLE: BENCH', 'FCM: NON-DROP FRAME'];
  let record = 90_000;
  for (let i = 0; i < events; i += 1) {
    const [reel, from, length] = [
      `A${String(i % 300).padStart(3, '0')}`,
      Math.floor(random() * 1e6),
      10 + Math.floor(random() * 200),
    ];
    lines.push(
      `${String(i + 1).padStart(3, '0')}  ${reel}     V     C        ${tc(from)} ${tc(from + length)} ${tc(record)} ${tc(record + length)}`,
      `* FROM CLIP NAME: take_${i % 3000}.mov`,
      `* SOURCE FILE: /Volumes/KILN_A/day${i % 10}/take_${i % 3000}.mov`,
    );
    if (i % 20 === 0) lines.push(`M2   ${reel}       050.0       ${tc(from)}`);
    record += length;
  }
  return `${lines.join('\r\n')}\r\n`;
}

/** An edit of so many clips, each with its own media, on four tracks; in `folds` of the size with padding metadata. */
export function madeOtio(count: number): string {
  const random = seeded(9);
  const clips = Array.from({ length: count }, (_, i) => ({
    key: `clip-${i + 1}`,
    name: `take ${i}`,
    reel: `A${i % 300}`,
    remembered: `file:///Volumes/KILN_A/day${i % 10}/take_${i}.mov`,
    kind: 'picture' as const,
    rate: pal,
    counting: 'non-drop' as const,
    available: { start: 0, end: 2_000_000 },
    raster: { width: 1920, height: 1080 },
    used: [],
    binKey: null,
    addresses: [],
    metadata: { scene: String(i % 90), notes: 'as the log of the day has it' },
  }));
  const ends = [0, 0, 0, 0];
  const events = clips.map((clip, i) => {
    const track = i % 4;
    const [from, length, start] = [Math.floor(random() * 1e6), 10 + Math.floor(random() * 200), ends[track]!];
    ends[track] = start + length;
    return buildEvent({
      name: clip.name,
      track: `V${track + 1}`,
      clipKey: clip.key,
      source: { start: from, end: from + length },
      record: { start, end: start + length },
    });
  });
  const timeline = {
    key: 't',
    name: 'bench',
    rate: pal,
    counting: 'non-drop' as const,
    start: 0,
    length: Math.max(...ends),
    top: true,
    events,
  };
  const edit: Edit = { title: 'bench', bins: [], clips, timelines: [timeline] };
  return formatOf('otio').write(edit);
}

/** Reading and relinking large documents, beside what a plain program does with the same bytes. */
export async function benchFormats(): Promise<void> {
  say('\n## Documents');
  say('| what | size | median ms | least–most | ratio |');
  say('|---|---|---|---|---|');
  const row = async (what: string, size: number, run: () => unknown, plain: number | null): Promise<number> => {
    const { median, least, most } = await measure(run);
    say(
      `| ${what} | ${(size / 1e6).toFixed(1)} MB | ${ms(median)} | ${ms(least)}–${ms(most)} | ${plain === null ? '1' : (median / plain).toFixed(1)} |`,
    );
    return median;
  };
  const list = utf8(madeList(10_000));
  const split = await row(
    'EDL, 10,000 events: decoded and split into lines and words',
    list.length,
    () =>
      new TextDecoder()
        .decode(list)
        .split(/\r\n|\n|\r/)
        .map((line) => line.split(/\s+/)),
    null,
  );
  await row('EDL, 10,000 events: read', list.length, () => opened(list, 'edl'), split);
  const edit = opened(list, 'edl');
  const changes = new Map(
    edit.clips.flatMap((c) => c.addresses.map((a) => [a, { path: `/bay/${c.name}`, sequence: null }] as const)),
  );
  await row('EDL, 10,000 events: every clip relinked', list.length, () => relinkDocument(list, 'edl', changes), split);
  for (const clips of [20_000, 40_000]) {
    const otio = utf8(madeOtio(clips));
    const parse = await row(
      `OTIO, ${clips} clips: JSON.parse`,
      otio.length,
      () => JSON.parse(new TextDecoder().decode(otio)) as unknown,
      null,
    );
    await row(`OTIO, ${clips} clips: read`, otio.length, () => opened(otio, 'otio'), parse);
    const { clips: all } = opened(otio, 'otio');
    const relinks = new Map(
      all.flatMap((c) => c.addresses.map((a) => [a, { path: `/bay/${c.name}.mov`, sequence: null }] as const)),
    );
    await row(
      `OTIO, ${clips} clips: every clip relinked`,
      otio.length,
      () => relinkDocument(otio, 'otio', relinks),
      parse,
    );
  }
}

function opened(bytes: Uint8Array, format: string): Edit {
  const read = readDocument(bytes, { name: 'bench', rate: pal });
  if (read.format !== format || !read.result.ok) throw new Error(`not read as ${format}`);
  return read.result.edit;
}
