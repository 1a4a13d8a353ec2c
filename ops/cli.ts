import { existsSync, readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { resolve } from 'node:path';
import { stdin, stdout } from 'node:process';
import { createInterface } from 'node:readline/promises';
import { parseArgs } from 'node:util';
import { copyAgain } from '@/cases/loads/copyLines';
import { loadFile } from '@/cases/loads/loading/runLoads';
import { offerFirstOwner } from '@/cases/people/firstOwner';
import { PASSWORD_LEAST } from '@/cases/people/passwords';
import { addPerson } from '@/cases/people/people';
import { dropSecondFactor } from '@/cases/people/secondFactor';
import { ownerOf } from '@/cases/people/signIn';
import { makeToken } from '@/cases/people/tokens';
import { check } from '@/cases/upkeep/check';
import { newLoadSchema, newPersonSchema } from '@/contracts/bodies/all';
import { demoFeedDay, demoFeedEntry } from '@/demo/feed';
import { seedDemo } from '@/demo/seed';
import { verifyBundle } from '@/exchange/bundle/verifyBundle';
import { checkSeal } from '@/exchange/leaves/seal';
import { fingerprintOf, signerOf } from '@/exchange/signing';
import { type Known, startIdentityProvider } from '@/standins/identityProvider';
import { startLedgerFeed } from '@/standins/ledgerFeed';
import { startMailCatcher } from '@/standins/mailCatcher';
import { rowsOf } from '@/store/db';
import { backup, keepBackups, restore } from './backup';
import { build } from './build';
import { openInstallation, startApp, startWorker } from './installation';
import { SetupError } from './postgres';

const PORT = Number(process.env.PORT ?? 4310);
/** The demo's own today, so that its screens do not age. */
const DEMO_TODAY = '2026-10-05';

const say = (text: string): void => void process.stderr.write(`${text}\n`);

const USAGE = `Just Thread: trace any figure down to its journal lines.

  ./just-thread demo                        set up, load the demo world, start on http://127.0.0.1:${PORT}
  ./just-thread start                       the same without demo data
  ./just-thread test                        run every check and test
  ./just-thread owner EMAIL --name "…"      make the first owner (password asked, or on standard input)
  ./just-thread token EMAIL                 print an API token that acts as that person [--name …] [--days 90]
  ./just-thread second-factor EMAIL         take the second factor of somebody away, who has lost it
  ./just-thread load FILE --entity CODE     load a file [--kind …] [--format …] [--map FILE] [--replaces 2027.04-2027.05]
  ./just-thread worker                      a process that takes jobs, beside the one that demo and start run
  ./just-thread soak                        the long tests of load, faults and growth
  ./just-thread backup FILE                 database, files, key and anchors in one file, while people work
  ./just-thread restore FILE                a backup into an empty installation, checked
  ./just-thread verify FILE                 whether a bundle (.zip) or a sealed workbook (.xlsx) is as it left
  ./just-thread key                         the key of this installation, by which what it signed is known
  ./just-thread check [WORD]                check summaries, entries, files, pins and the record; with a word, only what
                                            is called so (sums, copies, entries, files, record …)
  ./just-thread copies                      make the copies of lines by columns again
  ./just-thread bench [--lines N]           measure loading and reading on a generated ledger; with --keep FOLDER it
                                            stays there, and is only asked the next time; with --proposed it is
                                            asked as booked and with a thousand proposed lines
  ./just-thread house                       count what must not be in the code: 0 of each`;

const commands: Record<string, (args: string[]) => Promise<void>> = {
  demo: () => serve(true),
  start: () => serve(false),
  async test() {
    const { test } = await import('./test');
    process.exitCode = await test(say);
  },
  async house() {
    const { sayRules } = await import('./houseRules');
    if (!sayRules((text) => void process.stdout.write(`${text}\n`))) process.exitCode = 1;
  },
  async soak([part]) {
    const { soak } = await import('./soak');
    process.exitCode = await soak(say, part);
  },
  async worker() {
    await withInstallation(async ({ env }) => {
      const stopAsked = signalled();
      const worker = await startWorker(env, say);
      say('The worker takes jobs. Ctrl-C stops it.');
      await stopAsked;
      await worker.stop();
    });
  },
  async bench(args) {
    const { values } = parseArgs({
      args,
      options: {
        lines: { type: 'string', default: '1000000' },
        keep: { type: 'string' },
        proposed: { type: 'boolean' },
      },
    });
    const { bench } = await import('./bench/run');
    await bench({ ...values, lines: Number(values.lines) }, say);
  },
  async owner(args) {
    const { values, positionals } = parseArgs({ args, options: { name: { type: 'string' } }, allowPositionals: true });
    const [email] = positionals;
    if (!email || !values.name) throw new SetupError('say who: ./just-thread owner EMAIL --name "First Last"');
    const password = await readPassword();
    await withInstallation(async ({ ctx }) => {
      const person = newPersonSchema.parse({ email, name: values.name, role: 'owner', password });
      await addPerson(ctx, null, person);
      say(`${values.name} <${email}> is the owner. Sign in at http://127.0.0.1:${PORT}`);
    });
  },
  async token(args) {
    const { values, positionals } = parseArgs({
      args,
      options: { name: { type: 'string' }, days: { type: 'string' } },
      allowPositionals: true,
    });
    const [email] = positionals;
    if (!email) throw new SetupError('say for whom: ./just-thread token EMAIL');
    const { name, days } = values;
    const wanted = { ...(name === undefined ? {} : { name }), ...(days === undefined ? {} : { days: Number(days) }) };
    await withInstallation(async ({ ctx }) => void stdout.write(`${await makeToken(ctx, email, wanted)}\n`));
  },
  async 'second-factor'([email]) {
    if (!email) throw new SetupError('say whose: ./just-thread second-factor EMAIL takes it away');
    await withInstallation(async ({ ctx }) => {
      await dropSecondFactor(ctx, email);
      say(`${email} signs in with the password alone until they set a second factor up again.`);
    });
  },
  async load(args) {
    const options = {
      entity: { type: 'string' },
      kind: { type: 'string' },
      format: { type: 'string' },
      replaces: { type: 'string' },
      map: { type: 'string' },
      unknownAccounts: { type: 'string' },
      use: { type: 'string' },
      ifStatedDiffers: { type: 'string' },
      emptyCells: { type: 'string' },
    } as const;
    const { values, positionals } = parseArgs({ args, options, allowPositionals: true });
    const [file] = positionals;
    if (!file) throw new SetupError('say which file: ./just-thread load FILE --entity CODE');
    await withInstallation(async ({ ctx }) => {
      const { map, ...fields } = values;
      const load = await loadFile(
        ctx,
        await ownerOf(ctx.work),
        file,
        newLoadSchema.parse({
          ...fields,
          ...(map ? { mapping: existsSync(map) ? readFileSync(map, 'utf8') : map } : {}),
        }),
      );
      if (load.status === 'refused') {
        for (const p of load.problems) say(`row ${p.row ?? '–'}${p.column ? `, ${p.column}` : ''}: ${p.message}`);
        throw new SetupError(`load ${load.id} ${load.message}`);
      }
      say(
        `load ${load.id}: ${load.lines} lines, ${load.entries} entries${load.replaced ? `, ${load.replaced} lines replaced` : ''}`,
      );
    });
  },
  async copies() {
    await withInstallation(async ({ ctx }) => say(await copyAgain(ctx)));
  },
  async verify([path]) {
    if (!path) throw new SetupError('name the file: ./just-thread verify FILE');
    const workbook = path.toLowerCase().endsWith('.xlsx');
    const bytes = await readFile(path).catch((error: Error) => {
      throw new SetupError(`the file cannot be read: ${error.message}`);
    });
    const found = workbook ? await checkSeal(bytes) : await verifyBundle(path);
    for (const says of found.wrong) console.log(`≠ ${says}`);
    if (!found.ok) throw new SetupError('it is NOT as it left');
    const what =
      'figures' in found
        ? `${found.files} files, ${found.figures} figures worked out again from ${found.lines} lines`
        : `${found.rows} rows`;
    console.log(`✓ as it left: ${what}`);
    console.log(`  signed by the key ${found.key}; hold it against ./just-thread key of the installation that made it`);
  },
  async backup([path]) {
    if (!path) throw new SetupError('name the file: ./just-thread backup FILE');
    await withInstallation(async (installation) => {
      const { files, bytes, record } = await backup(installation, process.env.DATABASE_URL ?? '', path);
      say(`${path}: ${files} files, ${Math.ceil(bytes / 1024 ** 2)} MB, the record up to entry ${record}`);
    });
  },
  async restore([path]) {
    if (!path) throw new SetupError('name the file: ./just-thread restore FILE');
    const { faults } = await restore(process.env, path, say);
    if (faults > 0) throw new SetupError(`${faults} ${faults === 1 ? 'check' : 'checks'} failed`);
    say('It is restored. Start it with ./just-thread start');
  },
  async key() {
    console.log(fingerprintOf(signerOf(resolve(process.env.JUST_THREAD_HOME ?? '.local')).publicKey));
  },
  async check([word]) {
    await withInstallation(async ({ ctx }) => {
      let faults = 0;
      let looked = 0;
      const from = performance.now();
      for await (const { what, ok, detail, ms } of check(ctx, (name) => name.includes(word ?? ''))) {
        looked += 1;
        say(`${ok ? '✓' : '✗'} ${what}: ${detail}${ms >= 100 ? ` (${(ms / 1000).toFixed(1)} s)` : ''}`);
        if (!ok) faults += 1;
      }
      if (looked === 0) throw new SetupError(`no check is called “${word}”`);
      say(`Checked in ${((performance.now() - from) / 1000).toFixed(1)} s`);
      if (faults > 0) throw new SetupError(`${faults} ${faults === 1 ? 'check' : 'checks'} failed`);
    });
  },
};

const signalled = (): Promise<void> =>
  new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => resolve());
  });

