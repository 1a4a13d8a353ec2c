import { askCashBasis, readCashBasis } from '@/cases/documents/cashBasis';
import { serve } from '../../../../answer';

export const GET = serve('GET /entities/{code}/cash-basis', ({ ctx, viewer, path: { code } }) =>
  readCashBasis(ctx, viewer, code),
);
export const POST = serve('POST /entities/{code}/cash-basis', ({ ctx, viewer, path: { code } }) =>
  askCashBasis(ctx, viewer, code),
);
