/** What others use of `state`. */
export { certainLink } from './certain.ts';
export { firstFrameInFile, uncoveredOf, uncoveredUse, unitsInFile } from './coverage.ts';
export { clipsInScope } from './scope.ts';
export { frameOfFile, frameRead, type Showing } from './shown.ts';
export { comesBack, isDark, statusNames, statusWhileAway, type Status, type StatusName } from './status.ts';
export { judge, judgeOnceLinked, seenOf, tiedTo, type Seen } from './tie.ts';
