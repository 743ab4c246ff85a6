import type { Detail, HeaderFault, OtherContent, PartDetail } from '@legame/core/model';
import { count, group } from './numbers.ts';

const contentWords: Readonly<Record<OtherContent, string>> = {
  zip: 'a ZIP archive',
  'empty-zip': 'an empty ZIP archive',
  gzip: 'a gzip archive',
  '7-zip': 'a 7-Zip archive',
  rar: 'a RAR archive',
  pdf: 'a PDF document',
  program: 'a program',
  database: 'a database',
  office: 'an office document',
  zeros: 'nothing but zeros',
  'web-page': 'a web page',
  playlist: 'a playlist, which names other files',
  xml: 'an XML document',
  text: 'text',
};

/** A detail as the end of a sentence that says what came to nothing. */
export function detailWords(detail: Detail): string {
  if (typeof detail === 'string') return detail;
  switch (detail.code) {
    case 'header':
      return `${headerWords(detail.fault)} (${detail.container ?? 'its end'})`;
    case 'index-unwritten':
      return 'its index was never written, as when a recording stops hard';
    case 'index-missing':
      return 'its index is missing';
    case 'ends-in-index':
      return 'it ends inside its own index';
    case 'ends-in-header':
      return 'it ends inside its header';
    case 'no-picture-no-sound':
      return 'it holds neither picture nor sound';
    case 'no-sound-data':
      return 'it holds no sound data';
    case 'pixels':
      return `${detail.width} × ${detail.height} pixels`;
    case 'is-other':
      return `it is ${contentWords[detail.what]}`;
    case 'files-listed':
      return count(detail.files, 'file');
    case 'gave-no-reason':
      return 'the decoder gave no reason';
    case 'header-beyond-files':
      return 'its header describes more than any real file has';
    case 'decodes-beyond-films':
      return 'it decodes to more than any film of its size';
    case 'frames-decoded':
      return `${group(detail.frames)} of ${group(detail.of)} frames can be decoded`;
    case 'reader-ended':
      return 'the reading process ended at this file';
    case 'drive-silent':
      return 'its drive does not answer';
    case 'file-gone':
      return 'the file is not there';
    case 'decoding-too-long':
      return `decoding took longer than ${detail.seconds} s`;
    case 'decoder-stopped':
      return 'the decoder was stopped';
    case 'no-picture-given':
      return 'the decoder gave no picture';
    case 'plays-not':
      return 'it is a still, which does not play';
    case 'rate-unknown':
      return 'its rate is not known';
    default:
      return partWords(detail);
  }
}

/** Of what is cut out, copied, or unpacked. */
function partWords(detail: PartDetail): string {
  switch (detail.code) {
    case 'no-wave-to-cut':
      return 'it is no WAVE file that can be cut';
    case 'frames-uncountable':
      return 'its frames cannot be counted';
    case 'took-too-long':
      return detail.seconds === null ? 'it took too long' : `it took longer than ${detail.seconds} s`;
    case 'not-written':
      return 'it could not be written';
    case 'sound-differs':
      return 'its sound differs from the source’s';
    case 'not-in-source':
      return 'its pictures were not all found in the source';
    case 'pictures-counted':
      return `it has ${group(detail.found)} pictures and not ${group(detail.wanted)}`;
    case 'pictures-differ':
      return `its pictures differ from the source’s from frame ${group(detail.fromFrame)} on`;
    case 'not-read-back':
      return 'its pictures cannot be read back';
    case 'part-unreadable':
      return 'the part cannot be read';
    case 'fact-differs':
      return `its ${detail.fact} is ${detail.is} and not ${detail.wanted}`;
    case 'odd-sides':
      return 'this coding wants even sides';
    case 'picture-too-small':
      return 'its picture is too small for this coding';
    case 'is-link':
      return 'it is a link, no file';
    case 'zip-without':
      return `it is a zip without a ${detail.part}`;
    case 'zip-locked':
      return 'it is locked with a password';
    case 'zip-unread':
      return `its zip cannot be read (${detail.said})`;
    case 'value-beyond-json':
      return 'it holds a value that JSON does not have';
    default:
      return detail satisfies never;
  }
}

function headerWords(fault: HeaderFault): string {
  switch (fault.code) {
    case 'part-below-head':
      return 'one of its parts is smaller than its own head';
    case 'parts-too-deep':
      return 'its parts nest too deep';
    case 'part-above-whole':
      return `its part “${fault.part}” is larger than what holds it`;
    case 'ends-in-field':
      return `it ends inside a field at ${fault.at}`;
    case 'size-of-no-file':
      return 'it states a size that no file has';
    case 'table-short':
      return 'its table of sizes is shorter than it says';
    case 'index-lacks':
      return `its index lacks “${fault.part}”`;
    case 'ends-in-value':
      return 'one of its sets ends inside a value';
    case 'sound-garbled':
      return 'its sound description is garbled';
    default:
      return fault satisfies never;
  }
}
