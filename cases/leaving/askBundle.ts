import { changeTakenOut, insertTakenOut } from '@/store/leaving';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import type { Viewer } from '../asking/viewer';
import { seen } from '../evidence/threads/seenThreads';
import { showThread } from '../evidence/threads/shown';
import { addJob, begunBy } from '../jobs/jobs';

/** Has a bundle of a thread made by a worker. */
export async function askBundle(ctx: Context, viewer: Viewer, thread: number) {
  return asked(ctx, viewer, [thread], (await showThread(ctx, viewer, thread)).name);
}

/** The same of several threads, each of which the viewer may see. @throws ProblemError 404 */
export async function askBundles(ctx: Context, viewer: Viewer, { threads, name }: { threads: number[]; name: string }) {
  for (const thread of threads) await seen(ctx, viewer, thread);
  return asked(ctx, viewer, [...new Set(threads)], name);
}

async function asked(ctx: Context, viewer: Viewer, threads: readonly number[], name: string) {
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const made = await insertTakenOut(trx, {
      ...{ person: viewer.id, title: name, path: `/threads/${threads.join(',')}`, format: 'zip', how: {} },
    });
    const job = await addJob(trx, {
      ...begunBy(viewer),
      ...{ kind: 'export', subject: `export ${made}`, label: `${name} as a bundle` },
      entities: viewer.entities && [...viewer.entities],
      input: { export: made },
    });
    await changeTakenOut(trx, made, { job });
    for (const thread of threads) await record('exported', `thread ${thread}`, { what: 'bundle', title: name });
    return made;
  });
  return { id };
}
