import { keepHolding, readHoldings } from '@/cases/charts/holdings';
import { holdingSchema } from '@/contracts/bodies';
import { scopeShape } from '@/contracts/scope';
import { answer, body, query } from '../../answer';

export const GET = answer((asking) => readHoldings(asking.ctx, asking.viewer, query(scopeShape, asking)));
export const PUT = answer(async ({ ctx, viewer, request }) =>
  keepHolding(ctx, viewer, await body(holdingSchema, request)),
);
