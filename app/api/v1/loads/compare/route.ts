import { compareLoads } from '@/cases/loads/compareLoads';
import { compareShape } from '@/contracts/questions';
import { answer, query } from '../../../answer';

export const GET = answer((asking) => compareLoads(asking.ctx, asking.viewer, query(compareShape, asking)));
