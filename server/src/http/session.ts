import { timingSafeEqual } from 'node:crypto';
import type { NextFunction, Request, Response } from 'express';
import { readOwnFile } from '../disk/own.ts';
import { UserProblem } from '../problems.ts';

/** What this user's programs show; made by the launcher. */
export async function readToken(path: string): Promise<string> {
  const token = (await readOwnFile(path))?.trim();
  if (token) return token;
  throw new Error(`${path} is not there. Start Legame with "npm start", which makes it.`);
}

/**
 * Tells this user's page and programs from those of other users of the same machine. The page is given a cookie with
 * it; a program shows the token as "Authorization: Bearer …". Cookies are shared by all ports of a machine, so each
 * Legame's has the name of its port.
 */
export class Session {
  readonly #token: string;

  constructor(token: string) {
    this.#token = token;
  }

  /** Before each page: gives the cookie to a browser of this user, or to whoever shows the token in the address. */
  readonly give = (request: Request, response: Response, next: NextFunction): void => {
    const { key } = request.query;
    const isKnown = this.#is(cookieOf(request)) || (typeof key === 'string' && this.#is(key));
    void (isKnown ? Promise.resolve(true) : isOfThisUser(request)).then((isOurs) => {
      if (!isOurs) {
        response.status(403).type('text').send(strangerText(request));
        return;
      }
      response.cookie(nameFor(request), this.#token, { httpOnly: true, sameSite: 'strict', path: '/' });
      if (typeof key === 'string') response.redirect(request.path.replace(/^\/+/, '/'));
      else next();
    }, next);
  };

  /** Before each answer of the interface. */
  readonly demand = (request: Request, _: Response, next: NextFunction): void => {
    const [scheme, shown] = (request.headers.authorization ?? '').split(' ');
    if (this.#is(cookieOf(request)) || (scheme?.toLowerCase() === 'bearer' && this.#is(shown ?? null))) return next();
    throw new UserProblem({ code: 'no-session' });
  };

  #is(shown: string | null): boolean {
    if (shown === null) return false;
    const [a, b] = [Buffer.from(shown), Buffer.from(this.#token)];
    return a.length === b.length && timingSafeEqual(a, b);
  }
}

const portOf = (request: Request): number => request.socket.localPort ?? 0;
const nameFor = (request: Request): string => `legame_${portOf(request)}`;

function cookieOf(request: Request): string | null {
  const start = `${nameFor(request)}=`;
  const cookies = (request.headers.cookie ?? '').split('; ');
  return cookies.find((cookie) => cookie.startsWith(start))?.slice(start.length) ?? null;
}

const strangerText = (request: Request): string =>
  `This Legame belongs to another user of this machine. If it is yours, open http://${request.headers.host ?? 'localhost'}/?key=… with what its file "token" says; it lies in Legame's data folder.\n`;

/**
 * Whether a connection of this machine comes from a process of the user that runs this one. The system's own list of
 * connections says whose they are; one that is not in it comes from elsewhere, as through a tunnel of this user's.
 */
async function isOfThisUser({ socket }: Request): Promise<boolean> {
  const [ours, peer] = [socket.localPort, socket.remotePort];
  if (ours === undefined || peer === undefined) return false;
  for (const table of ['/proc/net/tcp', '/proc/net/tcp6']) {
    for (const line of ((await readOwnFile(table)) ?? '').split('\n').slice(1)) {
      const [, local, remote, , , , , uid] = line.trim().split(/\s+/);
      const port = (address: string | undefined) => parseInt(address?.split(':')[1] ?? '', 16);
      if (port(local) === peer && port(remote) === ours) return Number(uid) === process.getuid?.();
    }
  }
  return true;
}
