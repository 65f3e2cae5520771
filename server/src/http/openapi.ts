// The API's description (OpenAPI 3.1), made from the routes.

import { liveMessage } from './live/messages';
import { isBytes, type Route } from './route';
import { nameOf, type Schema } from './schema';
import type { Services } from './services';
import { allRoutes } from './all-routes';
import { permissions } from '@nibber/core/permissions';

type Json = { [key: string]: unknown };

const description = `The API of the server. Instants are milliseconds since 1970 on the site's clock unless stated otherwise;
boxes and points are 0..1 of the picture. A session is a cookie from POST /api/session; a script sends a bearer token
(\`npm run -s token -- --role owner\`). Every error has the shape of \`Error\`. Requests that change anything must come from a page of the
server (Sec-Fetch-Site or Origin) or carry a bearer token. Edits of the site take \`If-Match: "version"\`, the version they are based on
(409 with the changes since then); scripts may omit it.`;

const problem = { $ref: '#/components/responses/Problem' };
const errorSchema = {
  type: 'object',
  required: ['error'],
  properties: {
    error: {
      type: 'object',
      required: ['code', 'message', 'hint', 'problems'],
      properties: {
        code: { type: 'string' },
        message: { type: 'string' },
        hint: { type: 'string' },
        problems: {
          type: 'array',
          items: { type: 'object', properties: { path: { type: 'string' }, wrong: { type: 'string' }, allowed: { type: 'string' } } },
        },
      },
    },
  },
};

/** Routes as they stand, made of services of which none is ever asked anything. */
export function describedRoutes(): Route[] {
  const nothing: object = new Proxy(() => {}, { get: () => nothing, apply: () => nothing });
  return allRoutes(nothing as Services);
}

export function openapiOf(routes: readonly Route[]): Json {
  const schemas: Json = { Error: errorSchema };
  /** Named schemas become references, wherever they stand. */
  const written = (schema: unknown): unknown => {
    const name = nameOf(schema);
    if (name === undefined) return unnamed(schema);
    if (!(name in schemas)) {
      schemas[name] = {};
      schemas[name] = unnamed(schema);
    }
    return { $ref: `#/components/schemas/${name}` };
  };
  const unnamed = (schema: unknown): unknown => {
    if (Array.isArray(schema)) return schema.map(written);
    if (typeof schema !== 'object' || schema === null) return schema;
    return Object.fromEntries(Object.entries(schema).map(([key, value]) => [key, written(value)]));
  };
  written(liveMessage);
  const paths: { [path: string]: Json } = {
    '/hooks/cameras/{token}': {
      post: {
        operationId: 'postHook',
        tags: ['hooks'],
        summary:
          'An event of a paired camera: JSON (docs/camera-event.schema.json, also as CloudEvents 1.0), ONVIF metadata XML, or multipart with a JPEG. The same delivery twice is one event',
        security: [],
        parameters: [parameter('token')],
        requestBody: {
          content: Object.fromEntries(
            ['application/json', 'application/cloudevents+json', 'application/xml', 'multipart/form-data'].map((type) => [type, {}]),
          ),
        },
        responses: {
          202: { description: 'Accepted; `{ id, again }`' },
          ...Object.fromEntries([400, 404, 413, 429, 503].map((status) => [status, problem])),
          default: problem,
        },
      },
    },
  };
  for (const route of routes) {
    const path = route.path.replace(/:(\w+)/g, '{$1}');
    (paths[path] ??= {})[route.method] = operationOf(route, written);
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Nibber', version: '0.1.0', description, license: { name: 'MIT', identifier: 'MIT' } },
    servers: [{ url: '/' }],
    security: [{ session: [] }, { bearer: [] }],
    tags: [...new Set(Object.values(paths).flatMap((of) => Object.values(of).flatMap((o) => (o as { tags: string[] }).tags)))]
      .sort()
      .map((name) => ({ name })),
    paths,
    components: {
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'nibber-session' }, bearer: { type: 'http', scheme: 'bearer' } },
      responses: {
        Problem: {
          description: 'The error and what to do',
          content: { 'application/json': { schema: { $ref: '#/components/schemas/Error' } } },
        },
      },
      schemas,
    },
  };
}

/** `getCamerasByCameraPaths`: the method, and the words of the path. */
const operationIdOf = (method: string, path: string): string =>
  method +
  path
    .replace(/^\/api/, '')
    .replace(/:(\w+)/g, 'by-$1')
    .split(/[^A-Za-z0-9]+/)
    .filter(Boolean)
    .map((word) => word[0]!.toUpperCase() + word.slice(1))
    .join('');
/** The resource that a path begins with. */
const tagOf = (path: string): string => /^\/(?:api\/)?([\w-]+)/.exec(path)![1]!;

/** With what a request may be refused, by what is asked of it. */
const refusalsOf = ({ path, may, body, edits }: Pick<Route, 'path' | 'may' | 'body' | 'edits'>): number[] => [
  400,
  ...(may === 'anyone' ? [] : [401, 403]),
  ...(path.includes(':') ? [404] : []),
  ...(body === undefined ? [] : [409, 413, 422]),
  ...(body === undefined && edits ? [409, 422] : []),
  429,
  503,
];

const parameter = (name: string, schema: unknown = { type: 'string' }) => ({ name, in: 'path', required: true, schema });

function operationOf(
  { method, path, params, may, summary, query, body, maxBytes, edits, answer }: Route,
  written: (schema: unknown) => unknown,
): Json {
  const inPath = Object.entries(params.properties as { [name: string]: Schema }).map(([name, schema]) => parameter(name, schema));
  const required = (query?.required ?? []) as readonly string[];
  const asked = Object.entries((query?.properties ?? {}) as { [name: string]: Schema }).map(([name, schema]) => ({
    name,
    in: 'query',
    required: required.includes(name),
    schema: written(schema),
  }));
  const from = edits
    ? [{ name: 'If-Match', in: 'header', schema: { type: 'string' }, description: 'The version it is based on, in quotes' }]
    : [];
  const parameters = [...inPath, ...asked, ...from];
  const who = may === 'anyone' ? '' : `May: ${may} (${permissions[may].join(', ')}).`;
  const bytes = (of: { readonly bytes: string }) => Object.fromEntries(of.bytes.split(', ').map((type) => [type, {}]));
  return {
    operationId: operationIdOf(method, path),
    tags: [tagOf(path)],
    summary,
    ...(who ? { description: who } : {}),
    ...(may === 'anyone' ? { security: [] } : {}),
    ...(parameters.length ? { parameters } : {}),
    ...(body === undefined
      ? {}
      : {
          requestBody: {
            required: true,
            ...(isBytes(body) ? {} : { description: `At most ${maxBytes} bytes.` }),
            content: isBytes(body) ? bytes(body) : { 'application/json': { schema: written(body) } },
          },
        }),
    responses: {
      200: { description: 'OK', content: isBytes(answer) ? bytes(answer) : { 'application/json': { schema: written(answer) } } },
      ...Object.fromEntries(refusalsOf({ path, may, body, edits }).map((status) => [status, problem])),
      default: problem,
    },
  };
}
