import { showJobs } from '@/cases/jobs/jobs';
import { loadListShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

/** Long work of all kinds, newest first. */
export const GET = answer((asking) => showJobs(asking.ctx, asking.viewer, query(loadListShape, asking)));
