import { readOtherSide } from '@/cases/sheets/readOtherSide';
import { scopeShape } from '@/contracts/scope';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readOtherSide(asking.ctx, asking.viewer, query(scopeShape, asking)));
