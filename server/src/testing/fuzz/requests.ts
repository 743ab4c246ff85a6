import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import type { House } from '../house.ts';
import { Chance, slowMs, type Fuzzed } from './chance.ts';

type Schema = {
  readonly type?: string;
  readonly properties?: Record<string, Schema>;
  readonly items?: Schema;
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly format?: string;
};
type Operation = {
  readonly parameters: readonly { readonly name: string; readonly in: 'path' | 'query'; readonly schema: Schema }[];
  readonly requestBody?: { readonly content: Record<string, { readonly schema: Schema }> };
};

const oddTexts = [
  ...['', '0', '\0', '\ud800', '..', '../../..', '/', '//', '/etc/passwd', '.', 'a'.repeat(300), 'a'.repeat(5000)],
  ...['%00', '%', "'; drop table clips; --", '${x}', '<script>', '\u202e', '😀', ' ', '\n', '(a+)+b', '*'.repeat(300)],
  ...['null', '[]', '{', '{"rate":{"num":0,"den":0}}', '{"rate":{"num":1e308,"den":1e-308}}', 'C:\\x', '\\\\h\\s'],
];
const oddNumbers = [0, -1, 1, 0.5, 1e308, 1e-308, 2 ** 31, 2 ** 53, -(2 ** 63), 999_999_999_999];
const oddOthers = [null, true, [], {}, [null], { length: -1 }];

/**
 * Requests made from the description that Legame gives of itself: every route, with values that fit, values that nearly
 * fit, and values that nobody should send. No answer may be a fault, take long, or be anything but JSON, a file or a problem.
 */
export async function fuzzRequests(house: House, seconds: number, seed: number): Promise<Fuzzed> {
  const server = house.app.listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as AddressInfo;
  const url = `http://127.0.0.1:${port}`;
  const findings: string[] = [];
  let tried = 0;
  let slowestMs = 0;
  try {
    const description = (await (await fetch(`${url}/api/openapi.json`)).json()) as {
      paths: Record<string, Record<string, Operation>>;
    };
    const routes = Object.entries(description.paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({ path, method, operation })),
    );
    const known = await knownIds(url);
    const until = performance.now() + seconds * 1000;
    while (performance.now() < until && findings.length < 20) {
      const chance = new Chance(seed + tried);
      tried += 1;
      const { path, method, operation } = chance.one(routes);
      const { address, init } = requestFor(path, method, operation, chance, known);
      const begun = performance.now();
      const answer = await fetch(`${url}${address}`, { ...init, signal: AbortSignal.timeout(20_000) }).catch(
        (error: unknown) => String(error),
      );
      const text = typeof answer === 'string' ? answer : await answer.text();
      const took = performance.now() - begun;
      slowestMs = Math.max(slowestMs, took);
      const what = `requests, seed ${chance.seed}: ${method} ${address.slice(0, 200)} ${JSON.stringify(init.body)?.slice(0, 300)}`;
      if (typeof answer === 'string') findings.push(`${what}: ${answer}`);
      else if (answer.status >= 500 && ![502, 504, 507].includes(answer.status))
        findings.push(`${what}: ${answer.status} ${text.slice(0, 200)}`);
      else if (answer.status >= 400 && !answer.headers.get('content-type')?.includes('problem+json'))
        findings.push(`${what}: ${answer.status} is no problem`);
      else if (took > slowMs * 3) findings.push(`${what}: took ${Math.round(took)} ms`);
    }
  } finally {
    server.closeAllConnections();
    server.close();
  }
  return { tried, findings, slowestMs };
}

type Known = Readonly<Record<string, readonly string[]>>;

