import { readTotals } from '@/cases/readTotals';
import { scopeShape } from '@/contracts/scope';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readTotals(asking.ctx, asking.viewer, query(scopeShape, asking)));
