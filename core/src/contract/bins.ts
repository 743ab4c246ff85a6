import { z } from 'zod';
import { fileRules } from '../bins/fileBy.ts';
import { labelColours, labelMarks, type Label, type Noted } from '../bins/noted.ts';
import { clipIds, clipIdSchema, countingSchema, list, of, rangeSchema, rateSchema, toldOf } from './basics.ts';
import { factsSchema } from './media.ts';

const binName = z.string().trim().min(1).max(120);
/** A bin by the names it stands in, outermost first; empty for the project itself. */
export const binPathSchema = list(z.string());
const newBinPathSchema = z.array(binName).max(12).readonly();
/** A bin, and not the project itself. */
const aBinSchema = z.array(z.string()).min(1).readonly();
const newBin = z.array(binName).min(1).max(12).readonly();

export const labelSchema = of<Label>()(
  z
    .object({
      id: z.string().min(1).max(40),
      name: z.string().trim().min(1).max(60),
      colour: z.enum(labelColours),
      mark: z.enum(labelMarks),
    })
    .readonly(),
);
const columnName = z.string().trim().min(1).max(80);
const columnValue = z.string().max(2000);
export const notedSchema = of<Noted>()(
  z
    .object({
      bin: binPathSchema.nullable(),
      label: z.string().nullable(),
      values: z.record(z.string(), z.string()).readonly(),
    })
    .readonly(),
);

/** What a project has of bins beside those in which clips lie, its labels, and the columns that anything is noted in. */
export const binsSchema = z.object({
  bins: list(binPathSchema),
  labels: list(labelSchema),
  columns: list(z.string()),
});
export type Bins = z.infer<typeof binsSchema>;

/** What a bin shows of a clip beside its row in the list: all that the edit, its file and people say of it. */
export const binClipSchema = z.object({
  id: clipIdSchema,
  /** The document is a log: the clip is a row of it, and no edit uses it. */
  isLogged: z.boolean(),
  rate: rateSchema,
  counting: countingSchema,
  available: rangeSchema.nullable(),
  /** The first and the last frame that events use, at the clip's rate. */
  used: rangeSchema.nullable(),
  facts: factsSchema.nullable(),
  sizeInBytes: z.number().nullable(),
  /** By column: what is noted, what of it a person wrote. */
  values: z.record(z.string(), z.string()),
  written: list(z.string()),
});
export type BinClip = z.infer<typeof binClipSchema>;
export const binClipsSchema = toldOf(binClipSchema);
export type BinClips = z.infer<typeof binClipsSchema>;

export const fileRequestSchema = z.object({ clipIds, bin: newBinPathSchema });
export const fileByRequestSchema = z.object({ clipIds, rule: z.enum(fileRules), under: newBinPathSchema.default([]) });
export const newBinSchema = z.object({ bin: newBin });
/** Another name, or another place; onto a bin that is there, the two are merged. */
export const moveBinSchema = z.object({ bin: aBinSchema, to: newBin });
export const removeBinSchema = z.object({ bin: aBinSchema });
export const labelRequestSchema = z.object({ clipIds, label: z.string().nullable() });
export const labelsRequestSchema = z.object({ labels: z.array(labelSchema).max(40) });
export const writeRequestSchema = z.object({
  written: z
    .array(z.object({ clipIds, values: z.record(columnName, columnValue) }))
    .min(1)
    .max(20_000),
});
