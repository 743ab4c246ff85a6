import { randomBytes } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { z } from 'zod';

const secretsSchema = z.object({ superuser: z.string().min(20), application: z.string().min(20) });
export type Secrets = z.infer<typeof secretsSchema>;

const secret = (): string => randomBytes(24).toString('hex');

/** Writes a file that only this user can read, whole or not at all. */
export async function writeSecret(path: string, text: string): Promise<void> {
  await mkdir(dirname(path), { recursive: true });
  const aside = `${path}.${process.pid}`;
  await writeFile(aside, text, { mode: 0o600, flag: 'wx' });
  await rename(aside, path);
}

/** The passwords of one database server, made when it is first started. Null where there are none yet. */
export async function readSecrets(path: string): Promise<Secrets | null> {
  const text = await readFile(path, 'utf8').catch(() => null);
  if (text === null) return null;
  const read = secretsSchema.safeParse(JSON.parse(text));
  if (read.success) return read.data;
  throw new Error(`${path} is damaged: it should hold the passwords of the database. Move it away; new ones are made.`);
}

export async function makeSecrets(path: string): Promise<Secrets> {
  const secrets = { superuser: secret(), application: secret() };
  await writeSecret(path, `${JSON.stringify(secrets)}\n`);
  return secrets;
}

/** What programs of this user show to use the HTTP interface: the page gets it as a cookie, others read the file. */
export async function readOrMakeToken(path: string): Promise<string> {
  const known = (await readFile(path, 'utf8').catch(() => '')).trim();
  if (known.length >= 20) return known;
  const token = secret();
  await writeSecret(path, `${token}\n`);
  return token;
}
