import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Context, closeContext, makeContext } from '@/cases/context';
import { connectForWork } from '@/store/db';
import { migrate } from '@/store/migrate';
import { SetupError, startPostgres } from './postgres';

/** An installation that is ready to be worked on from the shell. */
export interface Installation {
  ctx: Context;
  env: NodeJS.ProcessEnv;
  close(): Promise<void>;
}

export const homeOf = (env: NodeJS.ProcessEnv): string => env.JUST_THREAD_HOME ?? '.local';

/** A folder for an installation that is thrown away; the server's own user can reach it. */
export function temporaryHome(purpose: string): string {
  const home = mkdtempSync(join(tmpdir(), `just-thread-${purpose}-`));
  chmodSync(home, 0o755);
  return home;
}

/** Opens the installation of the environment: its own PostgreSQL unless DATABASE_URL names one, schema up to date. */
export async function openInstallation(env: NodeJS.ProcessEnv, durable = true): Promise<Installation> {
  const server = env.DATABASE_URL ? { url: env.DATABASE_URL, stop: () => {} } : await startPostgres(homeOf(env), durable);
  const full = { ...env, DATABASE_URL: server.url, JUST_THREAD_HOME: homeOf(env) };
  try {
    const db = connectForWork(server.url);
    await migrate(db).finally(() => db.destroy());
    const ctx = makeContext(full);
    return {
      ctx,
      env: full,
      async close() {
        await closeContext(ctx);
        server.stop();
      },
    };
  } catch (error) {
    server.stop();
    throw error;
  }
}

/** Starts the built application and waits until it answers. @throws SetupError if the port is taken or it does not start */
export async function startApp(env: NodeJS.ProcessEnv, port: number): Promise<{ url: string; process: ChildProcess; stop(): Promise<void> }> {
  await mustBeFree(port);
  const url = `http://127.0.0.1:${port}`;
  const child = spawn('node', ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(port)], {
    env: { ...env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' },
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: true, // Ctrl-C is ours to handle, so that everything stops in order
  });
  let output = '';
  child.stdout.on('data', (chunk: Buffer) => (output = (output + chunk).slice(-4_000)));
  child.stderr.on('data', (chunk: Buffer) => process.stderr.write(chunk));
  const ended = new Promise<void>((resolve) => child.on('exit', () => resolve()));
  const stop = async (): Promise<void> => {
    child.kill('SIGTERM');
    await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, 5_000))]);
    child.kill('SIGKILL');
  };
  for (let tries = 0; tries < 150; tries++) {
    if (child.exitCode !== null) throw new SetupError(`the application did not start:\n${output}`);
    const health = await fetch(`${url}/api/v1/health`).catch(() => null);
    if (health?.ok) return { url, process: child, stop };
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  await stop();
  throw new SetupError(`the application did not answer within 30 seconds:\n${output}`);
}

function mustBeFree(port: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.on('error', () => reject(new SetupError(`port ${port} is taken; stop what uses it, or choose another: PORT=${port + 1} ./just-thread start`)));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve()));
  });
}
