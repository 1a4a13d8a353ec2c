import { z } from 'zod';
import * as answers from './answers/all';
import * as bodies from './bodies';
import * as questions from './questions';
import { scopeShape } from './scope';

/** A route: what it may be asked, and what it answers. */
export interface Route {
  summary: string;
  query?: z.ZodRawShape;
  body?: z.ZodType;
  multipart?: boolean;
  /** Beside a form with a file, a body that names a file that was sent before. */
  json?: z.ZodType;
  /** Of an answer that is no problem; 200 if absent. */
  status?: number;
  /** The JSON that it answers. */
  answer?: z.ZodType;
  /** It answers a file instead of JSON. */
  /** What it gives that is no JSON: a file, or the way to a page. */
  gives?: 'file' | 'page';
}

/** A change that has nothing to tell but that it is done. */
const nothing = z.null();

/**
 * Every route of `/api/v1`: its method and path, what it may be asked, and what it answers. Requests are checked with
 * these schemas, answers are typed and in tests parsed with them, the screens have their types from them, and the
 * OpenAPI document is made of them.
 */
export const routes = {
  'GET /health': { summary: 'Whether the application and its database are there', answer: answers.healthSchema },
  'GET /session': { summary: 'Who is signed in', answer: answers.viewerSchema },
  'POST /session': { summary: 'Sign in', body: bodies.signInSchema, answer: answers.okSchema },
  'GET /session/provider/begin': { summary: 'To the sign-in of the organisation', gives: 'page' },
  'GET /session/provider/return': { summary: 'Back from the sign-in of the organisation', gives: 'page' },
  'DELETE /session': { summary: 'Sign out', answer: answers.okSchema },
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
  'GET /search': {
    summary: 'Whatever a few words find, by kind, the best first',
    query: questions.searchShape,
    answer: answers.searchSchema,
  },
  'GET /newest': { summary: 'The number of the newest load', answer: answers.newestSchema },
  'GET /export': {
    summary: 'Lines, accounts or dimensions in an open format',
    query: questions.exportShape,
    gives: 'file',
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
  'GET /attachments': {
    summary: 'Files attached as evidence',
    query: questions.evidenceShape,
    answer: answers.evidenceFilesSchema,
  },
  'POST /attachments': {
    summary: 'Attach a file to a figure, a line, an entry, a document or something written',
    body: bodies.attachmentSchema,
    multipart: true,
    status: 201,
    answer: answers.fileSchema,
  },
  'DELETE /attachments/{digest}': {
    summary: 'Take a file away from what it is attached to, by the number of its attachment',
    answer: nothing,
  },
  'GET /attachments/{digest}/contents': {
    summary: 'What a spreadsheet, a letter or a mail that was attached holds, as plain rows and words',
    answer: answers.fileContentsSchema,
  },
  'GET /attachments/{digest}': { summary: 'A file attached to a document', gives: 'file' },
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
  'GET /notes': {
    summary: 'Notes on what the viewer may see',
    query: questions.evidenceShape,
    answer: answers.notesSchema,
  },
  'POST /notes': { summary: 'Write a note', body: bodies.newNoteSchema, status: 201, answer: answers.noteSchema },
  'DELETE /notes/{id}': { summary: 'Remove a note', answer: nothing },
  'PUT /notes/{id}': {
    summary: 'Change a note; with nothing in it, bring one back that was taken away',
    body: bodies.noteChangeSchema,
    answer: answers.noteSchema,
  },
  'DELETE /people/{id}/identity': {
    summary: 'Let somebody be known anew by the sign-in of the organisation',
    answer: nothing,
  },
  'GET /samples': { summary: 'Audit samples', query: questions.evidenceShape, answer: answers.samplesSchema },
  'POST /samples': {
    summary: 'Draw an audit sample of a figure’s lines, entries or documents',
    body: bodies.newSampleSchema,
    status: 201,
    answer: answers.sampleSchema,
  },
  'POST /samples/plan': {
    summary: 'What would be drawn, and how it is reckoned; nothing is kept',
    body: bodies.newSampleSchema,
    answer: answers.samplePlanSchema,
  },
  'GET /samples/{id}': { summary: 'A sample with its items and what was found', answer: answers.sampleSchema },
  'PUT /samples/{id}': {
    summary: 'Change what a sample is called, what is looked for, what is concluded',
    body: bodies.sampleChangeSchema,
    answer: answers.sampleSchema,
  },
  'DELETE /samples/{id}': { summary: 'Take a sample away', answer: nothing },
  'PUT /samples/{id}/items': {
    summary: 'Write down what was found of an item, or of several',
    body: bodies.testedItemsSchema,
    answer: answers.sampleSchema,
  },
  'POST /samples/{id}/items': {
    summary: 'Take another item in the place of one, and say why',
    body: bodies.replacedItemSchema,
    status: 201,
    answer: answers.sampleSchema,
  },
  'GET /samples/{id}/evaluation': {
    summary: 'What a sample tells of the whole: projection and upper limit',
    answer: answers.evaluationSchema,
  },
  'GET /samples/{id}/redraw': { summary: 'Whether its seed draws the same again', answer: answers.redrawnSchema },
  'GET /samples/{id}/table': { summary: 'The items of a sample as CSV, to be worked at elsewhere', gives: 'file' },
  'GET /threads/{id}/sharing': { summary: 'Who may do what with a thread', answer: answers.sharingSchema },
  'PUT /threads/{id}/sharing': {
    summary: 'Say who may do what with a thread',
    body: bodies.sharingSchema,
    answer: answers.sharingSchema,
  },
  'GET /scopes/{id}/sharing': { summary: 'Who may do what with a kept sentence', answer: answers.sharingSchema },
  'PUT /scopes/{id}/sharing': {
    summary: 'Say who may do what with a kept sentence',
    body: bodies.sharingSchema,
    answer: answers.sharingSchema,
  },
  'GET /tick-marks': { summary: 'The legend of tick marks', answer: answers.tickMarksAnswerSchema },
  'PUT /tick-marks': {
    summary: 'Change the legend of tick marks',
    body: bodies.tickMarksSchema,
    answer: answers.tickMarksAnswerSchema,
  },
  'GET /ticks': {
    summary: 'Ticks, with whether what they stand on has moved',
    query: questions.evidenceShape,
    answer: answers.ticksSchema,
  },
  'POST /ticks': {
    summary: 'Tick figures, lines, entries or documents, all at once',
    body: bodies.newTicksSchema,
    status: 201,
    answer: answers.newTicksAnswerSchema,
  },
  'DELETE /ticks/{id}': { summary: 'Take a tick away', answer: nothing },
  'GET /ticks/share': {
    summary: 'How many of a figure’s lines are ticked, and how much of their amount',
    query: scopeShape,
    answer: answers.tickedSchema,
  },
  'GET /review-points': {
    summary: 'Review points, with what was answered',
    query: questions.openWorkShape,
    answer: answers.pointsSchema,
  },
  'POST /review-points': {
    summary: 'Raise a review point',
    body: bodies.newPointSchema,
    status: 201,
    answer: answers.pointSchema,
  },
  'PUT /review-points/{id}': {
    summary: 'Answer a review point, clear it, or open it again',
    body: bodies.pointChangeSchema,
    answer: answers.pointSchema,
  },
  'GET /questions': {
    summary: 'Questions to and from colleagues',
    query: questions.openWorkShape,
    answer: answers.questionsSchema,
  },
  'POST /questions': {
    summary: 'Ask a colleague',
    body: bodies.newQuestionSchema,
    status: 201,
    answer: answers.questionSchema,
  },
  'GET /questions/{id}': { summary: 'A question with its answers', answer: answers.questionSchema },
  'POST /questions/{id}/answers': {
    summary: 'Answer a question',
    body: bodies.answerSchema,
    status: 201,
    answer: answers.questionSchema,
  },
  'GET /findings': {
    summary: 'Findings, and what they come to',
    query: questions.openWorkShape,
    answer: answers.findingsSchema,
  },
  'POST /findings': {
    summary: 'Write down what was found',
    body: bodies.newFindingSchema,
    status: 201,
    answer: answers.findingSchema,
  },
  'GET /findings/{id}': { summary: 'One finding', answer: answers.findingSchema },
  'PUT /findings/{id}': {
    summary: 'Change a finding',
    body: bodies.findingChangeSchema,
    answer: answers.findingSchema,
  },
  'GET /desk': {
    summary: 'What waits for the viewer, and what moved since they last looked',
    answer: answers.deskSchema,
  },
  'POST /desk/seen': {
    summary: 'What was seen: a mention, or all that moved',
    body: bodies.deskSeenSchema,
    answer: nothing,
  },
  'GET /completeness': {
    summary: 'Which rows of a statement have a signed thread, one under way, or none',
    query: { ...scopeShape, statement: questions.statementCode, above: questions.aboveAmount },
    answer: answers.workDoneSchema,
  },
  'GET /history': {
    summary: 'What was done to a figure, a line, an entry or a document, and who looked at it',
    query: { subject: z.string().min(1).max(6_000) },
    answer: answers.historySchema,
  },
  'GET /colleagues': { summary: 'Whom one can speak to', answer: answers.colleaguesSchema },
  'GET /pins': { summary: 'Pins, fresh or drifted', query: questions.evidenceShape, answer: answers.pinsSchema },
  'POST /pins': {
    summary: 'Pin a figure, line or entry',
    body: bodies.newPinSchema,
    status: 201,
    answer: answers.pinSchema,
  },
  'GET /pins/{id}': { summary: 'One pin with what moved since', answer: answers.pinSchema },
  'DELETE /pins/{id}': { summary: 'Remove a pin', answer: nothing },
  'GET /cross-references': {
    summary: 'Pins that are held against each other',
    query: questions.evidenceShape,
    answer: answers.crossReferencesSchema,
  },
  'POST /cross-references': {
    summary: 'Hold two pins against each other from now on',
    body: bodies.newCrossReferenceSchema,
    status: 201,
    answer: answers.crossReferenceSchema,
  },
  'DELETE /cross-references/{id}': { summary: 'Let two pins go', answer: nothing },
  'GET /threads': { summary: 'Saved threads', answer: answers.threadsSchema },
  'POST /threads': {
    summary: 'Save a thread',
    body: bodies.newThreadSchema,
    status: 201,
    answer: answers.keptWaySchema,
  },
  'GET /threads/{id}': {
    summary: 'A thread: its steps with their figures then and now',
    answer: answers.savedThreadSchema,
  },
  'PUT /threads/{id}': {
    summary: 'Change what a thread says: its name, reference, purpose, conclusion, folder',
    body: bodies.threadChangeSchema,
    answer: answers.savedThreadSchema,
  },
  'DELETE /threads/{id}': { summary: 'Remove a thread', answer: nothing },
  'POST /threads/{id}/sign-offs': {
    summary: 'Sign a thread as its preparer or its reviewer',
    body: bodies.signOffSchema,
    status: 201,
    answer: answers.savedThreadSchema,
  },
  'GET /threads/{id}/sign-offs/{signOff}': {
    summary: 'A thread as it was when it was signed',
    answer: answers.signedContentSchema,
  },
  'POST /threads/{id}/reopen': {
    summary: 'Open a signed thread again, and say why',
    body: bodies.reopenSchema,
    answer: answers.savedThreadSchema,
  },
  'POST /threads/{id}/evidence': {
    summary: 'Gather evidence that is there in a thread',
    body: bodies.gatherSchema,
    answer: answers.savedThreadSchema,
  },
  'POST /threads/roll-forward': {
    summary: 'Begin the threads of another window from these',
    body: bodies.rollForwardSchema,
    status: 201,
    answer: answers.rolledForwardSchema,
  },
  'POST /threads/{id}/steps': {
    summary: 'Add a way; what it shares with the thread is not added twice',
    body: bodies.moreStepsSchema,
    answer: answers.keptWaySchema,
  },
  'PUT /threads/{id}/steps/{step}': {
    summary: 'Rename or annotate a step',
    body: bodies.stepChangeSchema,
    answer: answers.savedThreadSchema,
  },
  'DELETE /threads/{id}/steps/{step}': {
    summary: 'Remove a step, with all below it',
    answer: answers.savedThreadSchema,
  },
  'GET /threads/{id}/replay': {
    summary: 'The same steps for another window, unit, entity or load',
    query: questions.replayShape,
    answer: answers.replayedSchema,
  },
  'GET /threads/{id}/fan-out': {
    summary: 'The figures of a thread for every member that has postings',
    query: questions.fanOutShape,
    answer: answers.fannedOutSchema,
  },
  'GET /people': { summary: 'People of the installation', answer: answers.peopleSchema },
  'POST /people': {
    summary: 'Add a person; without a password a link with which they choose it',
    body: bodies.newPersonSchema,
    status: 201,
    answer: answers.addedPersonSchema,
  },
  'GET /second-factor': { summary: 'Whether one has a second factor, and must', answer: answers.secondFactorSchema },
  'POST /second-factor': {
    summary: 'Begin a second factor of one’s own (RFC 6238)',
    status: 201,
    answer: answers.begunFactorSchema,
  },
  'PUT /second-factor': {
    summary: 'Confirm one’s second factor by a code, or take it away',
    body: bodies.secondFactorChangeSchema,
    answer: nothing,
  },
  'DELETE /people/{id}/second-factor': { summary: 'Take somebody’s second factor away', answer: nothing },
  'GET /settings/second-factor': {
    summary: 'Of whom a second factor is required',
    answer: answers.secondFactorRuleAnswerSchema,
  },
  'PUT /settings/second-factor': {
    summary: 'Say of whom a second factor is required',
    body: bodies.secondFactorRuleSchema,
    answer: answers.secondFactorRuleAnswerSchema,
  },
  'POST /people/see-as': {
    summary: 'What somebody would see with a grant, before it is given',
    body: bodies.seeAsSchema,
    answer: answers.seenAsSchema,
  },
  'PUT /people/{id}': {
    summary: 'Change what a person may do and see, suspend them or let them in again',
    body: bodies.personChangeSchema,
    answer: answers.personSchema,
  },
  'DELETE /people/{id}': { summary: 'Remove a person; what they wrote stays theirs', answer: nothing },
  'POST /people/{id}/reset': {
    summary: 'A link with which the person chooses a new password, once',
    status: 201,
    answer: answers.resetLinkSchema,
  },
  'GET /people/{id}/sessions': {
    summary: 'Where somebody is signed in; {id} may be me',
    answer: answers.sessionsSchema,
  },
  'DELETE /people/{id}/sessions': { summary: 'End all sessions but the one that asks', answer: answers.sessionsSchema },
  'DELETE /people/{id}/sessions/{session}': { summary: 'End a session', answer: answers.sessionsSchema },
  'GET /people/{id}/tokens': {
    summary: 'Tokens with which scripts act as somebody; {id} may be me',
    answer: answers.tokensSchema,
  },
  'POST /people/{id}/tokens': {
    summary: 'Make a token for oneself; it is shown once',
    body: bodies.newTokenSchema,
    status: 201,
    answer: answers.newTokenSchema,
  },
  'DELETE /people/{id}/tokens': { summary: 'Revoke all tokens', answer: answers.tokensSchema },
  'DELETE /people/{id}/tokens/{token}': { summary: 'Revoke a token', answer: answers.tokensSchema },
  'PUT /password': { summary: 'Change one’s own password', body: bodies.passwordChangeSchema, answer: nothing },
  'POST /first-owner': {
    summary: 'Make the first owner of an installation that has nobody, by the code that the start command prints',
    body: bodies.firstOwnerSchema,
    answer: answers.okSchema,
  },
  'POST /password': {
    summary: 'Choose a password by a link that an owner made',
    body: bodies.resetSchema,
    answer: answers.okSchema,
  },
  'GET /jobs': {
    summary: 'Long work of all kinds: what waits, what is under way, what came of the rest',
    query: questions.loadListShape,
    answer: answers.jobsSchema,
  },
  'GET /jobs/{id}': { summary: 'One piece of long work', answer: answers.jobSchema },
  'DELETE /jobs/{id}': { summary: 'Ask it to stop', answer: answers.jobSchema },
  'GET /record': {
    summary: 'Who did what, newest first',
    query: questions.recordShape,
    answer: answers.recordAnswerSchema,
  },
  'GET /record/table': {
    summary: 'All that is asked of the record, as CSV',
    query: questions.recordShape,
    gives: 'file',
  },
  'GET /record/check': { summary: 'Whether the chain of the record holds', answer: answers.recordCheckSchema },
  'GET /openapi.json': { summary: 'This document', answer: z.unknown() },
} as const satisfies Record<string, Route>;

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
