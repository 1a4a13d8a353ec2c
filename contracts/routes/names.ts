import * as answers from '../answers/all';
import * as bodies from '../bodies/all';
import * as questions from '../questions';
import { scopeShape } from '../scope';
import { nothing, type Route } from './route';

/** What books are called and made of: companies, accounts, dimensions, parties; and how a reader has them shown. */
export const namesRoutes = {
  'GET /entities': {
    summary: 'Entities, calendars and dimensions that the viewer may see',
    answer: answers.entitiesSchema,
  },
  'POST /entities': {
    summary: 'Add an entity',
    body: bodies.newEntitySchema,
    status: 201,
    answer: answers.addedEntitySchema,
  },
  'GET /entities/{code}/cash-basis': {
    summary: 'Whether a company’s books are kept on the cash basis too, and which documents cannot be on it',
    answer: answers.cashBasisSchema,
  },
  'POST /entities/{code}/cash-basis': {
    summary: 'Have a company’s books kept on the cash basis too, from now on',
    status: 202,
    answer: answers.cashBasisAskedSchema,
  },
  'GET /accounts': {
    summary: 'The chart of one entity with every attribute and balances',
    query: scopeShape,
    answer: answers.chartSchema,
  },
  'PUT /accounts/{code}': { summary: 'Mend an account name', body: bodies.accountNameSchema, answer: nothing },
  'GET /dimensions': { summary: 'Dimension trees with movements', query: scopeShape, answer: answers.dimensionsSchema },
  'PUT /dimensions/{dimension}/{code}': {
    summary: 'Mend a member name',
    body: bodies.memberNameSchema,
    answer: nothing,
  },
  'GET /parties': {
    summary: 'Customers, suppliers and other parties, and which may be one and the same',
    answer: answers.partiesSchema,
  },
  'GET /parties/{code}': {
    summary:
      'The story of a customer or supplier: its documents by day with what was owed after each, held against the ledger',
    query: questions.partyShape,
    answer: answers.partyStorySchema,
  },
  'GET /calendars': { summary: 'Fiscal years and periods, and what they hold', answer: answers.calendarsSchema },
  'GET /holdings': {
    summary: 'Bank accounts and cash boxes with their ledger balances',
    query: scopeShape,
    answer: answers.holdingsSchema,
  },
  'PUT /holdings': { summary: 'Keep a bank account or cash box', body: bodies.holdingSchema, answer: nothing },
  'DELETE /holdings/{entity}/{number}': { summary: 'Take a holding out of the register', answer: nothing },
  'GET /marks': {
    summary: 'Rows that stand out, with their reasons',
    query: questions.marksShape,
    answer: answers.marksSchema,
  },
  'GET /settings/marks': { summary: 'What is marked as standing out', answer: bodies.markRulesSchema },
  'GET /settings/source-links': {
    summary: 'Where entries are found in their source ledgers',
    answer: answers.sourceLinksSchema,
  },
  'PUT /settings/source-links': {
    summary: 'Say where the entries of a company are found',
    body: bodies.sourceLinkSchema,
    answer: answers.sourceLinksSchema,
  },
  'GET /settings/ages': { summary: 'By which bands documents are aged', answer: bodies.ageBandsSchema },
  'PUT /settings/ages': {
    summary: 'Say by which bands documents are aged',
    body: bodies.ageBandsSchema,
    answer: bodies.ageBandsSchema,
  },
  'GET /settings/entry-origins': {
    summary: 'What numbers of entries tell of where they come from',
    answer: bodies.entryOriginsSchema,
  },
  'PUT /settings/entry-origins': {
    summary: 'Say what numbers of entries tell',
    body: bodies.entryOriginsSchema,
    answer: bodies.entryOriginsSchema,
  },
  'PUT /settings/marks': {
    summary: 'Set what is marked',
    body: bodies.markRulesSchema,
    answer: bodies.markRulesSchema,
  },
  'GET /columns': { summary: 'How the viewer has arranged the columns of each sheet', answer: answers.layoutsSchema },
  'PUT /columns/{sheet}': {
    summary: 'Arrange the columns of a sheet for oneself',
    body: bodies.columnLayoutSchema,
    answer: answers.sheetNameSchema,
  },
  'DELETE /columns/{sheet}': { summary: 'The columns of a sheet as they come', answer: answers.sheetNameSchema },
  'GET /scopes': {
    summary: 'Sentences kept by name: one’s own, and those that are shared',
    answer: answers.keptScopesSchema,
  },
  'POST /scopes': {
    summary: 'Keep a sentence by name',
    body: bodies.newKeptScopeSchema,
    status: 201,
    answer: answers.keptScopeSchema,
  },
  'PUT /scopes/{id}': {
    summary: 'Share a sentence, or open its place with it',
    body: bodies.keptScopeChangeSchema,
    answer: answers.keptScopeSchema,
  },
  'DELETE /scopes/{id}': { summary: 'Remove a sentence', answer: nothing },
  'GET /scopes/{id}/sharing': { summary: 'Who may do what with a kept sentence', answer: answers.sharingSchema },
  'PUT /scopes/{id}/sharing': {
    summary: 'Say who may do what with a kept sentence',
    body: bodies.sharingSchema,
    answer: answers.sharingSchema,
  },
} as const satisfies Record<string, Route>;
