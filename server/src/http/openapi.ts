import { version } from '../version.ts';
import { z } from 'zod';
import { problemDetailsSchema } from '@legame/core/contract';
import type { Route } from './route.ts';

type Json = Record<string, unknown>;

/** The OpenAPI 3.1 description of all routes, made from their schemas. */
export function describe(routes: readonly Route[]): Json {
  const paths: Record<string, Json> = {};
  for (const r of routes) {
    const path = `/api${r.path.replace(/:(\w+)/g, '{$1}')}`;
    (paths[path] ??= {})[r.method] = describeRoute(r);
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Legame',
      version,
      description: 'Find why clips are dark, relink them, gather their media.',
    },
    paths,
    components: { schemas: { Problem: schemaOf(problemDetailsSchema, 'output') } },
  };
}

function describeRoute(r: Route): Json {
  const body = r.takesBytes
    ? { 'application/octet-stream': { schema: { type: 'string', format: 'binary' } } }
    : r.body && { 'application/json': { schema: schemaOf(r.body, 'input') } };
  const answer = r.answer
    ? { 'application/json': { schema: schemaOf(r.answer, 'output') } }
    : r.answerType && { [r.answerType]: { schema: { type: 'string', format: 'binary' } } };
  const status = String(r.status ?? (answer ? 200 : 204));
  return {
    summary: r.summary,
    parameters: [...parametersOf(r.params, 'path'), ...parametersOf(r.query, 'query')],
    ...(body ? { requestBody: { required: true, content: body } } : {}),
    responses: {
      [status]: { description: 'Done', ...(answer ? { content: answer } : {}) },
      default: {
        description: 'A problem, RFC 9457',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}

function parametersOf(schema: z.ZodType | undefined, place: 'path' | 'query'): Json[] {
  if (!schema) return [];
  const { properties = {}, required = [] } = schemaOf(schema, 'input') as {
    properties?: Record<string, Json>;
    required?: string[];
  };
  return Object.entries(properties).map(([name, property]) => ({
    name,
    in: place,
    required: place === 'path' || required.includes(name),
    schema: property,
  }));
}

function schemaOf(schema: z.ZodType, io: 'input' | 'output'): Json {
  const { $schema: _, ...json } = z.toJSONSchema(schema, {
    io,
    unrepresentable: 'any',
  }) as Json;
  return json;
}
