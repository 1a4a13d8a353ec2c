import { changeExpectation, removeExpectation, showExpectation } from '@/cases/evidence/expectations';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /expectations/{id}', ({ ctx, viewer, path: { id } }) =>
  showExpectation(ctx, viewer, idOf('Expectation', id)),
);
export const PUT = serve('PUT /expectations/{id}', ({ ctx, viewer, path: { id }, body }) =>
  changeExpectation(ctx, viewer, idOf('Expectation', id), body),
);
export const DELETE = serve('DELETE /expectations/{id}', ({ ctx, viewer, path: { id } }) =>
  removeExpectation(ctx, viewer, idOf('Expectation', id)),
);
