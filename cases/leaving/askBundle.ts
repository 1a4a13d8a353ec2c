import { changeTakenOut, insertTakenOut } from '@/store/leaving';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import type { Viewer } from '../asking/viewer';
import { showThread } from '../evidence/threads/shown';
import { addJob, begunBy } from '../jobs/jobs';

/** Has a bundle of a thread made by a worker. */
export async function askBundle(ctx: Context, viewer: Viewer, thread: number) {
  const { name } = await showThread(ctx, viewer, thread);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const made = await insertTakenOut(trx, {
      ...{ person: viewer.id, title: name, path: `/threads/${thread}`, format: 'zip', how: {} },
    });
    const job = await addJob(trx, {
      ...begunBy(viewer),
      ...{ kind: 'export', subject: `export ${made}`, label: `${name} as a bundle` },
      entities: viewer.entities && [...viewer.entities],
      input: { export: made },
    });
    await changeTakenOut(trx, made, { job });
    await record('exported', `thread ${thread}`, { what: 'bundle', title: name });
    return made;
  });
  return { id };
}
