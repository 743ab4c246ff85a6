import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { projectIdSchema } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import type { Context } from '../context.ts';
import { isDeleted } from '../projects/views.ts';
import { notFound, UserProblem } from '../problems.ts';
import type { ChangeStream } from './events.ts';
import { KeptAnswers } from './kept.ts';
import { describe } from './openapi.ts';
import { answerProblems } from './problems.ts';
import { mount } from './route.ts';
import { routes } from './routes/index.ts';
import { Session } from './session.ts';

/** The whole HTTP interface: same-origin only, JSON under /api, the built client under everything else. */
export function makeApp(
  context: Context,
  changes: Pick<ChangeStream, 'attach'>,
  { token = null, kept = new KeptAnswers() }: { readonly token?: string | null; readonly kept?: KeptAnswers } = {},
): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'img-src': ["'self'", 'data:', 'blob:'],
          'style-src': ["'self'", "'unsafe-inline'"],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use('/api', sameOriginOnly);
  const session = token === null ? null : new Session(token);
  if (session) app.use('/api', session.demand);
  app.use(
    compression({
      // This machine's own network is quick: what counts is how much a page has to take in, not the last tenth.
      level: 1,
      threshold: 4096,
      // A stream of events is told as it comes.
      filter: (request, response) => request.path !== '/api/events' && compression.filter(request, response),
    }),
  );
  const api = express.Router();
  api.get('/events', (request, response) => changes.attach(request, response));
  const description = describe(routes);
  api.get('/openapi.json', (_, response) => {
    response.json(description);
  });
  for (const r of routes) {
    const readBody = r.takesBytes
      ? express.raw({ type: () => true, limit: context.config.documentLimitInBytes })
      : express.json({ limit: '32mb' });
    if (r.method !== 'get') api[r.method](r.path, readBody);
  }
  // Nothing of a deleted project is seen or done until it is brought back.
  api.param('projectId', (_, __, next, id: string) => {
    if (!projectIdSchema.safeParse(id).success) return next();
    isDeleted(context, id as ProjectId).then((gone) => next(gone ? notFound('project') : undefined), next);
  });
  mount(api, routes, context, kept);
  api.use(() => {
    throw notFound('address');
  });
  app.use('/api', api);
  if (context.config.webFolder) {
    const { webFolder } = context.config;
    app.use(express.static(webFolder, { index: false, maxAge: '1h' }));
    app.get('/{*path}', session ? session.give : (_, __, next) => next());
    app.get('/{*path}', (_, response) =>
      response.set('Cache-Control', 'no-store').sendFile(join(webFolder, 'index.html')),
    );
  }
  app.use(answerProblems(context.log));
  return app;
}

/**
 * A page of another site must not steer a server on this machine: requests that name a foreign origin, or reach us
 * under a name that is not this machine's, are refused.
 */
function sameOriginOnly(request: Request, _: Response, next: NextFunction): void {
  const host = request.headers.host ?? '';
  const isLocal = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/.test(host);
  const { origin } = request.headers;
  const isForeign = origin !== undefined && origin !== `http://${host}`;
  const crossSite = request.headers['sec-fetch-site'] === 'cross-site';
  if (!isLocal || isForeign || crossSite) {
    throw new UserProblem({ code: 'foreign-origin' });
  }
  next();
}
