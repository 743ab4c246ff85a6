/** What others use of `remarks`. */
export {
  columnRoles,
  type ColumnRole,
  type LogColumns,
  type RateProposal,
  type ReadFault,
  type Remark,
  type RowFault,
} from './remark.ts';
