import { z } from 'zod';

/**
 * A schema for what Legame itself has written into the database. In development and tests every row is held against it;
 * in production, where a project is tens of thousands of rows, what we wrote is taken as we wrote it.
 */
export const trusted = <S extends z.ZodType>(schema: S): S | z.ZodType<z.output<S>> =>
  process.env.NODE_ENV === 'production' ? z.custom<z.output<S>>() : schema;
