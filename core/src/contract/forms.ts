import { z } from 'zod';
import { list, clipIds, formSchema } from './basics.ts';
import { foundSchema } from './media.ts';

export const formRequestSchema = z.object({ form: formSchema, clipIds: clipIds.optional() });

export const renditionsSchema = z.object({
  preferred: formSchema.nullable(),
  /** How many linked clips have their recording in each form as well. */
  available: list(z.object({ form: formSchema, clips: z.int() })),
});

export type Renditions = z.infer<typeof renditionsSchema>;

export const renditionSchema = foundSchema.extend({ form: formSchema });
