import { z } from 'zod';

/**
 * The page may not make code of text, so the library that checks answers need not try to: trying costs the stack of a
 * refused attempt, before the first row is drawn. Imported before any schema is made.
 */
z.config({ jitless: true });
