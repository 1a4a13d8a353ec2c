import { z } from 'zod';
import { ROUTES, type Route } from './routes';

/** The methods that a path under /api has; null if there is no such route. */
export function methodsOf(path: string): string[] | null {
  const found = MATCHING.filter(({ pattern }) => pattern.test(path));
  // A path that is written out comes before one with a name in it.
  const exact = found.filter(({ names }) => names === Math.min(...found.map((f) => f.names)));
  return exact.length === 0 ? null : exact.map(({ method }) => method.toUpperCase());
}

const MATCHING = ROUTES.map(({ method, path }) => ({
  method,
  names: path.split('{').length,
  pattern: new RegExp(`^/api/v1${path.replace(/[.]/g, '[.]').replace(/\{\w+\}/g, '[^/]+')}/?$`),
}));

/** The OpenAPI 3.1 document of `/api/v1`. */
export function openApi() {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const route of ROUTES) {
    const at = paths[`/api/v1${route.path}`] ?? {};
    paths[`/api/v1${route.path}`] = at;
    at[route.method] = operation(route);
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Just Thread',
      version: '1',
      description: 'Amounts are decimal strings, dates YYYY-MM-DD, periods YYYY.PP. Unknown parameters are refused.',
    },
    paths,
    components: {
      securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
      schemas: { Problem: problem },
    },
    security: [{ token: [] }],
  };
}

const problem = {
  type: 'object',
  required: ['title', 'status'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string' },
    errors: {
      type: 'array',
      items: { type: 'object', properties: { path: { type: 'string' }, message: { type: 'string' } } },
    },
  },
} as const;

function operation(route: (typeof ROUTES)[number]) {
  const named = [...route.path.matchAll(/\{(\w+)\}/g)].map((m) => ({
    name: m[1],
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const asked = Object.entries(route.query ?? {}).map(([name, schema]) => {
    const { description, ...shape } = jsonSchema(schema as z.ZodType);
    return {
      name,
      in: 'query',
      required: !(schema as z.ZodType).safeParse(undefined).success,
      ...(description ? { description } : {}),
      schema: shape,
    };
  });
  if (route.query && 'entity' in route.query && 'status' in route.query) {
    asked.push({
      name: 'dim',
      in: 'query',
      required: false,
      description: 'dim.<code>=<member>: a member and all below it; ~direct:<member> for it alone; ~none for no member',
      schema: { type: 'object', additionalProperties: { type: 'array', items: { type: 'string' } } },
    });
  }
  const media = route.multipart ? 'multipart/form-data' : 'application/json';
  return {
    summary: route.summary,
    ...(named.length + asked.length > 0 ? { parameters: [...named, ...asked] } : {}),
    ...(route.body
      ? {
          requestBody: {
            required: true,
            content: {
              [media]: { schema: bodySchema(route) },
              ...(route.json ? { 'application/json': { schema: jsonSchema(route.json) } } : {}),
            },
          },
        }
      : {}),
    responses: {
      [route.status ?? 200]: { description: 'The answer', content: answerOf(route) },
      default: {
        description: 'A problem (RFC 9457)',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}

function answerOf({ answer, gives }: Route) {
  if (gives === 'file') return { 'application/octet-stream': { schema: { type: 'string', format: 'binary' } } };
  if (gives === 'page') return {};
  return { 'application/json': answer ? { schema: jsonSchema(answer, 'output') } : {} };
}

function bodySchema(route: Route) {
  const schema = jsonSchema(route.body as z.ZodType);
  if (!route.multipart) return schema;
  return {
    ...schema,
    required: ['file'],
    properties: { file: { type: 'string', format: 'binary' }, ...(schema.properties as object) },
  };
}

function jsonSchema(schema: z.ZodType, io: 'input' | 'output' = 'input'): Record<string, unknown> {
  const { $schema: _dialect, ...rest } = z.toJSONSchema(schema, { unrepresentable: 'any', io }) as Record<
    string,
    unknown
  >;
  return rest;
}
