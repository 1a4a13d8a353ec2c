import { type ChildProcess, fork } from 'node:child_process';
import { SetupError } from './postgres';
import { makePrograms, type ProgramName, programFile } from './programs';

/** What is started again when it dies waits so long before, twice as long each time, as long as it goes on dying. */
const FIRST_WAIT_MS = 500;
const LAST_WAIT_MS = 30_000;
/** Whatever ran so long is sound: the next time it waits for as little as the first. */
const SOUND_MS = 60_000;
/** A process that was asked to stop and has not by then is ended. */
const STOP_MS = 35_000;
/** A start that takes longer than this hangs; on a machine with much else to do each further one has as much time more. */
const READY_MS = 40_000;
const STARTS_MAX = 4;

export interface Kept {
  /** The process as it is now; another one after it died. */
  process(): ChildProcess | null;
  stop(): Promise<void>;
}

/** A process of ours, which says a word when it is ready. */
export interface Program {
  name: string;
  file: ProgramName;
  args?: string[];
  env: NodeJS.ProcessEnv;
}

class LateError extends SetupError {}

function started({ file, args = [], env }: Program, readyMs: number): { child: ChildProcess; ready: Promise<void> } {
  const child = fork(programFile(file), args, {
    execArgv: [],
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
    let isLate = false;
    const late = setTimeout(() => {
      isLate = true;
      // What hangs holds its port and its connections until it has ended.
      child.kill('SIGKILL');
    }, readyMs);
    child.once('message', () => resolve(clearTimeout(late)));
    child.once('exit', (code, signal) => {
      clearTimeout(late);
      reject(
        isLate
          ? new LateError(`it did not start within ${readyMs / 1000} seconds:\n${said}`)
          : new SetupError(`it did not start (${signal ?? `exit ${code}`}):\n${said}`),
      );
    });
  });
  return { child, ready };
}

/**
 * Starts a program, waits until it is ready, and starts it again whenever it dies, saying so.
 * @throws SetupError if it does not start at all; a start that hangs is ended and tried again before
 */
export async function keepRunning(program: Program, say: (text: string) => void): Promise<Kept> {
  await makePrograms();
  // Only what was ready once is started again by itself; until then whoever waits for it hears of it.
  let keeping = false;
  let wait = FIRST_WAIT_MS;
  let timer: NodeJS.Timeout | null = null;
  let current: ChildProcess | null = null;
  const begin = async (readyMs = READY_MS): Promise<void> => {
    const { child, ready } = started(program, readyMs);
    current = child;
    const from = Date.now();
    child.once('exit', (code, signal) => {
      if (current === child) current = null;
      if (!keeping) return;
      if (Date.now() - from > SOUND_MS) wait = FIRST_WAIT_MS;
      say(`${program.name} stopped by itself (${signal ?? `exit ${code}`}); it is started again in ${wait / 1000} s`);
      timer = setTimeout(() => void begin().catch(() => {}), wait);
      wait = Math.min(LAST_WAIT_MS, wait * 2);
    });
    await ready;
  };
  for (let tries = 1; !keeping; tries++) {
    try {
      await begin(READY_MS * tries);
      keeping = true;
    } catch (error) {
      if (tries === STARTS_MAX || !(error instanceof LateError))
        throw new SetupError(`${program.name}: ${(error as Error).message}`);
    }
  }
  return {
    process: () => current,
    async stop() {
      keeping = false;
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
