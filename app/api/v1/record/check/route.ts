import { checkRecord } from '@/cases/readRecord';
import { answer } from '../../../answer';

/** Whether the chain holds, up to the anchors outside of the database. */
export const GET = answer(({ ctx, viewer }) => checkRecord(ctx, viewer));
