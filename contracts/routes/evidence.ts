import { z } from 'zod';
import * as answers from '../answers/all';
import * as bodies from '../bodies/all';
import * as questions from '../questions';
import { scopeShape } from '../scope';
import { nothing, type Route } from './route';

/** What people keep of what they read: notes to samples, threads, signatures, the desk, and the record of all of it. */
export const evidenceRoutes = {
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
  'GET /expectations': {
    summary: 'What figures are expected to be, and whether they are',
    query: questions.evidenceShape,
    answer: answers.expectationsSchema,
  },
  'POST /expectations': {
    summary: 'Say what a figure should be, and why',
    body: bodies.newExpectationSchema,
    status: 201,
    answer: answers.expectationSchema,
  },
  'GET /expectations/{id}': { summary: 'One expectation', answer: answers.expectationSchema },
  'PUT /expectations/{id}': {
    summary: 'Change an expectation, or say what explains the difference',
    body: bodies.expectationChangeSchema,
    answer: answers.expectationSchema,
  },
  'DELETE /expectations/{id}': { summary: 'Take an expectation away', answer: nothing },
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
} as const satisfies Record<string, Route>;
