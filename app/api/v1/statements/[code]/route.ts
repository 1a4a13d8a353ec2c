import { readStatement } from '@/cases/statements/readStatement';
import { statementShape } from '@/contracts/questions';
import { answer, query } from '../../../answer';

export const GET = answer((asking, { code = '' }) =>
  readStatement(asking.ctx, asking.viewer, code, query(statementShape, asking)),
);
