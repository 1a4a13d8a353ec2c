import * as answers from '../answers/all';
import * as bodies from '../bodies/all';
import * as questions from '../questions';
import { nothing, type Route } from './route';

/** What should be booked, what it does, and what of it is material. */
export const proposalRoutes = {
  'GET /proposed-entries': {
    summary: 'Entries that are proposed, of what the viewer may see',
    query: questions.proposedShape,
    answer: answers.proposedListSchema,
  },
  'POST /proposed-entries': {
    summary: 'Propose an entry',
    body: bodies.newProposedSchema,
    status: 201,
    answer: answers.proposedSchema,
  },
  'POST /proposed-entries/draft': {
    summary: 'Lines as they would be proposed: moved, taken back, spread or split; nothing is kept',
    body: bodies.draftedSchema,
    answer: answers.draftSchema,
  },
  'POST /proposed-entries/move': {
    summary: 'Propose lines, or all lines of a figure, where they belong',
    body: bodies.movedEntrySchema,
    status: 201,
    answer: answers.proposedSchema,
  },
  'POST /proposed-entries/table': {
    summary: 'Many entries from a table: its columns, what stands against each row; with keep they are proposed',
    body: bodies.proposedTableSchema,
    answer: answers.proposedTableAnswerSchema,
  },
  'POST /proposed-entries/effect': {
    summary: 'What an entry would do to statements and results, before it is kept',
    body: bodies.draftEffectSchema,
    answer: answers.proposedEffectSchema,
  },
  'GET /proposed-entries/effect': {
    summary: 'What proposed entries do to statements and results',
    query: questions.proposedEffectShape,
    answer: answers.proposedEffectSchema,
  },
  'GET /proposed-entries/export': {
    summary: 'Approved entries as a file for the ledger to book',
    query: questions.handOverShape,
    gives: 'file',
  },
  'GET /proposed-entries/{id}': { summary: 'One proposed entry', answer: answers.proposedSchema },
  'GET /proposed-entries/{id}/rests-on': {
    summary: 'What was kept, and found by tests, about what a proposed entry goes back to',
    answer: answers.restsOnSchema,
  },
  'PUT /proposed-entries/{id}': {
    summary: 'Change a proposed entry, approve it, leave it uncorrected, or take it back',
    body: bodies.proposedChangeSchema,
    answer: answers.proposedSchema,
  },
  'GET /proposed-sets': { summary: 'Sets of proposed entries', answer: answers.proposedSetsSchema },
  'POST /proposed-sets': {
    summary: 'Make a set of proposed entries, that counts where it is named',
    body: bodies.newSetSchema,
    status: 201,
    answer: answers.proposedSetsSchema,
  },
  'GET /proposed-templates': { summary: 'Templates of recurring entries', answer: answers.templatesSchema },
  'POST /proposed-templates': {
    summary: 'Keep a template of a recurring entry',
    body: bodies.templateSchema,
    status: 201,
    answer: answers.templatesSchema,
  },
  'DELETE /proposed-templates/{id}': { summary: 'Take a template away', answer: nothing },
  'POST /proposed-templates/{id}/draft': {
    summary: 'The entry of a template for a day, its amounts worked out',
    body: bodies.filledSchema,
    answer: answers.draftSchema,
  },
  'GET /materiality': {
    summary: 'What is material, with what was said before',
    query: questions.materialityShape,
    answer: answers.materialitiesSchema,
  },
  'PUT /materiality': {
    summary: 'Say what is material of a company, or of the group, in a year',
    body: bodies.materialitySchema,
    answer: answers.materialitiesSchema,
  },
  'GET /misstatements': {
    summary: 'Misstatements of a company, corrected and not, against what is material',
    query: questions.misstatementsShape,
    answer: answers.misstatementsSchema,
  },
} satisfies Record<string, Route>;
