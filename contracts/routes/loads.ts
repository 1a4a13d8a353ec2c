import { z } from 'zod';
import * as answers from '../answers/all';
import * as bodies from '../bodies/all';
import * as questions from '../questions';
import { nothing, type Route } from './route';

/** What comes in and what goes out again: files, loads, sources, and the work under way on them. */
export const loadsRoutes = {
  'GET /loads': { summary: 'Loads, newest first', query: questions.loadListShape, answer: answers.loadListSchema },
  'POST /loads': {
    summary: 'Load a file',
    body: bodies.newLoadSchema,
    json: bodies.loadOfFileSchema,
    multipart: true,
    status: 202,
    answer: answers.madeSchema,
  },
  'POST /files': {
    summary: 'Send a file to be looked at before it is loaded',
    body: bodies.fileSchema,
    multipart: true,
    status: 201,
    answer: answers.inspectionSchema,
  },
  'POST /files/{digest}/inspection': {
    summary: 'What a file is, column by column, and what it would become',
    body: bodies.inspectionFieldsSchema,
    answer: answers.inspectionSchema,
  },
  'POST /files/{digest}/proposal': {
    summary: 'What a ledger could be made of this one file of lines',
    body: bodies.proposalFieldsSchema,
    answer: answers.ledgerProposalSchema,
  },
  'POST /ledgers': {
    summary: 'Begin a ledger with one file of lines: companies, charts, dimensions and the lines',
    body: bodies.beginLedgerSchema,
    status: 202,
    answer: answers.begunLedgerSchema,
  },
  'GET /guesses': { summary: 'What was guessed and nobody has confirmed yet', answer: answers.guessesSchema },
  'PUT /guesses/{entity}': {
    summary: 'Confirm what was guessed of a company',
    body: bodies.confirmGuessesSchema,
    answer: nothing,
  },
  'GET /mappings': { summary: 'Column mappings kept by name', answer: answers.mappingsSchema },
  'GET /schemas/{kind}': { summary: 'JSON Schema of a record of that kind', answer: z.unknown() },
  'GET /loads/{id}': { summary: 'One load: progress, totals, problems', answer: answers.loadSchema },
  'DELETE /loads/{id}': { summary: 'Cancel a load that waits or runs', answer: answers.loadSchema },
  'GET /loads/{id}/file': { summary: 'The file as it came', gives: 'file' },
  'GET /loads/{id}/problems': { summary: 'The problems of a load as CSV', gives: 'file' },
  'GET /loads/{id}/completeness': {
    summary: 'Entry numbers in sequence, gaps, reach, debits and credits, continuity',
    answer: answers.completenessSchema,
  },
  'GET /loads/compare': {
    summary: 'Lines added, changed and removed between two loads',
    query: questions.compareShape,
    answer: answers.comparisonSchema,
  },
  'GET /newest': { summary: 'The number of the newest load', answer: answers.newestSchema },
  'GET /export': {
    summary: 'Lines, accounts or dimensions in an open format',
    query: questions.exportShape,
    gives: 'file',
  },
  'GET /connections': { summary: 'Source ledgers that are pulled from', answer: answers.connectionsSchema },
  'POST /connections': {
    summary: 'Connect a source ledger',
    body: bodies.connectionSchema,
    status: 201,
    answer: answers.madeSchema,
  },
  'PUT /connections/{id}': {
    summary: 'Allow a source to lie in a private network, or no longer',
    body: bodies.connectionChangeSchema,
    answer: answers.connectionsSchema,
  },
  'DELETE /connections/{id}': { summary: 'Remove a connection', answer: nothing },
  'POST /connections/{id}/pull': { summary: 'Pull what is new', status: 202, answer: answers.connectionsSchema },
  'GET /jobs': {
    summary: 'Long work of all kinds: what waits, what is under way, what came of the rest',
    query: questions.loadListShape,
    answer: answers.jobsSchema,
  },
  'GET /jobs/{id}': { summary: 'One piece of long work', answer: answers.jobSchema },
  'DELETE /jobs/{id}': { summary: 'Ask it to stop', answer: answers.jobSchema },
} as const satisfies Record<string, Route>;