/** Starts everything, starts again whatever dies, stays until Ctrl-C, stops what it started. */
async function serve(demo: boolean): Promise<void> {
  await build(say);
  say('Starting PostgreSQL …');
  const env = demo ? { JUST_THREAD_TODAY: DEMO_TODAY, ...process.env } : process.env;
  const mail = await startMail(env);
  const letters = mail ? { SMTP_URL: mail.smtp } : {};
  const signIn = demo ? await startSignIn(env) : null;
  const installation = await openInstallation(
    { PUBLIC_URL: `http://127.0.0.1:${PORT}`, ...letters, ...signIn?.settings, ...env },
    true,
    say,
  );
  const stopAsked = signalled();
  const feed = demo ? await startFeed() : null;
  try {
    installation.server?.watch(say);
    const [loads] = await rowsOf<{ n: number }>(installation.ctx.work, 'select count(*)::integer as n from entity');
    const signIns = demo ? await seedDemo(installation.ctx, (loads?.n ?? 0) === 0, say, FEED_URL) : [];
    const app = await startApp(installation.env, PORT, { say });
    say(`\nJust Thread is at ${app.url}`);
    for (const { name, role, email, password } of signIns)
      say(`  ${name.padEnd(12)} ${role.padEnd(9)} ${email}  ${password}`);
    if (feed) say(`  A source ledger to pull from (stand-in) is at ${new URL('/', feed.url).href}`);
    if (signIn) {
      signIn.people.push(...signIns.map(({ name, email }) => ({ subject: email, name, email })));
      say(`  The sign-in of their organisation (stand-in) is at ${signIn.issuer}; the page of signing in leads there`);
    }
    if (mail) say(`  Letters that it sends (stand-in, since SMTP_URL names no server) are at ${mail.url}`);
    const code = demo ? null : await offerFirstOwner(installation.ctx);
    if (code) say(`Nobody is here yet. Open this once, to be its owner: ${app.url}/welcome#${code}`);
    say('Ctrl-C stops it.');
    const folder = env.BACKUP_FOLDER;
    const backups = folder
      ? keepBackups(
          installation,
          env.DATABASE_URL ?? '',
          { folder, keep: Number(env.BACKUP_KEEP) || BACKUPS_KEPT },
          say,
        )
      : null;
    await stopAsked;
    backups?.stop();
    say('\nStopping: what is under way comes to its end …');
    await app.stop();
  } finally {
    await feed?.close();
    await mail?.close();
    await signIn?.close();
    await installation.close();
  }
}

