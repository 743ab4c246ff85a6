import type { FormatId } from '@legame/core/formats';
import { z } from 'zod';
import { formatSchema, type DocumentView } from '@legame/core/contract';

/** How a document goes out, as a person says it. */
export const choiceSchema = z
  .object({
    format: formatSchema,
    timeline: z.string(),
    /** Empty for the whole list, or the first track. */
    track: z.string(),
    paths: z.enum(['absolute', 'relative', 'place-roots']),
    folder: z.string(),
    /** Where each place lies on the receiving machine, by place id. */
    roots: z.record(z.string(), z.string()),
    reels: z.boolean(),
  })
  .refine((c) => c.paths !== 'relative' || c.folder.startsWith('/'), {
    path: ['folder'],
    message: 'Say the whole path, from the root down.',
  });
export type ExportChoice = z.infer<typeof choiceSchema>;

/** What a document can go out as, its own format first. */
export function formatsFor({ format, timelines }: Pick<DocumentView, 'format' | 'timelines'>): FormatId[] {
  const all: FormatId[] =
    format === 'log' ? ['log', 'otio'] : timelines.some((t) => t.top) ? ['otio', 'edl', 'log'] : ['otio', 'log'];
  return all.toSorted((a, b) => Number(b === format) - Number(a === format));
}

/** It goes out as it came in, with its references changed. */
export const isOwnForm = (document: Pick<DocumentView, 'format'>, { format, track }: ExportChoice): boolean =>
  format === document.format && (format !== 'edl' || track === '');

/** The choice as the server asks for it: only what says something. */
export function queryOf(document: DocumentView, choice: ExportChoice): Record<string, string> {
  const { paths, folder, format, track, reels } = choice;
  const roots = Object.fromEntries(Object.entries(choice.roots).filter(([, root]) => root));
  const timeline = document.timelines.find((t) => t.key === choice.timeline);
  const isOwn = isOwnForm(document, choice);
  return {
    paths,
    ...(paths === 'relative' ? { folder } : {}),
    ...(paths === 'place-roots' ? { roots: JSON.stringify(roots) } : {}),
    ...(reels ? { reels: 'true' } : {}),
    ...(isOwn ? {} : { format }),
    ...(!isOwn && format === 'edl' && timeline
      ? { timeline: timeline.key, track: track || (timeline.tracks[0] ?? 'V1') }
      : {}),
  };
}
