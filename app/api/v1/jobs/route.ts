import { showJobs } from '@/cases/jobs/jobs';
import { serve } from '../../answer';

/** Long work of all kinds, newest first. */
export const GET = serve('GET /jobs', ({ ctx, viewer, query }) => showJobs(ctx, viewer, query));
