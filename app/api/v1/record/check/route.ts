import { checkRecord } from '@/cases/upkeep/readRecord';
import { answer } from '../../../answer';

/** Whether the chain holds, up to the anchors outside of the database. */
export const GET = answer(({ ctx, viewer }) => checkRecord(ctx, viewer));
