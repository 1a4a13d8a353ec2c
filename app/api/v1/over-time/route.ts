import { readOverTime } from '@/cases/sheets/readOverTime';
import { overTimeShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readOverTime(asking.ctx, asking.viewer, query(overTimeShape, asking)));
