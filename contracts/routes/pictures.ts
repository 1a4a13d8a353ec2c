import { z } from 'zod';
import * as answers from '../answers/all';
import { scopeShape } from '../scope';
import type { Route } from './route';

/** What pictures of a figure's lines are drawn from. */
export const picturesRoutes = {
  'GET /first-digits': {
    summary: 'With which digits the amounts of a figure’s lines begin, beside what is expected',
    query: scopeShape,
    answer: answers.firstDigitsSchema,
  },
  'GET /entered-times': {
    summary: 'On which days of the week and in which hours the entries of a figure were entered',
    query: scopeShape,
    answer: answers.enteredTimesSchema,
  },
  'GET /who-posts-where': {
    summary: 'Who posted how many lines of a figure on which account, and which pairs are rare',
    query: scopeShape,
    answer: answers.whoPostsWhereSchema,
  },
  'GET /account-months': {
    summary: 'How far each account’s months lie from its own history',
    query: scopeShape,
    answer: answers.accountMonthsSchema,
  },
  'GET /sizes': {
    summary: 'How many lines are of which size around a limit',
    query: {
      ...scopeShape,
      limit: z.string().max(40).optional().describe('The limit; absent: the one that lines crowd under most'),
    },
    answer: answers.sizesSchema,
  },
} as const satisfies Record<string, Route>;
