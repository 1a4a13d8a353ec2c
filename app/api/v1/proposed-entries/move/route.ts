import { proposeMoved } from '@/cases/proposals/propose';
import { serve } from '../../../answer';

export const POST = serve('POST /proposed-entries/move', ({ ctx, viewer, body }) => proposeMoved(ctx, viewer, body));
