import { readDocument } from '@/cases/documents/readDocument';
import { documentShape } from '@/contracts/questions';
import { answer, query } from '../../../answer';

export const GET = answer((asking, { id = '' }) =>
  readDocument(asking.ctx, asking.viewer, id, query(documentShape, asking)),
);
