import { Cursor, HeaderBroken, hexOf, latinOf, type ByteReader } from './bytes.ts';
import { isCutOff } from './ends.ts';
import { readMovie } from './movie.ts';
import { readMxf } from './mxf.ts';
import { pass, unreadable, type HeaderReading } from './reading.ts';
import { readJpeg, readPng } from './stills.ts';
import { readWave } from './wave.ts';

export type { ByteReader } from './bytes.ts';
export type { HeaderReading } from './reading.ts';
export { readPictures, type CodedPicture } from './pictures.ts';
export { cutWave, type WaveCut } from './waveCut.ts';
export { waveAround, type WaveFormat } from './waveWrite.ts';

const movieBoxes = ['ftyp', 'moov', 'mdat', 'wide', 'free', 'skip', 'pnot'];

/**
 * Facts from the header of MOV and MP4 (ISO 14496-12), WAVE (EBU Tech 3285), MXF (SMPTE ST 377-1), PNG and JPEG, in
 * about a millisecond. Whatever it cannot judge soundly it passes on, so that a decoder is asked.
 */
export function readHeader(source: ByteReader): HeaderReading {
  if (source.size === 0) return unreadable({ code: 'file-empty' });
  const reader = readerFor(source.read(0, 16));
  try {
    if (isCutOff(source))
      return unreadable({ code: 'truncated', presentInFrames: null, expectedInFrames: null, unit: 'frames' });
    if (!reader) return pass('a container that only a decoder reads');
    return reader.read(source);
  } catch (error) {
    // Odd is not yet broken: a decoder may know better. If it does not, this is the reason.
    if (error instanceof HeaderBroken)
      return pass('its header is odd', {
        code: 'header-broken',
        detail: { code: 'header', container: reader?.name ?? null, fault: error.fault },
      });
    throw error;
  }
}

function readerFor(head: Uint8Array): { name: string; read: (source: ByteReader) => HeaderReading } | null {
  if (head.length < 12) return null;
  const id = latinOf(head.subarray(0, 4));
  if (['RIFF', 'RF64', 'BW64'].includes(id) && latinOf(head.subarray(8, 12)) === 'WAVE')
    return { name: 'WAVE', read: readWave };
  if (hexOf(head.subarray(0, 4)) === '060e2b34') return { name: 'MXF', read: readMxf };
  if (hexOf(head.subarray(0, 8)) === '89504e470d0a1a0a') return { name: 'PNG', read: readPng };
  if (hexOf(head.subarray(0, 3)) === 'ffd8ff') return { name: 'JPEG', read: readJpeg };
  const box = new Cursor(head, 4);
  return movieBoxes.includes(box.latin(4)) ? { name: 'MOV or MP4', read: readMovie } : null;
}
