import { replayThread } from '@/cases/evidence/threads/replay';
import { replayShape } from '@/contracts/questions';
import { answer, idOf, query } from '../../../../answer';

export const GET = answer((asking, { id }) =>
  replayThread(asking.ctx, asking.viewer, idOf('Thread', id), query(replayShape, asking)),
);
