import { checkRecord } from '@/cases/upkeep/readRecord';
import { serve } from '../../../answer';

/** Whether the chain holds, up to the anchors outside of the database. */
export const GET = serve('GET /record/check', ({ ctx, viewer }) => checkRecord(ctx, viewer));
