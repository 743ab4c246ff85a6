import { createChannel, createSession } from 'better-sse';
import type { Request, Response } from 'express';
import pg from 'pg';
import type { BaseLogger } from 'pino';
import { setTimeout as after } from 'node:timers/promises';
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
      if (this.#client === client) void this.#startAgain();
    });
    await client.connect();
    await client.query(`listen ${changeChannel}`);
    this.#client = client;
  }

  /**
   * Until it hears again. What was said meanwhile nobody heard, so all screens are let go: they come back
   * and ask for all anew.
   */
  async #startAgain(): Promise<void> {
    this.#client = null;
    while (!this.#closed && !this.#client) {
      await after(500, undefined, { ref: false });
      await this.start().catch(() => undefined);
    }
    for (const response of this.#open) response.end();
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
