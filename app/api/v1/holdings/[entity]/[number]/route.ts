import { removeHolding } from '@/cases/charts/holdings';
import { answer } from '../../../../answer';

export const DELETE = answer(({ ctx, viewer }, { entity = '', number = '' }) =>
  removeHolding(ctx, viewer, { entity, number }),
);
