import { chmodSync, existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Context, closeContext, makeContext } from '@/cases/asking/context';
import { migrate } from '@/store/migrate';
import { type Server, SetupError, startPostgres } from './postgres';
import { type Kept, keepRunning } from './supervisor';

/** An installation that is ready to be worked on from the shell. */
export interface Installation {
  ctx: Context;
  /** What its processes are started with: each role's own address of the database. */
  env: NodeJS.ProcessEnv;
  /** Its own PostgreSQL; null where it uses one that is there. */
  server: Server | null;
  close(): Promise<void>;
  /** Closes it, and takes away all that was kept: for an installation that is thrown away. */
  destroy(): Promise<void>;
}

export const homeOf = (env: NodeJS.ProcessEnv): string => env.JUST_THREAD_HOME ?? '.local';

/** A folder for an installation that is thrown away; the server's own user can reach it. */
export function temporaryHome(purpose: string): string {
  const home = mkdtempSync(join(tmpdir(), `just-thread-${purpose}-`));
  chmodSync(home, 0o755);
  return home;
}

/** The state folder: nobody else on the machine reads what is in it. */
function openHome(home: string): void {
  const files = join(home, 'files');
  mkdirSync(files, { recursive: true, mode: 0o700 });
  if ((statSync(files).mode & 0o077) !== 0) for (const name of readdirSync(files)) chmodSync(join(files, name), 0o600);
  chmodSync(files, 0o700);
  // A database of before that is within it has a user of its own, who passes through and sees nothing.
  chmodSync(home, existsSync(join(home, 'postgres', 'data')) && process.getuid?.() === 0 ? 0o711 : 0o700);
}

/** The environment of a process that answers requests: it knows no other address of the database than its own. */
export const webEnv = ({ JUST_THREAD_WORK_URL: _, ...env }: NodeJS.ProcessEnv): NodeJS.ProcessEnv =>
  env as NodeJS.ProcessEnv;

/** Opens the installation of the environment: its own PostgreSQL unless DATABASE_URL names one, schema up to date. */
export async function openInstallation(
  env: NodeJS.ProcessEnv,
  durable = true,
  say: (text: string) => void = () => {},
): Promise<Installation> {
  // What is written here from now on is for its owner alone.
  process.umask(0o077);
  openHome(homeOf(env));
  const server = env.DATABASE_URL ? null : await startPostgres(homeOf(env), durable);
  const given = env.DATABASE_URL ?? (server as Server).url;
  try {
    const addresses = await migrate(given);
    if (!addresses.apart)
      say(
        'The role of DATABASE_URL may make no roles, so everything connects as that one; docs/security.md says how to part them.',
      );
    const full = {
      ...env,
      DATABASE_URL: addresses.web,
      JUST_THREAD_WORK_URL: addresses.work,
      JUST_THREAD_HOME: homeOf(env),
    };
    const ctx = makeContext(full);
    const close = async (): Promise<void> => {
      await closeContext(ctx);
      server?.stop();
    };
    return {
      ctx,
      env: full,
      server,
      close,
      async destroy() {
        await close();
        if (server) rmSync(join(server.data, '..'), { recursive: true, force: true });
        rmSync(homeOf(env), { recursive: true, force: true });
      },
    };
  } catch (error) {
    server?.stop();
    throw error;
  }
}

export interface App {
  url: string;
  web: Kept;
  worker: Kept | null;
  stop(): Promise<void>;
}

/**
 * Starts the built application and a worker beside it, waits until they are ready, and starts again whichever dies.
 * @throws SetupError if the port is taken or it does not start
 */
export async function startApp(
  env: NodeJS.ProcessEnv,
  port: number,
  options: { worker?: boolean; say?: (text: string) => void } = {},
): Promise<App> {
  const { worker: withWorker = true, say = () => {} } = options;
  await mustBeFree(port);
  const web = await keepRunning(
    { name: 'The web server', file: 'web', args: ['127.0.0.1', String(port)], env: webEnv(env) },
    say,
  );
  let worker: Kept | null = null;
  const stop = async (): Promise<void> => {
    await Promise.all([web.stop(), worker?.stop()]);
  };
  try {
    if (withWorker) worker = await startWorker(env, say);
  } catch (error) {
    await stop();
    throw error;
  }
  return { url: `http://127.0.0.1:${port}`, web, worker, stop };
}

export const startWorker = (env: NodeJS.ProcessEnv, say: (text: string) => void = () => {}): Promise<Kept> =>
  keepRunning({ name: 'The worker', file: 'worker', env }, say);

function mustBeFree(port: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.on('error', () =>
      reject(
        new SetupError(
          `port ${port} is taken; stop what uses it, or choose another: PORT=${port + 1} ./just-thread start`,
        ),
      ),
    );
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve()));
  });
}
