/** PostgreSQL's code for a statement that was stopped at its time limit (query_canceled). */
const QUERY_CANCELED = '57014';

/** Whether a question was stopped because it took longer than one waits for. */
export const tookTooLong = (error: unknown): boolean => (error as { code?: string } | null)?.code === QUERY_CANCELED;
