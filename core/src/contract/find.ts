import { z } from 'zod';
import { clipIdSchema, documentIdSchema, list, placeIdSchema, projectIdSchema } from './basics.ts';

/** What is looked for everywhere: words, each of which has to stand in what is found. */
export const findQuerySchema = z.object({
  text: z.string().trim().min(2).max(200),
  /** The project at hand: whoever has it open finds it and its clips there, and they would crowd out all others. */
  beside: projectIdSchema.optional(),
});

const inProject = { projectId: projectIdSchema, projectName: z.string() };
export const thingSchema = z.discriminatedUnion('what', [
  z.object({ what: z.literal('project'), ...inProject }),
  z.object({ what: z.literal('document'), ...inProject, documentId: documentIdSchema, name: z.string() }),
  z.object({ what: z.literal('clip'), ...inProject, clipId: clipIdSchema, name: z.string(), fileName: z.string() }),
  z.object({ what: z.literal('place'), placeId: placeIdSchema, name: z.string(), path: z.string() }),
  z.object({
    what: z.literal('file'),
    placeId: placeIdSchema,
    placeName: z.string(),
    folder: z.string(),
    name: z.string(),
  }),
]);
export type Thing = z.infer<typeof thingSchema>;
/** The first few of each kind. */
export const thingsSchema = list(thingSchema);
