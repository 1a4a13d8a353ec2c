import { readMarks } from '@/cases/sheets/marks';
import { marksShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readMarks(asking.ctx, asking.viewer, query(marksShape, asking)));
