import { spawnSync } from 'node:child_process';
import { expect, test } from '@playwright/test';
import { makeToken } from '@/cases/people/tokens';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { startApp, startWorker } from '@/ops/installation';
import { freePort } from '@/ops/postgres';
import { rowsOf } from '@/store/db';

// Faults on purpose, against the built application over a database of its own: whatever breaks, nothing is half visible.

let fresh: Fresh;
test.beforeAll(async () => {
  fresh = await freshInstallation();
});
test.afterAll(() => fresh?.close());

const ENTRIES = 5_000;
const COLUMNS = ['entry', 'line', 'date', 'account', 'amount', 'description'];

/** Lines that are read row by row, so that there is time to break something. */
function ledger(prefix: string): Buffer {
  const rows = Array.from(
    { length: ENTRIES },
    (_, i) => `${prefix}${i},1,2026-04-03,100,1.00,x\n${prefix}${i},2,2026-04-03,400,-1.00,x`,
  );
  return Buffer.from(`${COLUMNS.join(',')}\n${rows.join('\n')}\n`);
}

test('a server killed in the middle of a load, and a database connection that is cut, leave nothing half visible', async () => {
  test.setTimeout(600_000);
  const token = await makeToken(fresh.ctx, 'owner@test.example');
  const headers = { authorization: `Bearer ${token}` };
  const app = await startApp(fresh.env, await freePort());
  const ask = async <Answer>(path: string, init: RequestInit = {}): Promise<Answer> => {
    const answer = await fetch(`${app.url}/api/v1${path}`, {
      ...init,
      headers: { ...headers, ...(init.headers as object) },
    });
    if (!answer.ok) throw new Error(await answer.text());
    return (await answer.json()) as Answer;
  };
  const send = async (name: string, content: Buffer, fields: Record<string, string>): Promise<number> => {
    const form = new FormData();
    for (const [key, value] of Object.entries(fields)) form.append(key, value);
    form.append('file', new Blob([new Uint8Array(content)]), name);
    return (await ask<{ id: number }>('/loads', { method: 'POST', body: form })).id;
  };
  interface Load {
    status: string;
    rowsRead: number;
    lines: number;
    message: string | null;
  }
  const until = async (id: number, done: (load: Load) => boolean): Promise<Load> => {
    for (let i = 0; i < 6_000; i++) {
      const load = await ask<Load>(`/loads/${id}`);
      if (done(load)) return load;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error(`load ${id} does not come to an end`);
  };
  const visible = async (): Promise<number> =>
    (await rowsOf<{ n: number }>(fresh.ctx.work, 'select count(*)::integer as n from line'))[0]?.n ?? -1;
  const apart = async (): Promise<number> =>
    (
      await rowsOf(
        fresh.ctx.work,
        `select 1 from pg_class where relkind = 'r' and not relispartition and relname ~ '^line_e[0-9]'`,
      )
    ).length;

  const calendar = { kind: 'monthly', start: '04', adjustmentPeriods: 1 };
  const entity = { code: 'ONE', name: 'One', currency: 'GBP', calendar, yearEnd: 'derived', retainedEarnings: '300' };
  await ask('/entities', {
    method: 'POST',
    body: JSON.stringify(entity),
    headers: { 'content-type': 'application/json' },
  });
  await until(
    await send('chart.csv', Buffer.from('code,name,type\n100,Cash,asset\n300,Retained,equity\n400,Sales,income\n'), {
      kind: 'accounts',
      entity: 'ONE',
    }),
    (l) => l.status === 'loaded',
  );
  // What is the same for every row is put there row by row.
  const constants = { source: 'by hand' };
  const mapping = JSON.stringify({ columns: Object.fromEntries(COLUMNS.map((c) => [c, c])), constants });

  // The worker is killed while it reads, with no time to say anything; the supervisor starts another, which takes the
  // load up from its first row. The web server answers all the while.
  const killed = await send('killed.csv', ledger('K'), { entity: 'ONE', mapping });
  await until(killed, (l) => l.rowsRead > 0);
  const worker = app.worker?.process();
  const gone = new Promise((resolve) => worker?.once('exit', resolve));
  worker?.kill('SIGKILL');
  await gone;
  expect(await visible()).toBe(0);
  try {
    const done = await until(killed, (l) => l.status !== 'reading');
    expect(done).toMatchObject({
      status: 'loaded',
      lines: ENTRIES * 2,
      message: expect.stringMatching(/^the server stopped in the middle, at row \d+; begun again/),
    });
    expect(await visible()).toBe(ENTRIES * 2);
    expect(await apart()).toBe(0);

    // The connection of the load is cut by the database.
    const cut = await send('cut.csv', ledger('C'), { entity: 'ONE', mapping });
    await until(cut, (l) => l.rowsRead > 0);
    await fresh.ctx.work.raw(
      `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and application_name = 'just-thread work' and state = 'idle in transaction'`,
    );
    // A connection that goes is no fault of the file: the load is begun again, and nothing of the first try is left.
    expect(await until(cut, (l) => l.status !== 'reading')).toMatchObject({ status: 'loaded', lines: ENTRIES * 2 });
    expect(await visible()).toBe(ENTRIES * 4);
    expect(await apart()).toBe(0);

    // A load that ends the process that works at it, twice, is put aside with the reason; those behind it go on.
    const poison = await send('poison.csv', ledger('P'), { entity: 'ONE', mapping });
    const hands = (): number[] =>
      spawnSync('pgrep', ['-P', String(app.worker?.process()?.pid)], { encoding: 'utf8' })
        .stdout.split('\n')
        .filter(Boolean)
        .map(Number);
    for (let times = 0; times < 2; times++) {
      await until(poison, (l) => l.rowsRead > 0 || l.status !== 'reading');
      for (const pid of hands()) process.kill(pid, 'SIGKILL');
      await until(poison, (l) => l.rowsRead === 0 || l.status !== 'reading');
    }
    expect(await until(poison, (l) => l.status !== 'reading')).toMatchObject({
      status: 'refused',
      message: expect.stringMatching(
        /it ended the process that worked at it 2 times \(SIGKILL\), and is put aside; nothing was loaded/,
      ),
    });
    expect(await visible()).toBe(ENTRIES * 4);
    expect(
      (await ask<{ rows: { kind: string; subject: string; state: string }[] }>('/jobs')).rows.find(
        (j) => j.kind === 'load' && j.subject === `load ${poison}`,
      ),
    ).toMatchObject({
      state: 'put aside',
    });

    // A load that takes more memory, or longer, than it may is ended there and then, with that reason.
    await app.worker?.stop();
    for (const [limit, reason] of [
      [
        { JUST_THREAD_JOB_MEMORY_MB: '40' },
        /^refused: reading it takes more than 40 MB of memory; nothing was loaded$/,
      ],
      [{ JUST_THREAD_JOB_SECONDS: '1' }, /^refused: reading it takes longer than 1 seconds; nothing was loaded$/],
    ] as const) {
      const limited = await startWorker({ ...fresh.env, ...limit });
      const exceeding = await send('exceeding.csv', ledger('E'), { entity: 'ONE', mapping });
      expect(await until(exceeding, (l) => l.status !== 'reading')).toMatchObject({
        status: 'refused',
        message: expect.stringMatching(reason),
      });
      await limited.stop();
    }
    const worker2 = await startWorker(fresh.env);
    expect(await visible()).toBe(ENTRIES * 4);

    // The web server is killed: it comes back by itself, under the same address.
    app.web.process()?.kill('SIGKILL');
    await expect
      .poll(
        () =>
          fetch(`${app.url}/api/v1/health`).then(
            (r) => r.status,
            () => 0,
          ),
        { timeout: 120_000 },
      )
      .toBe(200);

    // The application goes on; a further load comes in, and every stored invariant holds.
    const good = await send(
      'good.csv',
      Buffer.from(`${COLUMNS.join(',')}\nG1,1,2026-05-01,100,2.00,x\nG1,2,2026-05-01,400,-2.00,x\n`),
      { entity: 'ONE' },
    );
    await until(good, (l) => l.status === 'loaded');
    const { tie } = await ask<{ tie: { ok: boolean } }>('/trial-balance?entity=ONE&window=everything');
    expect(tie.ok).toBe(true);
    await worker2.stop();
  } finally {
    await app.stop();
  }
});
