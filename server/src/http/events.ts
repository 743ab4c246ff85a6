import type { Request, Response } from 'express';
import pg from 'pg';
import type { BaseLogger } from 'pino';
import { changeChannel } from '../events/tell.ts';

/** Passes what the database announces on to every open screen, as server-sent events. */
export class ChangeStream {
  readonly #listeners = new Set<Response>();
  #client: pg.Client | null = null;
  #closed = false;
  readonly #databaseUrl: string;
  readonly #log: BaseLogger;

  constructor(databaseUrl: string, log: BaseLogger) {
    this.#databaseUrl = databaseUrl;
    this.#log = log;
  }

  async start(): Promise<void> {
    const client = new pg.Client({ connectionString: this.#databaseUrl });
    client.on('notification', ({ payload }) => this.#send(payload ?? ''));
    client.on('error', (error) => {
      this.#log.warn(error, 'change stream lost the database');
      if (!this.#closed) setTimeout(() => void this.start().catch(() => undefined), 1000).unref();
    });
    await client.connect();
    await client.query(`listen ${changeChannel}`);
    this.#client = client;
  }

  /** Holds a response open; a comment every 20 s keeps proxies from closing it. */
  attach(request: Request, response: Response): void {
    response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
    response.flushHeaders();
    response.write('retry: 1000\n\n');
    this.#listeners.add(response);
    const keepAlive = setInterval(() => response.write(': still here\n\n'), 20_000);
    request.on('close', () => {
      clearInterval(keepAlive);
      this.#listeners.delete(response);
    });
  }

  #send(payload: string): void {
    for (const response of this.#listeners) response.write(`event: change\ndata: ${payload}\n\n`);
  }

  async close(): Promise<void> {
    this.#closed = true;
    for (const response of this.#listeners) response.end();
    await this.#client?.end().catch(() => undefined);
  }
}
