import { saveThread } from '@/cases/evidence/threads/keep';
import { listThreads } from '@/cases/evidence/threads/shown';
import { serve } from '../../answer';

export const GET = serve('GET /threads', ({ ctx, viewer }) => listThreads(ctx, viewer));
export const POST = serve('POST /threads', ({ ctx, viewer, body }) => saveThread(ctx, viewer, body));
