import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { demoInstallation, dropDemo } from '@/ops/fresh';
import { startApp } from '@/ops/installation';
import { freePort } from '@/ops/postgres';
import { URL_FILE } from './app';

/** The built application on a free port, over a database of its own that holds the demo world. */
export default async function setup(): Promise<() => Promise<void>> {
  const fresh = await demoInstallation();
  // Every answer of the journeys is held against what its route promises.
  const app = await startApp({ ...fresh.env, JUST_THREAD_CHECK_ANSWERS: 'yes' }, await freePort());
  mkdirSync('.test', { recursive: true });
  writeFileSync(URL_FILE, app.url);
  return async () => {
    await app.stop();
    await fresh.close();
    if (!process.env.JUST_THREAD_TEST_RUN) await dropDemo(String(process.pid));
    rmSync(URL_FILE, { force: true });
  };
}
