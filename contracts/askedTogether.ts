/** What screens ask for beside each other, in one round trip; each is answered as if it had been asked alone. */
export const ASKED_TOGETHER = [
  'GET /accounts',
  'GET /attachments',
  'GET /budgets',
  'GET /columns',
  'GET /dimensions',
  'GET /entities',
  'GET /entries/{id}',
  'GET /findings',
  'GET /expectations',
  'GET /proposed-entries',
  'GET /lines',
  'GET /marks',
  'GET /newest',
  'GET /notes',
  'GET /pins',
  'GET /questions',
  'GET /review-points',
  'GET /scopes',
  'GET /sentence',
  'GET /sheets',
  'GET /statements',
  'GET /statements/{code}',
  'GET /threads',
  'GET /threads/{id}',
  'GET /tick-marks',
  'GET /ticks',
  'GET /ticks/share',
  'GET /totals',
  'GET /trial-balance',
] as const;

export type AskedTogether = (typeof ASKED_TOGETHER)[number];

export const isAskedTogether = (name: string): name is AskedTogether =>
  (ASKED_TOGETHER as readonly string[]).includes(name);

/** Questions that are asked in one round trip, at the most. */
export const TOGETHER_MAX = 40;

/** One answer of several, on a line of its own as soon as it is there. */
export interface AnswerOfSeveral {
  /** Which question it is of. */
  at: number;
  status: number;
  body: unknown;
}
