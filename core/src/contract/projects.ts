import { z } from 'zod';
import { actSchema } from './history.ts';
import { statusCountsSchema } from './clips.ts';
import { list, projectIdSchema, time } from './basics.ts';
import { rulesSchema } from './rules.ts';

export const projectSchema = z.object({ id: projectIdSchema, name: z.string(), createdAt: time });

/** One that can still be brought back, and until when. */
export const deletedProjectSchema = projectSchema.extend({ deletedAt: time, keptUntil: time });
export type DeletedProject = z.infer<typeof deletedProjectSchema>;

export const projectSummarySchema = projectSchema.extend({
  rules: rulesSchema,
  clips: z.int(),
  toDo: z.int(),
  certain: z.int(),
  statuses: statusCountsSchema,
  /** Screen time of the top timelines that is dark, and their length in all, in seconds rounded for display. */
  darkSeconds: z.number(),
  cutSeconds: z.number(),
  lastAct: actSchema.omit({ skipped: true }).nullable(),
  /** The act that redo would do again. */
  redoable: actSchema.omit({ skipped: true }).nullable(),
});

/** What is to be known of a project beside its clips, worked out when it is asked for. */
export const projectStandingSchema = z.object({
  /** Checks of its health that found something which nobody accepted. */
  openChecks: z.int(),
  /** Other projects with clips tied to the same recordings, by file or by content, and how many recordings these are. */
  shares: list(z.object({ id: projectIdSchema, name: z.string(), files: z.int() })),
});
export type ProjectStanding = z.infer<typeof projectStandingSchema>;

export type ProjectSummary = z.infer<typeof projectSummarySchema>;

export type Project = z.infer<typeof projectSchema>;

export const newProjectSchema = z.object({ name: z.string().trim().min(1).max(200) });
