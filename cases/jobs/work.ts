import type { JobRow } from '@/store/jobs';
import type { Context } from '../asking/context';

/** Thrown out of a job that somebody asked to stop. */
export class JobCancelled extends Error {}

/** What the work of a job is given. */
export interface Work {
  ctx: Context;
  job: JobRow;
  /** Says of what the work is really begun, where others may be at it before: from then on its limits count. */
  begin(subject: string): void;
  /** Says how far it is. @throws JobCancelled if it was asked to stop */
  tell(progress: number, message?: string): Promise<void>;
}
