import { beginLedger } from '@/cases/loads/beginLedger';
import { serve } from '../../answer';

export const POST = serve('POST /ledgers', ({ ctx, viewer, body }) => beginLedger(ctx, viewer, body));
