import { availableParallelism, homedir } from 'node:os';
import { delimiter, join, resolve } from 'node:path';
import { z } from 'zod';

/** Everything that can be set from outside, with its default. Nothing else in the server reads the environment. */
const environmentSchema = z.object({
  LEGAME_PORT: z.coerce.number().int().min(1).max(65_535).default(4700),
  LEGAME_DATA: z.string().min(1).default('.legame'),
  LEGAME_ROOTS: z.string().optional(),
  /** Most that pictures and previews may take up, in megabytes; what was not looked at for longest goes first. */
  LEGAME_CACHE_MB: z.coerce.number().int().min(16).max(1_000_000).default(1024),
  /** How many processes carry jobs: one that does all, and helpers that read, hash and copy. */
  LEGAME_WORKERS: z.coerce
    .number()
    .int()
    .min(1)
    .max(16)
    .default(Math.max(1, Math.min(4, Math.floor(availableParallelism() / 2)))),
  /** Largest document that is read, in megabytes, and how long reading one may take. */
  LEGAME_DOCUMENT_MB: z.coerce.number().int().min(1).max(1000).default(100),
  LEGAME_DOCUMENT_SECONDS: z.coerce.number().int().min(1).max(3600).default(120),
  LEGAME_DEMO: z.enum(['on', 'off']).default('on'),
  /** Set by the launcher for the processes it starts; an own PostgreSQL can be given here. */
  LEGAME_DATABASE: z.string().optional(),
  LEGAME_WEB: z.string().optional(),
});

export type Config = {
  readonly port: number;
  readonly dataFolder: string;
  /** Folders under which places and handoffs may be; everything else is out of reach. */
  readonly roots: readonly string[];
  readonly demo: boolean;
  readonly workers: number;
  readonly databaseUrl: string | null;
  /** The built web client, when there is one to serve. */
  readonly webFolder: string | null;
  readonly bay: string;
  /** The bay again where its simulated drives are in use, else null. */
  readonly drives: string | null;
  readonly cacheLimitInBytes: number;
  readonly documentLimitInBytes: number;
  readonly documentSeconds: number;
  readonly demoDocuments: string;
  readonly cacheFolder: string;
  /** What programs of this user show to use the HTTP interface; only this user can read it. */
  readonly tokenFile: string;
};

/** The environment as a validated configuration; throws with a sentence that names the variable and what it allows. */
export function readConfig(environment: Readonly<Record<string, string | undefined>>, cwd = process.cwd()): Config {
  const read = environmentSchema.safeParse(environment);
  if (!read.success) {
    const [issue] = read.error.issues;
    throw new Error(`${issue?.path.join('.')} cannot be "${environment[String(issue?.path[0])]}": ${issue?.message}.`);
  }
  const {
    LEGAME_PORT,
    LEGAME_DATA,
    LEGAME_ROOTS,
    LEGAME_CACHE_MB,
    LEGAME_DEMO,
    LEGAME_DATABASE,
    LEGAME_WEB,
    LEGAME_WORKERS,
    LEGAME_DOCUMENT_MB,
    LEGAME_DOCUMENT_SECONDS,
  } = read.data;
  const dataFolder = resolve(cwd, LEGAME_DATA);
  const bay = join(dataFolder, 'bay');
  const chosen = LEGAME_ROOTS?.split(delimiter).filter((root) => root !== '');
  return {
    port: LEGAME_PORT,
    dataFolder,
    roots: (chosen ?? [bay, homedir(), '/media', '/mnt']).map((root) => resolve(cwd, root)),
    demo: LEGAME_DEMO === 'on',
    workers: LEGAME_WORKERS,
    databaseUrl: LEGAME_DATABASE ?? null,
    webFolder: LEGAME_WEB ? resolve(cwd, LEGAME_WEB) : null,
    bay,
    drives: LEGAME_DEMO === 'on' ? bay : null,
    cacheLimitInBytes: LEGAME_CACHE_MB * 1_000_000,
    documentLimitInBytes: LEGAME_DOCUMENT_MB * 1_000_000,
    documentSeconds: LEGAME_DOCUMENT_SECONDS,
    demoDocuments: join(dataFolder, 'demo-documents'),
    cacheFolder: join(dataFolder, 'cache'),
    tokenFile: join(dataFolder, 'token'),
  };
}
