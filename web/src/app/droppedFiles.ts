import type { InHand } from '../workers/droppedMedia.ts';

/**
 * The files of a drop, those in dropped folders with their way from there. What was dropped can be asked for only while
 * the event lasts: that is done at once, and what looks into folders is fetched after it.
 */
export async function filesOf({ dataTransfer }: DragEvent): Promise<InHand[]> {
  const items = [...(dataTransfer?.items ?? [])].map((item) => {
    const [entry, file] = [item.webkitGetAsEntry?.() ?? null, item.getAsFile()];
    return { kind: item.kind, webkitGetAsEntry: () => entry, getAsFile: () => file };
  });
  const { fromEvent } = await import('file-selector');
  const found = await fromEvent({ type: 'drop', dataTransfer: { items } } as unknown as Event);
  return found.flatMap((one) => (one instanceof File ? [{ file: one, path: pathOf(one) }] : []));
}

const pathOf = (file: File & { readonly path?: string }): string => file.path || file.name;
