import { mkdirSync, renameSync, statSync } from 'node:fs';
import { join } from 'node:path';
import pino, { type Logger } from 'pino';

/** A log of this size gives way to a new one; the one before is kept. */
const LOG_MAX_BYTES = 64 * 1024 ** 2;

const KEY = Symbol.for('just-thread.log');
const shared = globalThis as unknown as Record<symbol, Logger | undefined>;

/**
 * Where a process writes down what it did: one line of JSON each, in `logs/<process>.log` of the state folder, or on the
 * standard error where JUST_THREAD_LOG says so. No amount, text or name of what was asked is written.
 */
export function openLog(process_: string, env: NodeJS.ProcessEnv = process.env): Logger {
  const level = env.JUST_THREAD_LOG_LEVEL ?? 'info';
  if (env.JUST_THREAD_LOG === 'stderr') shared[KEY] = pino({ level, base: { process: process_ } }, pino.destination(2));
  else {
    const folder = join(env.JUST_THREAD_HOME ?? '.local', 'logs');
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const path = join(folder, `${process_}.log`);
    if ((statSync(path, { throwIfNoEntry: false })?.size ?? 0) > LOG_MAX_BYTES) renameSync(path, `${path}.before`);
    shared[KEY] = pino(
      { level, base: { process: process_ } },
      pino.destination({ dest: path, append: true, mode: 0o600, sync: true }),
    );
  }
  return log();
}

/** The log of this process; silent where none was opened, as in a test. */
export function log(): Logger {
  shared[KEY] ??= pino({ level: 'silent' });
  return shared[KEY];
}