/** Things that are there, so that requests reach further than the first check. */
async function knownIds(url: string): Promise<Known> {
  const get = async (path: string) => (await (await fetch(`${url}/api${path}`)).json()) as { id: string }[];
  const ids = (list: readonly { id: string }[]) => list.map((one) => one.id);
  const projects = ids(await get('/projects'));
  const places = ids(await get('/places'));
  const clips = await Promise.all(projects.map((id) => get(`/projects/${id}/clips`)));
  const documents = await Promise.all(projects.map((id) => get(`/projects/${id}/documents`)));
  const files = await Promise.all(
    places.map(async (id) => {
      const answer = await fetch(`${url}/api/places/${id}/files?folder=day1`);
      return ((await answer.json()) as { files?: { id: string }[] }).files ?? [];
    }),
  );
  return {
    projectId: projects,
    placeId: places,
    clipId: ids(clips.flat()),
    documentId: ids(documents.flat()),
    mediaFileId: ids(files.flat()),
  };
}

/** Nothing here may end what the others need: deleting and forgetting is asked of what is not there. */
const endsThings = (method: string, path: string) => method === 'delete' || path.includes('/restore');

function requestFor(path: string, method: string, operation: Operation, chance: Chance, known: Known) {
  const idOf = (name: string) => {
    const ids = endsThings(method, path) ? [] : (known[name] ?? []);
    if (ids.length > 0 && chance.isTrue(0.85)) return chance.one(ids);
    return chance.isTrue(0.7) ? '00000000-0000-4000-8000-000000000000' : chance.one(oddTexts);
  };
  const encoded = (text: string) => {
    try {
      return encodeURIComponent(text);
    } catch {
      return '%ED%A0%80';
    }
  };
  const query: string[] = [];
  let address = path;
  for (const { name, in: place, schema } of operation.parameters) {
    const odd = String(valueFor(schema, name, chance, known, 0));
    if (place === 'path') address = address.replace(`{${name}}`, encoded(idOf(name)) || '%20');
    else if (chance.isTrue(0.7)) query.push(`${name}=${encoded(odd)}`);
  }
  if (query.length > 0) address += `?${query.join('&')}`;
  const content = operation.requestBody?.content;
  if (!content) return { address, init: { method: method.toUpperCase() } };
  const json = content['application/json'];
  const body = json
    ? chance.isTrue(0.05)
      ? chance.one(['{', '[]', 'null', '"x"', '1', '{"a":'.repeat(500)])
      : JSON.stringify(valueFor(json.schema, '', chance, known, 0))
    : chance.one(oddTexts);
  const type = json ? 'application/json' : 'application/octet-stream';
  return { address, init: { method: method.toUpperCase(), headers: { 'content-type': type }, body } };
}

function valueFor(schema: Schema, name: string, chance: Chance, known: Known, depth: number): unknown {
  if (chance.isTrue(0.06) || depth > 8) return chance.one<unknown>([...oddTexts, ...oddNumbers, ...oddOthers]);
  const choices = schema.anyOf ?? schema.oneOf;
  if (choices) return valueFor(chance.one(choices), name, chance, known, depth + 1);
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return chance.one(schema.enum);
  switch (schema.type) {
    case 'object':
      return Object.fromEntries(
        Object.entries(schema.properties ?? {})
          .filter(() => chance.isTrue(0.85))
          .map(([key, inside]) => [key, valueFor(inside, key, chance, known, depth + 1)]),
      );
    case 'array':
      return Array.from({ length: chance.one([0, 1, 2, 5]) }, () =>
        valueFor(schema.items ?? {}, name.replace(/s$/, ''), chance, known, depth + 1),
      );
    case 'integer':
    case 'number':
      return chance.one([1, 2, 24, 25, ...oddNumbers]);
    case 'boolean':
      return chance.isTrue();
    case 'null':
      return null;
    default: {
      const ids = known[name] ?? known[`${name}Id`];
      if (ids?.length && chance.isTrue(0.8)) return chance.one(ids);
      return schema.format === 'uuid' && chance.isTrue(0.5)
        ? '00000000-0000-4000-8000-000000000000'
        : chance.one(['Saltglass', 'day1', 'bowl.mov', ...oddTexts]);
    }
  }
}
