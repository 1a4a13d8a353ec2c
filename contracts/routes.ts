import { z } from 'zod';
import * as answers from './answers/all';
import { evidenceRoutes } from './routes/evidence';
import { leavingRoutes } from './routes/leaving';
import { loadsRoutes } from './routes/loads';
import { namesRoutes } from './routes/names';
import { peopleRoutes } from './routes/people';
import { picturesRoutes } from './routes/pictures';
import { proposalRoutes } from './routes/proposals';
import { readingRoutes } from './routes/reading';
import type { Route } from './routes/route';
import { testsRoutes } from './routes/tests';

export type { Route } from './routes/route';

/** The installation itself. */
const ownRoutes = {
  'GET /health': { summary: 'Whether the application and its database are there', answer: answers.healthSchema },
  'GET /ready': {
    summary: 'Whether the process takes requests: it has its database, and was not asked to stop',
    answer: answers.healthSchema,
  },
  'GET /metrics': {
    summary: 'What the process tells of itself (OpenMetrics), to its own machine or to who has METRICS_TOKEN',
    gives: 'file',
  },
  'GET /openapi.json': { summary: 'This document', answer: z.unknown() },
} as const satisfies Record<string, Route>;

/**
 * Every route of `/api/v1`: its method and path, what it may be asked, and what it answers. Requests are checked with
 * these schemas, answers are typed and in tests parsed with them, the screens have their types from them, and the
 * OpenAPI document is made of them.
 */
export const routes = {
  ...peopleRoutes,
  ...loadsRoutes,
  ...namesRoutes,
  ...readingRoutes,
  ...evidenceRoutes,
  ...picturesRoutes,
  ...testsRoutes,
  ...proposalRoutes,
  ...leavingRoutes,
  ...ownRoutes,
};

export type RouteName = keyof typeof routes;

type RouteOf<Name extends RouteName> = (typeof routes)[Name];

/** What a route answers; never for one that answers a file. */
export type AnswerOf<Name extends RouteName> =
  RouteOf<Name> extends { answer: infer Answer extends z.ZodType } ? z.infer<Answer> : never;

/** The same, of which nothing is changed: what use cases may give. */
export type ReadonlyDeep<T> = T extends readonly (infer Item)[]
  ? readonly ReadonlyDeep<Item>[]
  : T extends object
    ? { readonly [Key in keyof T]: ReadonlyDeep<T[Key]> }
    : T;

/** The body of a request once it is checked, and as it may be sent. */
export type BodyOf<Name extends RouteName> =
  RouteOf<Name> extends { body: infer Body extends z.ZodType } ? z.infer<Body> : undefined;
export type BodySent<Name extends RouteName> =
  RouteOf<Name> extends { json: infer Json extends z.ZodType }
    ? z.input<Json>
    : RouteOf<Name> extends { body: infer Body extends z.ZodType }
      ? z.input<Body>
      : never;

/** The parameters of a question once they are checked, dimension clauses apart. */
export type QueryOf<Name extends RouteName> =
  RouteOf<Name> extends { query: infer Query extends z.ZodRawShape }
    ? z.infer<z.ZodObject<Query>> & { dims: Record<string, string[]> }
    : undefined;

type NamesIn<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}` ? Name | NamesIn<Rest> : never;
/** The names in a route's path, such as id of `/threads/{id}`. */
export type PathOf<Name extends RouteName> = Record<NamesIn<Name>, string>;

/** All routes in one list. */
export const ROUTES: readonly (Route & { name: RouteName; method: string; path: string })[] = (
  Object.keys(routes) as RouteName[]
).map((name) => {
  const [method = '', path = ''] = name.split(' ');
  return { ...routes[name], name, method: method.toLowerCase(), path };
});
