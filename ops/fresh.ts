import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Context, closeContext, makeContext } from '@/cases/context';
import { addPerson, ownerOf } from '@/cases/people';
import type { Viewer } from '@/cases/viewer';
import { connectForWork } from '@/store/db';
import { migrate } from '@/store/migrate';

/** An installation of its own on the server that DATABASE_URL names, for one test file. */
export interface Fresh {
  ctx: Context;
  owner: Viewer;
  env: NodeJS.ProcessEnv;
  close(): Promise<void>;
}

let made = 0;

export async function freshInstallation(today = '2026-10-05'): Promise<Fresh> {
  const server = process.env.DATABASE_URL;
  if (!server) throw new Error('DATABASE_URL names no server; run the tests with ./just-thread test');
  made += 1;
  const name = `fresh_${process.pid}_${made}_${Date.now()}`;
  const admin = connectForWork(server);
  await admin.raw(`create database ${name}`);
  const url = new URL(server);
  url.pathname = `/${name}`;
  const home = mkdtempSync(join(tmpdir(), 'just-thread-fresh-'));
  const env = { ...process.env, DATABASE_URL: url.href, JUST_THREAD_HOME: home, JUST_THREAD_TODAY: today };
  const ctx = makeContext(env);
  await migrate(ctx.work);
  await addPerson(ctx, null, { email: 'owner@test.example', name: 'Test Owner', role: 'owner', password: 'correct horse', entities: null });
  return {
    ctx,
    owner: await ownerOf(ctx.work),
    env,
    async close() {
      await closeContext(ctx);
      await admin.raw(`drop database ${name} with (force)`);
      await admin.destroy();
      rmSync(home, { recursive: true, force: true });
    },
  };
}
