import { PassThrough, Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import type { Transaction } from './database.ts';

type Cell = string | number | null;
export type Row = readonly Cell[];

/** A COPY that is under way: rows are written as they come, and are in the table once it ended. */
type Copy = { readonly write: (rows: readonly Row[]) => void; readonly end: () => Promise<void> };

/** So many rows are written out at a time, while the database takes in those before. */
const atOnce = 500;

/** Begins a COPY into a table; until it ended, its transaction can be asked nothing else. */
export async function openCopy(trx: Transaction, table: string, columns: readonly string[]): Promise<Copy> {
  const lines = new PassThrough({ highWaterMark: 1 << 20 });
  const done = pipeline(lines, await target(trx, table, columns));
  done.catch(() => undefined);
  return {
    write: (rows) => {
      if (rows.length > 0) lines.write(rows.map(lineOf).join(''));
    },
    end: async () => {
      lines.end();
      await done;
    },
  };
}

/**
 * Puts rows into a table by COPY. They are written out while the database takes in the ones before, so that both are at
 * work; a statement with lists waits for all of them to be written out, and then takes them apart again.
 */
export async function copyRows<T>(
  trx: Transaction,
  table: string,
  columns: readonly string[],
  items: readonly T[],
  rowOf: (item: T, index: number) => Row,
): Promise<void> {
  const lines = function* () {
    for (let at = 0; at < items.length; at += atOnce)
      yield items
        .slice(at, at + atOnce)
        .map((item, i) => lineOf(rowOf(item, at + i)))
        .join('');
  };
  await pipeline(Readable.from(lines()), await target(trx, table, columns));
}

async function target(trx: Transaction, table: string, columns: readonly string[]) {
  const client = await (trx.client as { acquireConnection: () => Promise<PoolClient> }).acquireConnection();
  return client.query(copyFrom(`copy ${table} (${columns.join(', ')}) from stdin`));
}

const escapes: Readonly<Record<string, string>> = { '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r' };
const escaped = (text: string): string =>
  /[\\\t\n\r]/.test(text) ? text.replace(/[\\\t\n\r]/g, (c) => escapes[c]!) : text;
const cellOf = (value: Cell): string =>
  value === null ? '\\N' : typeof value === 'string' ? escaped(value) : String(value);
const lineOf = (row: Row): string => `${row.map(cellOf).join('\t')}\n`;
