import { z } from 'zod';
import * as answers from '../answers/all';
import * as bodies from '../bodies/all';
import * as questions from '../questions';
import { nothing, type Route } from './route';

/** Tests for what is unusual in a ledger: what they are, their runs, and what is said of what they found. */
export const testsRoutes = {
  'GET /tests': { summary: 'The tests for what is unusual, with their settings', answer: answers.testsSchema },
  'PUT /tests/by-themselves': {
    summary: 'Say which tests run by themselves after each load',
    body: bodies.testsByThemselvesSchema,
    answer: answers.testsSchema,
  },
  'GET /test-runs': {
    summary: 'Runs of tests, the newest first',
    query: questions.evidenceShape,
    answer: answers.runsSchema,
  },
  'POST /test-runs': {
    summary: 'Run tests over the lines of a figure, in the background',
    body: bodies.newTestRunSchema,
    status: 202,
    answer: answers.runBegunSchema,
  },
  'GET /test-runs/{id}': {
    summary: 'How far a run is, what it looked at and what each test came to',
    answer: answers.runSchema,
  },
  'DELETE /test-runs/{id}': { summary: 'Take a run away', answer: nothing },
  'POST /test-runs/{id}/again': {
    summary: 'Run the same tests with the same settings over the same figure again, on the newest load',
    status: 202,
    answer: answers.runBegunSchema,
  },
  'GET /test-runs/{id}/hits': {
    summary: 'What a run found, the most unusual first',
    query: questions.hitsShape,
    answer: answers.hitsSchema,
  },
  'GET /test-runs/{id}/groups': {
    summary: 'What a run found, put together by test, entry, account, person, party or day',
    query: questions.hitsShape,
    answer: answers.hitGroupsSchema,
  },
  'PUT /test-runs/{id}/hits/{key}': {
    summary: 'Say of a hit that it is explained, a finding, asked about, or open',
    body: bodies.judgedHitSchema,
    answer: answers.testHitSchema,
  },
  'GET /test-runs/{id}/compared': {
    summary: 'What a run found that another did not: new, gone, or with other lines behind it',
    query: { with: z.coerce.number().int().positive().describe('The earlier run') },
    answer: answers.comparedRunsSchema,
  },
  'GET /ignored-hits': { summary: 'What is ignored in all runs, and why', answer: answers.ignoredSchema },
  'POST /ignored-hits': {
    summary: 'Have hits that are like one ignored from now on',
    body: bodies.newIgnoredSchema,
    status: 201,
    answer: answers.ignoredSchema,
  },
  'DELETE /ignored-hits/{id}': { summary: 'Ignore them no longer', answer: answers.ignoredSchema },
} as const satisfies Record<string, Route>;
