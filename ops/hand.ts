import { closeContext, context } from '@/cases/asking/context';
import { runJob } from '@/cases/jobs/runJob';
import { log, openLog } from '@/store/log';

/**
 * A process that does jobs for a worker, one at a time. Whatever a file or a source does to it, the worker goes on: it
 * watches what this process takes, ends it when that is too much, and starts another.
 */
openLog('hand');

export type ToHand = { job: number };
export type FromHand = { ready: true } | { began: string } | { done: number } | { failed: number; message: string };

const tell = (words: FromHand): void => void process.send?.(words);

process.on('message', ({ job }: ToHand) => {
  runJob(context(), job, (began) => tell({ began })).then(
    () => tell({ done: job }),
    (error: Error) => {
      log().error({ job, error: error.stack }, 'job is to be tried again');
      tell({ failed: job, message: error.message });
    },
  );
});
process.on('disconnect', () => {
  // Without the worker nobody would end this.
  void closeContext(context()).finally(() => process.exit(0));
  setTimeout(() => process.exit(0), 2_000).unref();
});
tell({ ready: true });
