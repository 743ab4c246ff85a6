import { useRef, useState } from 'react';
import type { Rate, Reading } from '@legame/core';
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
  /** Whether a document of this name that is there already is an older version of it. */
  readonly isNewerVersion: boolean;
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
    for (const file of files) {
      const token = `incoming-${(taken += 1)}`;
      const { name, size: sizeInBytes } = file;
      const fresh = { token, name, sizeInBytes, reading: {}, preview: null, isNewerVersion: true, isGoing: false };
      setList((all) => [...all, { ...fresh, error: null }]);
      const fault = await documentReader().open(token, file);
      if (fault) change(token, { preview: { ok: false, fault } });
      else await read(token, name, {});
    }
  };

  const leave = (token: string) => {
    setList((all) => all.filter((one) => one.token !== token));
    void documentReader().close(token);
  };

  const bringIn = async (one: Incoming): Promise<DocumentView | null> => {
    if (!one.preview?.ok) return null;
    change(one.token, { isGoing: true, error: null });
    const namesake = documents.find((d) => d.name === one.name);
    try {
      const content = await documentReader().content(one.token);
      const document = await upload({
        projectId,
        name: one.name,
        content: new Blob([content as Uint8Array<ArrayBuffer>]),
        reading: one.reading,
        replaces: namesake && one.isNewerVersion ? namesake.id : undefined,
        beside: namesake !== undefined && !one.isNewerVersion,
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

function headersOf(preview: Preview): readonly string[] | null {
  if (preview.ok) return preview.choices.columns?.headers ?? null;
  return preview.fault.code === 'columns-needed' ? preview.fault.columns.headers : null;
}
