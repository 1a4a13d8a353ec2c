import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { SetupError } from './postgres';

/** What is started again when it dies waits so long before, twice as long each time, as long as it goes on dying. */
const FIRST_WAIT_MS = 500;
const LAST_WAIT_MS = 30_000;
/** Whatever ran so long is sound: the next time it waits for as little as the first. */
const SOUND_MS = 60_000;
/** A process that was asked to stop and has not by then is ended. */
const STOP_MS = 35_000;
const READY_MS = 60_000;

export interface Kept {
  /** The process as it is now; another one after it died. */
  process(): ChildProcess | null;
  stop(): Promise<void>;
}

/** A process of ours: a file of this folder, which says a word when it is ready. */
export interface Program {
  name: string;
  file: string;
  args?: string[];
  env: NodeJS.ProcessEnv;
}

function started({ file, args = [], env }: Program): { child: ChildProcess; ready: Promise<void> } {
  const child = fork(fileURLToPath(new URL(file, import.meta.url)), args, {
    execArgv: ['--import', 'tsx'],
    env: { ...env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' } as NodeJS.ProcessEnv,
    stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
    detached: true, // Ctrl-C is ours to handle, so that everything stops in order
  });
  let said = '';
  child.stderr?.on('data', (chunk: Buffer) => {
    said = (said + chunk).slice(-4_000);
    process.stderr.write(chunk);
  });
  const ready = new Promise<void>((resolve, reject) => {
    const late = setTimeout(
      () => reject(new SetupError(`it did not start within ${READY_MS / 1000} seconds:\n${said}`)),
      READY_MS,
    );
    child.once('message', () => resolve(clearTimeout(late)));
    child.once('exit', (code, signal) => {
      clearTimeout(late);
      reject(new SetupError(`it did not start (${signal ?? `exit ${code}`}):\n${said}`));
    });
  });
  return { child, ready };
}

/**
 * Starts a program, waits until it is ready, and starts it again whenever it dies, saying so.
 * @throws SetupError if it does not start at all
 */
export async function keepRunning(program: Program, say: (text: string) => void): Promise<Kept> {
  let stopping = false;
  let wait = FIRST_WAIT_MS;
  let timer: NodeJS.Timeout | null = null;
  let current: ChildProcess | null = null;
  const begin = async (): Promise<void> => {
    const { child, ready } = started(program);
    current = child;
    const from = Date.now();
    child.once('exit', (code, signal) => {
      current = null;
      if (stopping) return;
      if (Date.now() - from > SOUND_MS) wait = FIRST_WAIT_MS;
      say(`${program.name} stopped by itself (${signal ?? `exit ${code}`}); it is started again in ${wait / 1000} s`);
      timer = setTimeout(() => void begin().catch(() => {}), wait);
      wait = Math.min(LAST_WAIT_MS, wait * 2);
    });
    await ready;
  };
  try {
    await begin();
  } catch (error) {
    stopping = true;
    if (timer) clearTimeout(timer);
    throw new SetupError(`${program.name}: ${(error as Error).message}`);
  }
  return {
    process: () => current,
    async stop() {
      stopping = true;
      if (timer) clearTimeout(timer);
      const child = current;
      if (!child || child.exitCode !== null) return;
      const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
      child.kill('SIGTERM');
      await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, STOP_MS).unref())]);
      child.kill('SIGKILL');
    },
  };
}
