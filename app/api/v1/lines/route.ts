import { readLines } from '@/cases/sheets/readLines';
import { linesShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readLines(asking.ctx, asking.viewer, query(linesShape, asking)));
