/** What others use of `consolidate`. */
export { filesToCopy, planWholeFiles, type ConsolidatePlan, type LeftOutReason, type PlanInput } from './plan.ts';
export { defaultHeadroomShare, roomAfter } from './room.ts';
