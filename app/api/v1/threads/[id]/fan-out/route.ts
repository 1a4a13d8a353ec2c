import { fanOut } from '@/cases/evidence/threads/fanOut';
import { fanOutShape } from '@/contracts/questions';
import { answer, idOf, query } from '../../../../answer';

export const GET = answer((asking, { id }) =>
  fanOut(asking.ctx, asking.viewer, idOf('Thread', id), query(fanOutShape, asking).by),
);
