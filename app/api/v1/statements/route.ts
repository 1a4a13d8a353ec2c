import { listStatements } from '@/cases/statements/outlines';
import { outlineShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

export const GET = answer((asking) => listStatements(asking.ctx, asking.viewer, query(outlineShape, asking)));