/** Backups of so many days, where nobody says how many. */
const BACKUPS_KEPT = 14;

const FEED_PORT = PORT + 1;
const FEED_URL = `http://127.0.0.1:${FEED_PORT}/entries`;

/** The stand-in for the ferries' own ledger, with one new day; without it the demo still runs. */
async function startFeed() {
  try {
    const feed = await startLedgerFeed(demoFeedDay, FEED_PORT, demoFeedEntry);
    feed.publish(1);
    return feed;
  } catch {
    say(`Port ${FEED_PORT} is taken, so the stand-in for a source ledger is not there.`);
    return null;
  }
}

/** A stand-in that takes letters, where no server for them is named; without it they wait. */
async function startMail(env: NodeJS.ProcessEnv) {
  if (env.SMTP_URL) return null;
  try {
    return await startMailCatcher(PORT + 2);
  } catch {
    say(
      `Port ${PORT + 2} is taken, so the stand-in for a mail server is not there; letters wait until SMTP_URL names one.`,
    );
    return null;
  }
}

/** A stand-in for the organisation's own sign-in, where none is named; without it people sign in with their passwords. */
async function startSignIn(env: NodeJS.ProcessEnv) {
  if (env.OIDC_ISSUER) return null;
  const people: Known[] = [];
  try {
    const back = `${env.PUBLIC_URL ?? `http://127.0.0.1:${PORT}`}/api/v1/session/provider/return`;
    const provider = await startIdentityProvider(() => people, back, PORT + 3);
    const settings = {
      OIDC_ISSUER: provider.issuer,
      OIDC_CLIENT_ID: provider.clientId,
      OIDC_CLIENT_SECRET: provider.clientSecret,
      OIDC_NAME: 'Kestrel',
    };
    return { ...provider, people, settings };
  } catch {
    say(`Port ${PORT + 3} is taken, so the stand-in for an organisation’s sign-in is not there.`);
    return null;
  }
}

async function withInstallation(
  act: (installation: Awaited<ReturnType<typeof openInstallation>>) => Promise<void>,
): Promise<void> {
  const installation = await openInstallation(process.env, true, say);
  try {
    await act(installation);
  } finally {
    await installation.close();
  }
}

async function readPassword(): Promise<string> {
  if (!stdin.isTTY) {
    let text = '';
    for await (const chunk of stdin) text += chunk;
    return text.replace(/\r?\n$/, '');
  }
  const prompt = createInterface({ input: stdin, output: process.stderr });
  try {
    return await prompt.question(`Password (at least ${PASSWORD_LEAST} characters): `);
  } finally {
    prompt.close();
  }
}

const [command = '', ...args] = process.argv.slice(2);
const act = commands[command];
if (!act) {
  say(command === '' || command === '--help' ? USAGE : `There is no command “${command}”.\n\n${USAGE}`);
  process.exit(command === '' || command === '--help' ? 0 : 2);
}
act(args).then(
  () => process.exit(process.exitCode ?? 0),
  (error: Error & { code?: string }) => {
    say(error instanceof SetupError || error.name === 'ProblemError' ? error.message : (error.stack ?? String(error)));
    process.exit(1);
  },
);
