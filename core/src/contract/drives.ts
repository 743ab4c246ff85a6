import { z } from 'zod';
import { list, bytes } from './basics.ts';

export const driveSchema = z.object({
  name: z.string(),
  plugged: z.boolean(),
  readOnly: z.boolean(),
  slow: z.boolean(),
  stalling: z.boolean(),
  full: z.boolean(),
});

export const shelfNames = ['recycle', 'vault'] as const;

export const shelfFileSchema = z.object({
  shelf: z.enum(shelfNames),
  /** Drive, folders, name: where it comes back to. */
  path: z.string(),
  sizeInBytes: bytes,
  coming: z.boolean(),
});

export const driveBaySchema = z.object({ drives: list(driveSchema), shelved: list(shelfFileSchema) });

export type DriveBay = z.infer<typeof driveBaySchema>;

export const driveChangeSchema = driveSchema.partial().extend({
  name: z
    .string()
    .regex(/^[A-Za-z0-9][A-Za-z0-9 _-]{0,39}$/, 'letters, digits, space, - and _')
    .optional(),
});

export const shelfRequestSchema = shelfFileSchema.pick({ shelf: true, path: true });
