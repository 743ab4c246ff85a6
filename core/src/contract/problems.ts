import { z } from 'zod';

/** RFC 9457. `code` is stable; the rest is for people. */
export const problemSchema = z.looseObject({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  code: z.string(),
  detail: z.string(),
});

export type Problem = z.infer<typeof problemSchema>;
