import { readDimensions } from '@/cases/charts/dimensions';
import { scopeShape } from '@/contracts/scope';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readDimensions(asking.ctx, asking.viewer, query(scopeShape, asking)));
