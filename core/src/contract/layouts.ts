import { z } from 'zod';
import { list } from './basics.ts';

/** The tables whose columns can be arranged. */
export const tables = ['ledger', 'timecode', 'bins'] as const;
export type TableName = (typeof tables)[number];

/** How a table shows its columns: which, in which order, how wide, sorted and grouped by what. */
export const arrangementSchema = z.object({
  order: list(z.string()),
  hidden: list(z.string()),
  widths: z.record(z.string(), z.number()),
  /** Columns that stay in sight when the others are moved aside. */
  pinned: list(z.string()),
  sorts: list(z.object({ column: z.string(), descending: z.boolean() })),
  group: z.string().nullable(),
});
export type Arrangement = z.infer<typeof arrangementSchema>;

const layoutName = z.string().trim().min(1).max(60);
/** An arrangement kept under a name, for one project or for all. */
export const layoutSchema = z.object({ name: layoutName, forAll: z.boolean(), arrangement: arrangementSchema });
export type Layout = z.infer<typeof layoutSchema>;
export const layoutsSchema = list(layoutSchema);
export const layoutsQuerySchema = z.object({ table: z.enum(tables) });
export const layoutRequestSchema = layoutSchema.extend({ table: z.enum(tables) });
export const removeLayoutSchema = layoutRequestSchema.omit({ arrangement: true });
