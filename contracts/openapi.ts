import { z } from 'zod';
import * as bodies from './bodies';
import * as questions from './questions';
import { scopeShape } from './scope';

interface Route {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  summary: string;
  query?: z.ZodRawShape;
  body?: z.ZodType;
  multipart?: boolean;
  status?: number;
}

/** Every route, with what it may be asked: the document is made from the same schemas that check requests. */
export const ROUTES: readonly Route[] = [
  { method: 'get', path: '/health', summary: 'Whether the application and its database are there' },
  { method: 'get', path: '/session', summary: 'Who is signed in' },
  { method: 'post', path: '/session', summary: 'Sign in', body: bodies.signInSchema },
  { method: 'delete', path: '/session', summary: 'Sign out' },
  { method: 'get', path: '/entities', summary: 'Entities, calendars and dimensions that the viewer may see' },
  { method: 'post', path: '/entities', summary: 'Add an entity', body: bodies.newEntitySchema, status: 201 },
  { method: 'get', path: '/loads', summary: 'Loads, newest first', query: questions.loadListShape },
  { method: 'post', path: '/loads', summary: 'Load a file', body: bodies.newLoadSchema, multipart: true, status: 202 },
  {
    method: 'post',
    path: '/files',
    summary: 'Send a file to be looked at before it is loaded',
    body: bodies.fileSchema,
    multipart: true,
    status: 201,
  },
  {
    method: 'post',
    path: '/files/{digest}/inspection',
    summary: 'What a file is, column by column, and what it would become',
    body: bodies.inspectionSchema,
  },
  { method: 'get', path: '/mappings', summary: 'Column mappings kept by name' },
  { method: 'get', path: '/schemas/{kind}', summary: 'JSON Schema of a record of that kind' },
  { method: 'get', path: '/loads/{id}', summary: 'One load: progress, totals, problems' },
  { method: 'delete', path: '/loads/{id}', summary: 'Cancel a load that waits or runs' },
  { method: 'get', path: '/loads/{id}/file', summary: 'The file as it came' },
  { method: 'get', path: '/loads/{id}/problems', summary: 'The problems of a load as CSV' },
  {
    method: 'get',
    path: '/loads/{id}/completeness',
    summary: 'Entry numbers in sequence, gaps, reach, debits and credits, continuity',
  },
  {
    method: 'get',
    path: '/loads/compare',
    summary: 'Lines added, changed and removed between two loads',
    query: questions.compareShape,
  },
  { method: 'get', path: '/newest', summary: 'The number of the newest load' },
  {
    method: 'get',
    path: '/export',
    summary: 'Lines, accounts or dimensions in an open format',
    query: questions.exportShape,
  },
  {
    method: 'get',
    path: '/accounts',
    summary: 'The chart of one entity with every attribute and balances',
    query: scopeShape,
  },
  { method: 'put', path: '/accounts/{code}', summary: 'Mend an account name', body: bodies.accountNameSchema },
  { method: 'get', path: '/dimensions', summary: 'Dimension trees with movements', query: scopeShape },
  {
    method: 'put',
    path: '/dimensions/{dimension}/{code}',
    summary: 'Mend a member name',
    body: bodies.memberNameSchema,
  },
  { method: 'get', path: '/calendars', summary: 'Fiscal years and periods, and what they hold' },
  {
    method: 'get',
    path: '/holdings',
    summary: 'Bank accounts and cash boxes with their ledger balances',
    query: scopeShape,
  },
  { method: 'put', path: '/holdings', summary: 'Keep a bank account or cash box', body: bodies.holdingSchema },
  { method: 'delete', path: '/holdings/{entity}/{number}', summary: 'Take a holding out of the register' },
  { method: 'get', path: '/connections', summary: 'Source ledgers that are pulled from' },
  {
    method: 'post',
    path: '/connections',
    summary: 'Connect a source ledger',
    body: bodies.connectionSchema,
    status: 201,
  },
  {
    method: 'put',
    path: '/connections/{id}',
    summary: 'Allow a source to lie in a private network, or no longer',
    body: bodies.connectionChangeSchema,
  },
  { method: 'delete', path: '/connections/{id}', summary: 'Take a connection away' },
  { method: 'post', path: '/connections/{id}/pull', summary: 'Pull what is new', status: 202 },
  {
    method: 'get',
    path: '/documents',
    summary: 'Documents of control accounts: what is open, how old, and the tie to the ledger',
    query: questions.openDocumentsShape,
  },
  {
    method: 'get',
    path: '/documents/{id}',
    summary: 'A document, its chain, its open balance after each event',
    query: questions.documentShape,
  },
  { method: 'get', path: '/attachments/{digest}', summary: 'A file attached to a document' },
  { method: 'get', path: '/trial-balance', summary: 'Every account of a scope', query: questions.trialBalanceShape },
  { method: 'get', path: '/statements', summary: 'The statements of an entity', query: questions.outlineShape },
  {
    method: 'get',
    path: '/statements/{code}',
    summary: 'A statement with values and guards',
    query: questions.statementShape,
  },
  {
    method: 'get',
    path: '/statements/{code}/outline',
    summary: 'The outline of a statement, with its versions',
    query: questions.outlineShape,
  },
  {
    method: 'put',
    path: '/statements/{code}/outline',
    summary: 'Keep an outline as a new version',
    body: bodies.keptOutlineSchema,
  },
  {
    method: 'delete',
    path: '/statements/{code}/outline',
    summary: 'Take an outline away',
    query: questions.outlineShape,
  },
  { method: 'get', path: '/sheets', summary: 'A figure split by anything', query: questions.sheetShape },
  { method: 'get', path: '/sentence', summary: 'A question in words, without its answer', query: scopeShape },
  { method: 'get', path: '/totals', summary: 'A figure as one row', query: questions.totalsShape },
  { method: 'get', path: '/lines', summary: 'The lines of a figure with running balance', query: questions.linesShape },
  { method: 'get', path: '/entries/{id}', summary: 'A journal entry with all its lines', query: questions.entryShape },
  { method: 'get', path: '/other-side', summary: 'Where the other half of the entries went', query: scopeShape },
  { method: 'get', path: '/marks', summary: 'Rows that stand out, with their reasons', query: questions.marksShape },
  { method: 'get', path: '/settings/marks', summary: 'What is marked as standing out' },
  { method: 'get', path: '/settings/source-links', summary: 'Where entries are found in their source ledgers' },
  {
    method: 'put',
    path: '/settings/source-links',
    summary: 'Say where the entries of a company are found',
    body: bodies.sourceLinkSchema,
  },
  { method: 'put', path: '/settings/marks', summary: 'Set what is marked', body: bodies.markRulesSchema },
  {
    method: 'get',
    path: '/over-time',
    summary: 'A figure by period, with the year before and what is usual',
    query: questions.overTimeShape,
  },
  {
    method: 'get',
    path: '/what-moved',
    summary: 'What explains the change of a figure, over every dimension at once',
    query: questions.whatMovedShape,
  },
  { method: 'get', path: '/columns', summary: 'How the viewer has arranged the columns of each sheet' },
  {
    method: 'put',
    path: '/columns/{sheet}',
    summary: 'Arrange the columns of a sheet for oneself',
    body: bodies.columnLayoutSchema,
  },
  { method: 'delete', path: '/columns/{sheet}', summary: 'The columns of a sheet as they come' },
  { method: 'get', path: '/scopes', summary: 'Sentences kept by name: one’s own, and those that are shared' },
  { method: 'post', path: '/scopes', summary: 'Keep a sentence by name', body: bodies.newKeptScopeSchema, status: 201 },
  {
    method: 'put',
    path: '/scopes/{id}',
    summary: 'Share a sentence, or open its place with it',
    body: bodies.keptScopeChangeSchema,
  },
  { method: 'delete', path: '/scopes/{id}', summary: 'Take a sentence away' },
  {
    method: 'get',
    path: '/budgets',
    summary: 'Versions of budgets of some entities by fiscal year',
    query: questions.budgetsShape,
  },
  {
    method: 'post',
    path: '/budgets',
    summary: 'A new version from another',
    body: bodies.budgetCopySchema,
    status: 202,
  },
  {
    method: 'get',
    path: '/budgets/{version}',
    summary: 'A version as it is written, for one unit',
    query: questions.budgetShape,
  },
  {
    method: 'put',
    path: '/budgets/{version}',
    summary: 'Keep cells of a version, as a load',
    body: bodies.budgetEditSchema,
    status: 202,
  },
  { method: 'get', path: '/notes', summary: 'Notes on what the viewer may see', query: questions.evidenceShape },
  { method: 'post', path: '/notes', summary: 'Write a note', body: bodies.newNoteSchema, status: 201 },
  { method: 'delete', path: '/notes/{id}', summary: 'Take a note away' },
  { method: 'put', path: '/notes/{id}', summary: 'Bring a note back' },
  { method: 'get', path: '/pins', summary: 'Pins, fresh or drifted', query: questions.evidenceShape },
  { method: 'post', path: '/pins', summary: 'Pin a figure, line or entry', body: bodies.newPinSchema, status: 201 },
  { method: 'get', path: '/pins/{id}', summary: 'One pin with what moved since' },
  { method: 'delete', path: '/pins/{id}', summary: 'Take a pin away' },
  { method: 'get', path: '/threads', summary: 'Saved threads' },
  { method: 'post', path: '/threads', summary: 'Save a thread', body: bodies.newThreadSchema, status: 201 },
  { method: 'get', path: '/threads/{id}', summary: 'A thread: its steps with their figures then and now' },
  {
    method: 'put',
    path: '/threads/{id}',
    summary: 'Rename a thread, conclude it or open it again',
    body: bodies.threadChangeSchema,
  },
  { method: 'delete', path: '/threads/{id}', summary: 'Take a thread away' },
  {
    method: 'post',
    path: '/threads/{id}/steps',
    summary: 'Add a way; what it shares with the thread is not added twice',
    body: bodies.moreStepsSchema,
  },
  {
    method: 'put',
    path: '/threads/{id}/steps/{step}',
    summary: 'Rename or annotate a step',
    body: bodies.stepChangeSchema,
  },
  { method: 'delete', path: '/threads/{id}/steps/{step}', summary: 'Take a step away, with all below it' },
  {
    method: 'get',
    path: '/threads/{id}/replay',
    summary: 'The same steps for another window, unit, entity or load',
    query: questions.replayShape,
  },
  {
    method: 'get',
    path: '/threads/{id}/fan-out',
    summary: 'The figures of a thread for every member that has postings',
    query: questions.fanOutShape,
  },
  { method: 'get', path: '/people', summary: 'People of the installation' },
  {
    method: 'post',
    path: '/people',
    summary: 'Add a person; without a password a link with which they choose it',
    body: bodies.newPersonSchema,
    status: 201,
  },
  {
    method: 'put',
    path: '/people/{id}',
    summary: 'Change what a person may do and see, suspend them or let them in again',
    body: bodies.personChangeSchema,
  },
  { method: 'delete', path: '/people/{id}', summary: 'Take a person away; what they wrote stays theirs' },
  {
    method: 'post',
    path: '/people/{id}/reset',
    summary: 'A link with which the person chooses a new password, once',
    status: 201,
  },
  { method: 'get', path: '/people/{id}/sessions', summary: 'Where somebody is signed in; {id} may be me' },
  { method: 'delete', path: '/people/{id}/sessions', summary: 'End all sessions but the one that asks' },
  { method: 'delete', path: '/people/{id}/sessions/{session}', summary: 'End a session' },
  { method: 'get', path: '/people/{id}/tokens', summary: 'Tokens with which scripts act as somebody; {id} may be me' },
  {
    method: 'post',
    path: '/people/{id}/tokens',
    summary: 'Make a token for oneself; it is shown once',
    body: bodies.newTokenSchema,
    status: 201,
  },
  { method: 'delete', path: '/people/{id}/tokens', summary: 'Revoke all tokens' },
  { method: 'delete', path: '/people/{id}/tokens/{token}', summary: 'Revoke a token' },
  { method: 'put', path: '/password', summary: 'Change one’s own password', body: bodies.passwordChangeSchema },
  {
    method: 'post',
    path: '/password',
    summary: 'Choose a password by a link that an owner made',
    body: bodies.resetSchema,
  },
  {
    method: 'get',
    path: '/jobs',
    summary: 'Long work of all kinds: what waits, what is under way, what came of the rest',
    query: questions.loadListShape,
  },
  { method: 'get', path: '/jobs/{id}', summary: 'One piece of long work' },
  { method: 'delete', path: '/jobs/{id}', summary: 'Ask it to stop' },
  { method: 'get', path: '/record', summary: 'Who did what, newest first', query: questions.recordShape },
  { method: 'get', path: '/record/check', summary: 'Whether the chain of the record holds' },
  { method: 'get', path: '/openapi.json', summary: 'This document' },
];

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

function operation(route: Route) {
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
    ...(route.body ? { requestBody: { required: true, content: { [media]: { schema: bodySchema(route) } } } } : {}),
    responses: {
      [route.status ?? 200]: { description: 'The answer', content: { 'application/json': {} } },
      default: {
        description: 'A problem (RFC 9457)',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
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

function jsonSchema(schema: z.ZodType): Record<string, unknown> {
  const { $schema: _dialect, ...rest } = z.toJSONSchema(schema, { unrepresentable: 'any', io: 'input' }) as Record<
    string,
    unknown
  >;
  return rest;
}
