import { createChannel, createSession } from 'better-sse';
import type { Request, Response } from 'express';
import pg from 'pg';
import type { BaseLogger } from 'pino';
import { changeChannel } from '../events/tell.ts';

/** Passes what the database announces on to every open screen, as server-sent events. */
export class ChangeStream {
  readonly #channel = createChannel();
  readonly #open = new Set<Response>();
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
    client.on('notification', ({ payload }) => this.#channel.broadcast(payload ?? '', 'change'));
    client.on('error', (error) => {
      this.#log.warn(error, 'change stream lost the database');
      if (!this.#closed) setTimeout(() => void this.start().catch(() => undefined), 1000).unref();
    });
    await client.connect();
    await client.query(`listen ${changeChannel}`);
    this.#client = client;
  }

  /** Holds a response open; something is said every 20 s, which keeps proxies from closing it. */
  async attach(request: Request, response: Response): Promise<void> {
    // What the database announces is JSON already.
    const session = await createSession(request, response, { keepAlive: 20_000, retry: 1000, serializer: String });
    this.#open.add(response);
    response.on('close', () => this.#open.delete(response));
    this.#channel.register(session);
  }

  async close(): Promise<void> {
    this.#closed = true;
    for (const response of this.#open) response.end();
    await this.#client?.end().catch(() => undefined);
  }
}
