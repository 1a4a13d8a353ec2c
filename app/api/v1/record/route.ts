import { readRecord } from '@/cases/upkeep/readRecord';
import { recordShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

/** Who did what, newest first. */
export const GET = answer((asking) => readRecord(asking.ctx, asking.viewer, query(recordShape, asking)));
