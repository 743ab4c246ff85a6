import { useRef, useState } from 'react';
import type { Reading } from '@legame/core/formats';
import type { Rate } from '@legame/core/time';
import type { DocumentView } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { documentReader } from '../../workers/reader.ts';
import type { Preview } from '../../workers/documentReader.ts';

/** A dropped file on its way in: read here already, and waiting for a person's word. */
export type Incoming = {
  readonly token: string;
  readonly name: string;
  readonly sizeInBytes: number;
  readonly reading: Reading;
  /** Null while it is being read. */
  readonly preview: Preview | null;
  /** The document that a person said it is a newer version of; null for none, undefined while nobody said. */
  readonly replaces: string | null | undefined;
  readonly isGoing: boolean;
  readonly error: unknown;
};

let taken = 0;

/** Dropped files, read in the worker as soon as they are dropped, and brought in when a person says so. */
export function useIncoming(projectId: string, documents: readonly DocumentView[]) {
  const [list, setList] = useState<readonly Incoming[]>([]);
  const [upload] = api.useBringInMutation();
  const [findMapping] = api.useLazyLogMappingQuery();
  const latest = useRef(new Map<string, number>());
  const otherRates: Rate[] = documents.flatMap((d) => d.timelines.map((t) => t.rate));

  const change = (token: string, part: Partial<Incoming>) =>
    setList((all) => all.map((one) => (one.token === token ? { ...one, ...part } : one)));

  /** Reads by these decisions; an answer that a later question has overtaken is dropped. */
  const read = async (token: string, name: string, reading: Reading): Promise<void> => {
    const turn = (latest.current.get(token) ?? 0) + 1;
    latest.current.set(token, turn);
    let preview = await documentReader().preview(token, name, reading, otherRates);
    let used = reading;
    const headers = headersOf(preview);
    if (headers && !reading.columns) {
      const known = await findMapping(headers)
        .unwrap()
        .catch(() => null);
      if (known?.roles) used = { ...used, columns: known.roles };
    }
    // Where the rate is the only question, the likeliest answer is shown; nothing is brought in by that.
    if (used !== reading) preview = await documentReader().preview(token, name, used, otherRates);
    if (!preview.ok && preview.fault.code === 'rate-needed' && preview.fault.proposals[0]) {
      used = { ...used, rate: preview.fault.proposals[0].rate };
      preview = await documentReader().preview(token, name, used, otherRates);
    }
    if (latest.current.get(token) === turn) change(token, { preview, reading: used });
  };

  const add = async (files: readonly File[]): Promise<void> => {
    const fresh = files.map((file) => ({ token: `incoming-${(taken += 1)}`, file }));
    const waiting = { reading: {}, preview: null, replaces: undefined, isGoing: false, error: null };
    setList((all) => [
      ...all,
      ...fresh.map(({ token, file }) => ({ ...waiting, token, name: file.name, sizeInBytes: file.size })),
    ]);
    for (const { token, file } of fresh) {
      try {
        const fault = await documentReader().open(token, file);
        if (fault) change(token, { preview: { ok: false, fault } });
        else await read(token, file.name, {});
      } catch {
        // The browser itself cannot read it: it was moved, or its drive went away.
        const detail = 'it cannot be read any more; it was moved, or its drive is gone';
        change(token, { preview: { ok: false, fault: { code: 'bundle-broken', detail } } });
      }
    }
  };

  const leave = (token: string) => {
    setList((all) => all.filter((one) => one.token !== token));
    void documentReader().close(token);
  };

  const bringIn = async (one: Incoming): Promise<DocumentView | null> => {
    if (!one.preview?.ok) return null;
    change(one.token, { isGoing: true, error: null });
    const replaces = formerOf(one, documents);
    try {
      const content = await documentReader().content(one.token);
      const document = await upload({
        projectId,
        name: one.name,
        content,
        reading: one.reading,
        replaces: replaces?.id,
        beside: replaces === null,
        mediaInside: one.preview.mediaInside,
      }).unwrap();
      leave(one.token);
      return document;
    } catch (error) {
      change(one.token, { isGoing: false, error });
      return null;
    }
  };

  const decide = (one: Incoming, part: Reading) => {
    const reading = { ...one.reading, ...part };
    change(one.token, { reading });
    void read(one.token, one.name, reading);
  };
  return { list, add, leave, bringIn, decide, change };
}

/**
 * The document that a dropped one is a newer version of: the one a person named; while nobody said, one of the same
 * name, else the one of its format that has the same title. It is shown with the file, and can be changed there.
 */
export function formerOf(one: Incoming, documents: readonly DocumentView[]): DocumentView | null {
  if (one.replaces !== undefined) return documents.find((d) => d.id === one.replaces) ?? null;
  const { preview } = one;
  if (!preview?.ok) return null;
  const alike = documents.filter((d) => d.format === preview.format);
  return alike.find((d) => d.name === one.name) ?? alike.find((d) => d.title === preview.title) ?? null;
}

function headersOf(preview: Preview): readonly string[] | null {
  if (preview.ok) return preview.choices.columns?.headers ?? null;
  return preview.fault.code === 'columns-needed' ? preview.fault.columns.headers : null;
}
