import { rollForward } from '@/cases/evidence/threads/rollForward';
import { serve } from '../../../answer';

export const POST = serve('POST /threads/roll-forward', ({ ctx, viewer, body }) => rollForward(ctx, viewer, body));
