import * as answers from '../answers/all';
import * as bodies from '../bodies/all';
import * as questions from '../questions';
import { scopeShape } from '../scope';
import { nothing, type Route } from './route';

/** What is read: sheets, statements, lines, entries, journals, documents, and what is found among all of it. */
export const readingRoutes = {
  'GET /search': {
    summary: 'Whatever a few words find, by kind, the best first',
    query: questions.searchShape,
    answer: answers.searchSchema,
  },
  'GET /journals': {
    summary: 'Entries in full, as a book is read: those that the lines of a scope are of',
    query: questions.journalShape,
    answer: answers.journalSchema,
  },
  'GET /journals/series': {
    summary: 'How the entries of a scope are numbered, and which numbers are missing',
    query: questions.seriesShape,
    answer: answers.seriesSchema,
  },
  'GET /documents': {
    summary: 'Documents of control accounts: what is open, how old, and the tie to the ledger',
    query: questions.openDocumentsShape,
    answer: answers.openDocumentsSchema,
  },
  'GET /unmatched-documents': {
    summary: 'What makes the difference between documents and their control accounts, item by item',
    query: questions.unmatchedShape,
    answer: answers.unmatchedDocumentsSchema,
  },
  'GET /commitments': {
    summary: 'Open orders behind a committed amount',
    query: questions.openOrdersShape,
    answer: answers.openOrdersSchema,
  },
  'GET /document-register': {
    summary: 'Every document of a company, booked or not, with how far it is; and those that are missing',
    query: questions.registerShape,
    answer: answers.documentRegisterSchema,
  },
  'GET /documents/{id}': {
    summary: 'A document, its chain, its open balance after each event',
    query: questions.documentShape,
    answer: answers.oneDocumentSchema,
  },
  'GET /trial-balance': {
    summary: 'Every account of a scope',
    query: questions.trialBalanceShape,
    answer: answers.trialBalanceSchema,
  },
  'GET /statements': {
    summary: 'The statements of an entity',
    query: questions.outlineShape,
    answer: answers.statementsSchema,
  },
  'GET /statements/{code}': {
    summary: 'A statement with values and guards',
    query: questions.statementShape,
    answer: answers.statementSchema,
  },
  'GET /statements/{code}/outline': {
    summary: 'The outline of a statement, with its versions',
    query: questions.outlineShape,
    answer: answers.keptOutlineSchema,
  },
  'PUT /statements/{code}/outline': {
    summary: 'Keep an outline as a new version',
    body: bodies.keptOutlineSchema,
    answer: answers.outlineVersionSchema,
  },
  'DELETE /statements/{code}/outline': {
    summary: 'Remove an outline',
    query: questions.outlineShape,
    answer: nothing,
  },
  'GET /sheets': {
    summary: 'A figure split by anything',
    query: questions.sheetShape,
    answer: answers.splitSheetSchema,
  },
  'GET /sentence': {
    summary: 'A question in words, without its answer',
    query: scopeShape,
    answer: answers.sentenceSchema,
  },
  'GET /totals': { summary: 'A figure as one row', query: questions.totalsShape, answer: answers.totalsSchema },
  'POST /figures': {
    summary: 'Many figures at once, each under the grant of who asks',
    body: bodies.figuresSchema,
    answer: answers.figuresSchema,
  },
  'POST /answers': {
    summary: 'What a screen asks for beside each other: JSON lines, each an answer as soon as it is there',
    body: bodies.askedTogetherSchema,
    gives: 'file',
  },
  'GET /lines': {
    summary: 'The lines of a figure with running balance',
    query: questions.linesShape,
    answer: answers.linesPageSchema,
  },
  'GET /lines/find': {
    summary: 'In which row of a ledger the next line with some words is',
    query: questions.findLineShape,
    answer: answers.foundLineSchema,
  },
  'GET /entries/{id}': {
    summary: 'A journal entry with all its lines',
    query: questions.entryShape,
    answer: answers.entrySchema,
  },
  'GET /other-side': {
    summary: 'Where the other half of the entries went',
    query: scopeShape,
    answer: answers.otherSideSchema,
  },
  'GET /over-time': {
    summary: 'A figure by period, with the year before and what is usual',
    query: questions.overTimeShape,
    answer: answers.overTimeSchema,
  },
  'GET /what-moved': {
    summary: 'What explains the change of a figure, over every dimension at once',
    query: questions.whatMovedShape,
    answer: answers.whatMovedSchema,
  },
  'GET /budgets': {
    summary: 'Versions of budgets of some entities by fiscal year',
    query: questions.budgetsShape,
    answer: answers.budgetListSchema,
  },
  'POST /budgets': {
    summary: 'A new version from another',
    body: bodies.budgetCopySchema,
    status: 202,
    answer: answers.madeSchema,
  },
  'GET /budgets/{version}': {
    summary: 'A version as it is written, for one unit',
    query: questions.budgetShape,
    answer: answers.budgetAnswerSchema,
  },
  'PUT /budgets/{version}': {
    summary: 'Keep cells of a version, as a load',
    body: bodies.budgetEditSchema,
    status: 202,
    answer: answers.madeSchema,
  },
} as const satisfies Record<string, Route>;
