import { cancelJob, showJob } from '@/cases/jobs/jobs';
import { answer, idOf } from '../../../answer';

export const GET = answer(({ ctx, viewer }, { id }) => showJob(ctx, viewer, idOf('Job', id)));
/** Asks it to stop. */
export const DELETE = answer(({ ctx, viewer }, { id }) => cancelJob(ctx, viewer, idOf('Job', id)));
