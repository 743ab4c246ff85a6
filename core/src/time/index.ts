/** What others use of `time`. */
export { convertFrames, intersectRanges, rangeLength, uncoveredFrames, uniteRanges, type FrameRange } from './range.ts';
export {
  formatRate,
  hasDropFrame,
  nominalRate,
  parseRate,
  rate,
  sameNumbering,
  sameRate,
  snapToStandard,
  standardRates,
  type Rate,
} from './rate.ts';
export { formatPosition, formatTimecode, parseTimecode, type Counting, type TimecodeFault } from './timecode.ts';
