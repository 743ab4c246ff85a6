import { editSaysNothing, type AttributeCheck } from './evidence.ts';

/** Old file systems keep times to two seconds; in milliseconds. */
export const coarsest = 2000;
const dayInMs = 86_400_000;

/** When the file was made, as its directory keeps it. A log that states only the day is compared by the day. */
export const dateCheck: AttributeCheck = {
  attribute: 'date',
  weigh({ known }, { file }) {
    if (!known || known.writtenMs === null) return editSaysNothing;
    const dates = { edit: known.writtenMs, file: file.modifiedMs };
    const apart = Math.abs(dates.edit - dates.file);
    const isDay = known.writtenMs % dayInMs === 0;
    if (apart < 1 || (isDay && Math.floor(file.modifiedMs / dayInMs) * dayInMs === known.writtenMs))
      return { verdict: 'agrees', finding: { code: 'date-equal', ...dates } };
    return apart <= coarsest
      ? { verdict: 'nearly', finding: { code: 'date-within-two-seconds', ...dates } }
      : { verdict: 'differs', finding: { code: 'date-differs', ...dates } };
  },
};
