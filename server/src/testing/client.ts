import request from 'supertest';
import type { ClipDetail, ClipRow } from '@legame/core/contract';
import type { House } from './house.ts';

/** Speaks with a house as the screens do: through its HTTP interface. The house may be opened later. */
export function clientOf(house: () => House) {
  const api = () => request(house().app);
  const send = (method: 'post' | 'put' | 'patch' | 'delete', path: string, body?: object) =>
    api()[method](`/api${path}`).set('Host', 'localhost').send(body);
  const get = async <T>(path: string): Promise<T> =>
    (await api().get(`/api${path}`).set('Host', 'localhost').expect(200)).body as T;
  const rows = (projectId: string) => get<ClipRow[]>(`/projects/${projectId}/clips`);
  const row = async (projectId: string, fileName: string) =>
    (await rows(projectId)).find((r) => r.fileName === fileName)!;
  return {
    api,
    send,
    get,
    post: (path: string, body?: object) => send('post', path, body),
    put: (path: string, body: object) => send('put', path, body),
    patch: (path: string, body: object) => send('patch', path, body),
    rows,
    row,
    detail: async (projectId: string, fileName: string) =>
      get<ClipDetail>(`/clips/${(await row(projectId, fileName)).id}`),
    newProject: async (name: string) =>
      ((await send('post', '/projects', { name }).expect(201)).body as { id: string }).id,
    /** Brings a document in; what is said of it beside its name goes in as JSON. */
    bring: (projectId: string, content: string | Uint8Array, name: string, said: object = {}) =>
      api()
        .post(`/api/projects/${projectId}/documents`)
        .set('Host', 'localhost')
        .query({
          name,
          ...Object.fromEntries(
            Object.entries(said).map(([key, value]) => [
              key,
              typeof value === 'string' ? value : JSON.stringify(value),
            ]),
          ),
        })
        .type('application/octet-stream')
        .send(Buffer.from(content)),
    index: async (placeId: string, folder = '') => {
      await send('post', `/places/${placeId}/index`, { folder }).expect(202);
      await house().idle();
    },
  };
}
