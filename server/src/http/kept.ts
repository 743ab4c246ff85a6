import { createHash, randomUUID } from 'node:crypto';
import { promisify } from 'node:util';
import { constants, gunzip, gzip } from 'node:zlib';
import type { Request, Response } from 'express';
import { LRUCache } from 'lru-cache';

/** A view that answers the same for as long as its stamp is the same. */
export type StampedView = {
  readonly stamp: () => Promise<string>;
  readonly make: () => Promise<string>;
};

/** Smaller ones are not worth packing. */
const packedFromInBytes = 4096;
const mostKeptInBytes = 48_000_000;

/** An answer as it goes out. */
export type Body = { readonly bytes: Buffer; readonly isPacked: boolean };
type Kept = { readonly stamp: string; readonly body: Promise<Body> };

/**
 * Answers as they were given last. Many screens ask for the same views, and each asks again whenever anything happened:
 * where nothing is otherwise that a view rests on, it is neither worked out nor written anew, and whoever has it already
 * is told so. Those who ask at once wait for one answer.
 */
export class KeptAnswers {
  readonly #kept: LRUCache<string, Kept>;
  /** Another Legame may answer otherwise, and this one may be of another version than the one before. */
  readonly #own = randomUUID();

  constructor(mostInBytes = mostKeptInBytes) {
    this.#kept = new LRUCache({ maxSize: mostInBytes, max: 1000 });
  }

  async send(request: Request, response: Response, view: StampedView): Promise<void> {
    const address = request.originalUrl;
    // Taken first: what changes while the answer is made is told by the next stamp.
    const stamp = await view.stamp();
    const tag = `W/"${createHash('sha256').update(`${this.#own} ${address} ${stamp}`).digest('base64url')}"`;
    response.vary('Accept-Encoding').set('ETag', tag);
    if (request.fresh) return void response.status(304).end();
    const { bytes, isPacked } = await this.find(address, stamp, view).catch((error: unknown) => {
      response.removeHeader('ETag');
      throw error;
    });
    const isTaken = isPacked && request.acceptsEncodings('gzip') === 'gzip';
    if (isTaken) response.set('Content-Encoding', 'gzip');
    response.type('json').send(isPacked && !isTaken ? await promisify(gunzip)(bytes) : bytes);
  }

  protected find(address: string, stamp: string, view: StampedView): Promise<Body> {
    const known = this.#kept.get(address);
    if (known?.stamp === stamp) return known.body;
    const kept = { stamp, body: view.make().then(packed) };
    this.#kept.set(address, kept, { size: 1 });
    const isKept = () => this.#kept.peek(address) === kept;
    kept.body.then(
      // How large it is shows once it is made; of the very same value no other size would be taken.
      ({ bytes }) => isKept() && this.#kept.set(address, { ...kept }, { size: bytes.length + 1 }),
      () => isKept() && this.#kept.delete(address),
    );
    return kept.body;
  }
}

export async function packed(json: string): Promise<Body> {
  const bytes = Buffer.from(json);
  if (bytes.length < packedFromInBytes) return { bytes, isPacked: false };
  // This machine's own network is quick: what counts is how much a page has to take in, not the last tenth.
  return { bytes: await promisify(gzip)(bytes, { level: constants.Z_BEST_SPEED }), isPacked: true };
}
