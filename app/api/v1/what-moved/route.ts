import { readWhatMoved } from '@/cases/sheets/readWhatMoved';
import { whatMovedShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readWhatMoved(asking.ctx, asking.viewer, query(whatMovedShape, asking)));
