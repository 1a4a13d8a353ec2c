import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { demoInstallation, dropDemo } from '@/ops/fresh';
import { startApp } from '@/ops/installation';
import { freePort } from '@/ops/postgres';
import { startIdentityProvider } from '@/standins/identityProvider';
import { startMailCatcher } from '@/standins/mailCatcher';
import { MAIL_FILE, URL_FILE } from './app';

/** People whom the sign-in of the organisation knows: those of the demo world, and one whom nobody added here. */
const KNOWN = ['Priya Lund', 'Tomas Ek', 'Nobody Here'].map((name) => ({
  ...{ subject: name, name, email: `${name.split(' ')[0]?.toLowerCase()}@kestrel.example` },
}));

/** The built application on a free port, over a database of its own that holds the demo world. */
export default async function setup(): Promise<() => Promise<void>> {
  const fresh = await demoInstallation();
  const port = await freePort();
  const here = `http://127.0.0.1:${port}`;
  const provider = await startIdentityProvider(() => KNOWN, `${here}/api/v1/session/provider/return`);
  const mail = await startMailCatcher();
  const app = await startApp(
    {
      ...fresh.env,
      PUBLIC_URL: here,
      ...{ OIDC_ISSUER: provider.issuer, OIDC_CLIENT_ID: provider.clientId, OIDC_CLIENT_SECRET: provider.clientSecret },
      OIDC_NAME: 'Kestrel',
      SMTP_URL: mail.smtp,
      // Every answer of the journeys is held against what its route promises.
      JUST_THREAD_CHECK_ANSWERS: 'yes',
    },
    port,
  );
  mkdirSync('.test', { recursive: true });
  writeFileSync(URL_FILE, app.url);
  writeFileSync(MAIL_FILE, mail.url);
  return async () => {
    await app.stop();
    await provider.close();
    await mail.close();
    await fresh.close();
    if (!process.env.JUST_THREAD_TEST_RUN) await dropDemo(String(process.pid));
    rmSync(URL_FILE, { force: true });
  };
}
