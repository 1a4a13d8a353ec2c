import { readEntry } from '@/cases/sheets/readEntry';
import { entryShape } from '@/contracts/questions';
import { answer, query } from '../../../answer';

export const GET = answer((asking, { id = '' }) => readEntry(asking.ctx, asking.viewer, id, query(entryShape, asking)));
