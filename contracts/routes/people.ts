import * as answers from '../answers/all';
import * as bodies from '../bodies/all';
import { nothing, type Route } from './route';

/** Who comes in, who is here, and what they may. */
export const peopleRoutes = {
  'GET /session': { summary: 'Who is signed in', answer: answers.viewerSchema },
  'POST /session': { summary: 'Sign in', body: bodies.signInSchema, answer: answers.okSchema },
  'GET /session/provider/begin': { summary: 'To the sign-in of the organisation', gives: 'page' },
  'GET /session/provider/return': { summary: 'Back from the sign-in of the organisation', gives: 'page' },
  'DELETE /session': { summary: 'Sign out', answer: answers.okSchema },
  'DELETE /people/{id}/identity': {
    summary: 'Let somebody be known anew by the sign-in of the organisation',
    answer: nothing,
  },
  'GET /colleagues': { summary: 'Whom one can speak to', answer: answers.colleaguesSchema },
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
} as const satisfies Record<string, Route>;
