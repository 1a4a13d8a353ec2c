import { readTotals } from '@/cases/sheets/readTotals';
import { totalsShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readTotals(asking.ctx, asking.viewer, query(totalsShape, asking)));
