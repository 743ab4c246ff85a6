import type { InHand } from '../workers/droppedMedia.ts';

/** Looks into what an event of the browser holds. */
type Look = (event: Event) => Promise<readonly unknown[]>;
let lookInto: Look | null = null;

/** Fetches what looks into dropped folders, while something is being dragged over the page and not before. */
export function prepareForFolders(): void {
  void import('file-selector').then(({ fromEvent }) => {
    lookInto = fromEvent;
  });
}

/**
 * The files of a drop, those in dropped folders with their way from there. What was dropped can be looked into only while
 * the event lasts, so this begins at once; let go before that could be fetched, folders are left out.
 */
export async function filesOf(event: DragEvent): Promise<InHand[]> {
  const files = [...(event.dataTransfer?.files ?? [])];
  const found = lookInto ? await lookInto(event) : files;
  return found.flatMap((one) => (one instanceof File ? [{ file: one, path: pathOf(one) }] : []));
}

const pathOf = (file: File & { readonly path?: string; readonly relativePath?: string }): string =>
  file.path || file.relativePath || file.webkitRelativePath || file.name;
