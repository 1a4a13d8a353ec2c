import type { Db } from '@/store/db';
import { openJobOf } from '@/store/jobs';
import { addJob } from '../jobs/jobs';

/** What the job is called that reads attached files. */
export const FILES_JOB = 'attached files';

/** Has what was just attached read, in the transaction that attaches it: one job that waits reads all there is. */
export async function readSoon(trx: Db): Promise<void> {
  const job = await openJobOf(trx, 'files', FILES_JOB);
  if (job && job.begun_at === null) return;
  await addJob(trx, {
    ...{ kind: 'files', subject: FILES_JOB, label: 'Text of attached files' },
    ...{ person: null, person_name: 'the installation', entities: null },
  });
}
