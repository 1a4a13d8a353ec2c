import { seenOnDesk } from '@/cases/desk/desk';
import { serve } from '../../../answer';

export const POST = serve('POST /desk/seen', ({ ctx, viewer, body }) => seenOnDesk(ctx, viewer, body));
