import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Context, closeContext, makeContext } from '@/cases/context';
import { loadFile } from '@/cases/loads';
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

/** Loads a table as it is written here; it must be right. */
export async function loadText({ ctx, owner, env }: Fresh, text: string, fields: Parameters<typeof loadFile>[3]): Promise<void> {
  const path = join(env.JUST_THREAD_HOME as string, `${fields.kind}.csv`);
  writeFileSync(path, `${text}\n`);
  const load = await loadFile(ctx, owner, path, fields);
  if (load.status !== 'loaded') throw new Error(`the test's own ${fields.kind} were refused: ${load.problems[0]?.message ?? load.message}`);
}
