import { Logger, runMigrations } from 'graphile-worker';

/** The queue says what matters through the jobs that it carries; its own chatter is not kept. */
export const quiet = new Logger(() => () => {});

/** Brings the tables of the queue up to date, under the role that works through it. */
export const migrateQueue = (url: string): Promise<void> => runMigrations({ connectionString: url, logger: quiet });
