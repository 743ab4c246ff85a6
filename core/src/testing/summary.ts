import type { Choices } from '../formats/format.ts';
import type { Edit, EditEvent } from '../model/edit.ts';
import type { Remark } from '../remarks/remark.ts';
import type { FrameRange } from '../time/range.ts';
import { formatRate } from '../time/rate.ts';

/** A read document as lines of text, for expectations that a person can check against the document by eye. */
export function summaryOf({
  edit,
  remarks,
  choices,
}: {
  edit: Edit;
  remarks: readonly Remark[];
  choices: Choices;
}): string[] {
  const names = new Map([...edit.clips, ...edit.timelines, ...edit.bins].map((x) => [x.key, x.name]));
  return [
    `title ${edit.title}`,
    ...edit.bins.map((b) => `bin ${b.name}${b.parentKey === null ? '' : ` in ${names.get(b.parentKey)}`}`),
    ...edit.timelines.flatMap((t) => [
      `timeline ${t.name} ${formatRate(t.rate)} ${t.counting} from ${t.start} length ${t.length}${t.top ? '' : ' nested'}`,
      ...t.events.map((e) => `  ${eventLine(e)}`),
    ]),
    ...edit.clips.map((c) =>
      [
        `clip ${c.name}`,
        c.reel === null ? 'no reel' : `reel ${c.reel}`,
        c.kind ?? 'any kind',
        `${formatRate(c.rate)}${c.counting === 'drop' ? ' drop' : ''}`,
        `used ${c.used.map(rangeText).join(' ') || 'nowhere'}`,
        ...(c.available ? [`holds ${rangeText(c.available)}`] : []),
        ...(c.raster ? [`${c.raster.width}x${c.raster.height}`] : []),
        ...(c.binKey === null ? [] : [`in ${names.get(c.binKey)}`]),
        ...Object.entries(c.metadata).map(([key, value]) => `${key}=${value.replaceAll('\n', '\\n')}`),
        `at ${c.addresses.join(' ')}`,
        ...(c.remembered === null ? [] : [`<${c.remembered}>`]),
      ].join(' | '),
    ),
    ...choices.referenceKeys.map(({ key, clips }) => `reference ${key} of ${clips}`),
    ...(choices.clipsBy.length > 0
      ? [`clips ${choices.clipsBy.map((c) => `${c.grouping} ${c.clips}`).join(', ')}`]
      : []),
    ...remarks.map(({ at, ...rest }) => `remark ${'line' in at ? at.line : at.path} ${JSON.stringify(rest)}`),
  ];

  function eventLine(e: EditEvent): string {
    const of = e.clipKey ?? e.nestedKey;
    return [
      `${e.number} ${e.track} ${of === null ? 'black' : names.get(of)}`,
      `source ${e.source ? rangeText(e.source) : 'none'} record ${rangeText(e.record)}`,
      ...(e.speed.num === e.speed.den ? [] : [`speed ${e.speed.num}/${e.speed.den}`]),
      ...(e.transition ? [`${e.transition.kind}${e.transition.wipe ?? ''} ${e.transition.length}`] : []),
      ...(e.head + e.tail > 0 ? [`reach ${e.head} ${e.tail}`] : []),
      ...(e.rounded ? ['rounded'] : []),
    ].join(' ');
  }
}

const rangeText = ({ start, end }: FrameRange): string => `${start}-${end}`;
