import { addPerson, people } from '@/cases/people/people';
import { serve } from '../../answer';

export const GET = serve('GET /people', async ({ ctx, viewer }) => ({ rows: await people(ctx, viewer) }));
export const POST = serve('POST /people', ({ ctx, viewer, body }) => addPerson(ctx, viewer, body));
