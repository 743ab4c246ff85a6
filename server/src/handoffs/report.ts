import type { HandoffPlan } from '@legame/core/contract';
import { writeCsv } from '@legame/core/formats';
import type { MediaFileId } from '@legame/core/model';
import {
  codedText,
  handlesCutText,
  isException,
  leftOutText,
  lostText,
  scopeText,
  sidecarsText,
  tracksLeftText,
  wholeText,
} from '@legame/words/handoffs';
import { bytes, count, when } from '@legame/words/numbers';
import { problemText } from '@legame/words/problems';
import type { HandoffFile, HandoffRecord } from '../stores/handoffs.ts';
import { version } from '../version.ts';

type Recording = HandoffPlan['recordings'][number];
type Reported = Pick<HandoffRecord, 'plan' | 'folder' | 'createdAt'>;

const headers = [
  ...[
    'File',
    'Bytes',
    'xxh64',
    'Place',
    'Source',
    'First unit',
    'Last unit',
    'Coded anew',
    'Not kept',
    'Used by',
    'Not here because',
  ],
] as const;

/** What lies where and where it came from, file by file; and what is not here and why: a table for programs. */
export function reportAsCsv({ plan }: Reported, files: readonly HandoffFile[]): string {
  const sources = new Map(
    plan.recordings.flatMap((r) => [
      [r.mediaFileId, r] as const,
      // What goes with it lies where it lies, and is used by whatever uses it.
      ...r.sidecars.map((s) => [s.mediaFileId, { ...r, coded: null }] as const),
    ]),
  );
  const rows = files.map((f) => {
    const of = f.mediaFileId ? sources.get(f.mediaFileId) : undefined;
    const range = f.trim?.range;
    const there = f.state === 'verified' ? [f.target, f.sizeInBytes, f.xxh64 ?? ''] : ['', '', ''];
    const part = range ? [range.start, range.end - 1] : ['', ''];
    const why = f.problem ? problemText(f.problem) : '';
    const made = [(of && codedText(of)) ?? '', lostText(f.lost) ?? ''];
    return [...there, of?.placeName ?? '', f.path ?? f.source, ...part, ...made, of?.usedBy.join('; ') ?? '', why];
  });
  const left = plan.leftOut.map((l) => ['', '', '', '', l.clipName, '', '', '', '', '', leftOutText[l.reason]]);
  return writeCsv(headers, [...rows, ...left]);
}

const styles = `
  body { font: 13px/1.45 system-ui, sans-serif; color: #1f2a30; background: #fffdf8; margin: 2rem; }
  h1 { font-size: 20px } h2 { font-size: 15px; margin-top: 1.6rem }
  table { border-collapse: collapse; width: 100% }
  th { text-align: left; font-weight: 400; color: #5d6a70 }
  td, th { border-bottom: 1px solid #d9d2c5; padding: 3px 10px 3px 0; vertical-align: top; overflow-wrap: anywhere }
  .n { text-align: right; white-space: nowrap } .m { font-family: ui-monospace, monospace } .q { color: #5d6a70 } .w { color: #7c5200 }
  img { width: 96px; display: block } tr { break-inside: avoid }
`;

/** The same for people, to print: one row a recording, with a picture of its first frame in use where one was made. */
export function reportAsPage(
  handoff: Reported,
  files: readonly HandoffFile[],
  pictures: ReadonlyMap<MediaFileId, Uint8Array>,
): string {
  const { plan, folder, createdAt } = handoff;
  const name = folder.split('/').at(-1)!;
  const verified = files.filter((f) => f.state === 'verified');
  const sum = verified.reduce((all, f) => all + f.sizeInBytes, 0);
  const byRecording = new Map<MediaFileId, HandoffFile[]>();
  for (const file of files)
    if (file.mediaFileId) byRecording.set(file.mediaFileId, [...(byRecording.get(file.mediaFileId) ?? []), file]);
  const saved = plan.wholeInBytes > sum ? ` of ${bytes(plan.wholeInBytes)} whole` : '';
  const rows = plan.recordings.map((r) => rowOf(r, byRecording.get(r.mediaFileId) ?? [], pictures.get(r.mediaFileId)));
  const left = plan.leftOut.map((l) => `<tr><td>${text(l.clipName)}</td><td>${text(leftOutText[l.reason])}</td></tr>`);
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${text(name)}</title><style>${styles}</style></head><body>
<h1>${text(name)}</h1>
<p>${text(scopeText(plan))}. Planned ${text(when(createdAt.toISOString()))}, made by Legame ${text(version)}.</p>
<p><b>${text(count(verified.length, 'file'))}, ${text(bytes(sum))}</b>${text(saved)}: each was read back from the drive and compared. Their hashes are in ascmhl/ as well, for a program to check.</p>
<table><thead><tr><th></th><th>Recording</th><th>Files</th><th class="n">Bytes</th><th>xxh64</th><th>Used by</th></tr></thead>
<tbody>${rows.join('\n')}</tbody></table>
${left.length > 0 ? `<h2>Not here: ${text(count(left.length, 'clip'))}</h2><table><tbody>${left.join('\n')}</tbody></table>` : ''}
</body></html>
`;
}

function rowOf(recording: Recording, files: readonly HandoffFile[], picture: Uint8Array | undefined): string {
  const { source, placeName, outs, usedBy, wholeBecause } = recording;
  const [first] = files;
  const isSequence = outs.some((out) => out.files > 1);
  const lines = (of: (file: HandoffFile) => string) =>
    isSequence ? '' : files.map((file) => text(of(file))).join('<br>');
  const remarks = [
    codedText(recording),
    wholeBecause && isException(recording) ? wholeText(wholeBecause) : null,
    tracksLeftText(recording),
    sidecarsText(recording),
    lostText(files.flatMap((f) => f.lost)),
    handlesCutText(recording),
    ...files.flatMap((f) => (f.problem ? [problemText(f.problem)] : [])).slice(0, 3),
  ].filter((remark) => remark !== null);
  const image = picture ? `<img alt="" src="data:image/jpeg;base64,${Buffer.from(picture).toString('base64')}">` : '';
  const size = files.reduce((sum, f) => sum + (f.state === 'verified' ? f.sizeInBytes : 0), 0);
  return `<tr><td>${image}</td><td><b class="m">${text(source.split('/').at(-1)!)}</b><br><span class="q m">${text(`${placeName}/${source}`)}</span>${remarks.map((r) => `<br><span class="w">${text(r)}</span>`).join('')}</td>
<td class="m">${isSequence ? text(`${outs[0]!.target} (${count(files.length, 'frame')})`) : lines((f) => f.target)}</td>
<td class="n">${text(bytes(size))}</td><td class="m">${isSequence ? text(first?.xxh64 ? 'in ascmhl/' : '') : lines((f) => f.xxh64 ?? '–')}</td>
<td>${text(usedBy.join(', '))}</td></tr>`;
}

const escapes: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const text = (value: string): string => value.replace(/[&<>"]/g, (c) => escapes[c]!);
