import { seeAs } from '@/cases/people/seeAs';
import { serve } from '../../../answer';

export const POST = serve('POST /people/see-as', ({ ctx, viewer, body }) => seeAs(ctx, viewer, body));
