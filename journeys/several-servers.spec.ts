import { expect, test } from '@playwright/test';
import { runJobsHere } from '@/cases/jobs/runJob';
import { makeToken } from '@/cases/people/tokens';
import { check } from '@/cases/upkeep/check';
import { Random } from '@/demo/random';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { type App, startApp } from '@/ops/installation';
import { freePort } from '@/ops/postgres';
import { startLedgerFeed } from '@/standins/ledgerFeed';
import { rowsOf } from '@/store/db';

// Two web servers and two workers on one database, each of them killed again and again with no time to say anything:
// every load comes to count once and in its order, every entry of the source once, and every stored invariant holds.

const LOADS = 3;
const KILLS = 3;
const KILL_EVERY_MS = 1_500;
const ENTRIES = 2_500;
const DAYS = 4;
/** A server that lives and does not answer for so long has a fault, which is named. */
const HANGS_MS = 60_000;

/** On a busy machine a server that was killed takes so long to come back at the most. */
const BACK_MS = 180_000;

/** A server that was killed gives no answer, and another is asked. */
const cut =
  (what: string) =>
  (error: Error): null => {
    if (error.name === 'TimeoutError') throw new Error(`${what}: no answer within ${HANGS_MS / 1000} s`);
    return null;
  };

let fresh: Fresh;
test.beforeAll(async () => {
  fresh = await freshInstallation();
});
test.afterAll(() => fresh?.close());

test('loads and pulls from several servers, killed at random, come whole, once and in order', async () => {
  test.setTimeout(600_000);
  const random = new Random(20_261_128);
  const headers = { authorization: `Bearer ${await makeToken(fresh.ctx, 'owner@test.example')}` };
  const apps: App[] = [];
  const feed = await startLedgerFeed((day) =>
    Array.from({ length: 60 }, (_, i) => ({
      Journal_ID: `F-${day}-${Math.floor(i / 2)}`,
      Journal_ID_Line_Number: String((i % 2) + 1),
      JE_Header_Description: 'Fares',
      JE_Line_Description: 'Fares',
      Business_Unit_Code: 'ONE',
      Effective_Date: `2026-04-${String(day).padStart(2, '0')}`,
      GL_Account_Number: i % 2 === 0 ? '100' : '400',
      Amount: '1.00',
      Amount_Credit_Debit_Indicator: i % 2 === 0 ? 'D' : 'C',
      Amount_Currency: 'GBP',
      Source: 'TS',
      Entered_By: 'ticketing',
    })),
  );
  feed.publish(1);
  try {
    for (let i = 0; i < 2; i++) apps.push(await startApp(fresh.env, await freePort()));
    /** Asks either server, again where it was killed under the question. */
    const ask = async <Answer>(path: string, init: RequestInit = {}): Promise<Answer> => {
      for (const until = Date.now() + BACK_MS; ; ) {
        const app = apps[random.whole(0, apps.length - 1)] as App;
        const answer = await fetch(`${app.url}/api/v1${path}`, {
          ...init,
          headers: { ...headers, ...(init.headers as object) },
          signal: AbortSignal.timeout(HANGS_MS),
        }).catch(cut(path));
        // A server may be killed when half of its answer is out.
        const whole = answer?.ok ? await answer.json().catch(cut(path)) : undefined;
        if (whole) return whole as Answer;
        if (Date.now() > until || (answer && !answer.ok && answer.status < 500))
          throw new Error(`${path}: ${answer?.status} ${await answer?.text()}`);
        await new Promise((resolve) => setTimeout(resolve, 150));
      }
    };
    interface Load {
      id: number;
      file: string;
      status: string;
      lines: number;
      message: string | null;
    }
    const loads = async (): Promise<Load[]> => (await ask<{ rows: Load[] }>('/loads?limit=200')).rows;
    /** A request that was cut may have been taken or not: whether the file is there tells. */
    const send = async (name: string, content: string, fields: Record<string, string>): Promise<void> => {
      for (const until = Date.now() + BACK_MS; Date.now() < until; ) {
        const form = new FormData();
        for (const [key, value] of Object.entries(fields)) form.append(key, value);
        form.append('file', new Blob([content]), name);
        const app = apps[random.whole(0, apps.length - 1)] as App;
        const signal = AbortSignal.timeout(HANGS_MS);
        const answer = await fetch(`${app.url}/api/v1/loads`, { method: 'POST', body: form, headers, signal }).catch(
          cut(name),
        );
        if (answer?.ok || (await loads()).some((l) => l.file === name)) return;
        await new Promise((resolve) => setTimeout(resolve, 150));
      }
      throw new Error(`${name} was not taken`);
    };

    const calendar = { kind: 'monthly', start: '04', adjustmentPeriods: 1 };
    const entity = { code: 'ONE', name: 'One', currency: 'GBP', calendar, yearEnd: 'derived', retainedEarnings: '300' };
    await ask('/entities', {
      method: 'POST',
      body: JSON.stringify(entity),
      headers: { 'content-type': 'application/json' },
    });
    await send('chart.csv', 'code,name,type\n100,Cash,asset\n300,Retained,equity\n400,Sales,income\n', {
      kind: 'accounts',
      entity: 'ONE',
    });
    const source = { name: 'Feed', url: feed.url, entity: 'ONE', privateAllowed: true };
    const { id: connection } = await ask<{ id: number }>('/connections', {
      method: 'POST',
      body: JSON.stringify(source),
      headers: { 'content-type': 'application/json' },
    });
    await expect.poll(async () => (await loads())[0]?.status, { timeout: 60_000 }).toBe('loaded');

    const killing = (async () => {
      for (let i = 0; i < KILLS; i++) {
        await new Promise((resolve) => setTimeout(resolve, KILL_EVERY_MS));
        const app = apps[random.whole(0, 1)] as App;
        (random.whole(0, 2) === 0 ? app.web : app.worker)?.process()?.kill('SIGKILL');
      }
    })();
    const columns = ['entry', 'line', 'date', 'account', 'amount', 'description'];
    // Read row by row, since something is put into every row, so that there is time to kill whoever reads.
    const constants = { source: 'by hand' };
    const mapping = JSON.stringify({ columns: Object.fromEntries(columns.map((c) => [c, c])), constants });
    for (let n = 0; n < LOADS; n++) {
      const rows = Array.from(
        { length: ENTRIES },
        (_, i) => `L${n}-${i},1,2026-05-03,100,1.00,x\nL${n}-${i},2,2026-05-03,400,-1.00,x`,
      );
      await send(`load-${n}.csv`, `${columns.join(',')}\n${rows.join('\n')}\n`, { entity: 'ONE', mapping });
      if (n < DAYS - 1) feed.publish(1);
      await ask(`/connections/${connection}/pull`, { method: 'POST' });
    }
    await killing;
    const underWay = async (): Promise<string[]> => {
      const all = await loads();
      const open = all
        .filter((l) => l.status !== 'loaded' && l.status !== 'refused')
        .map((l) => `${l.file}: ${l.status}`);
      return all.length >= LOADS + 1 ? open : [...open, `${all.length} loads`];
    };
    // What a killed worker had in hand is taken up by another once its beat has been missed; five of them may come one after the other.
    await expect.poll(underWay, { timeout: 300_000, intervals: [500] }).toEqual([]);
    // What was published while a pull was under way comes with the next.
    const fed = async (): Promise<number> =>
      (
        await rowsOf<{ n: number }>(
          fresh.ctx.work,
          `select count(*)::integer as n from line where entry_number like 'F-%'`,
        )
      )[0]?.n ?? 0;
    await expect
      .poll(
        async () => {
          await ask(`/connections/${connection}/pull`, { method: 'POST' });
          return fed();
        },
        { timeout: 90_000, intervals: [1_000] },
      )
      .toBe(DAYS * 60);

    const all = (await loads()).reverse();
    expect(all.filter((l) => l.status !== 'loaded').map((l) => `${l.file}: ${l.message}`)).toEqual([]);
    expect(all.map((l) => l.id)).toEqual(all.map((_, i) => i + 1));
    for (let n = 0; n < LOADS; n++)
      expect([n, all.filter((l) => l.file === `load-${n}.csv`).map((l) => l.lines)]).toEqual([n, [ENTRIES * 2]]);
    const inOrder = await rowsOf<{ subject: string }>(
      fresh.ctx.work,
      `select subject from record where act = 'loaded' order by id`,
    );
    expect(inOrder.map((r) => r.subject)).toEqual(all.map((l) => `load ${l.id}`));
    expect((await ask<{ tie: { ok: boolean } }>('/trial-balance?entity=ONE&window=everything')).tie.ok).toBe(true);
  } finally {
    await Promise.all(apps.map((app) => app.stop()));
    await feed.close();
  }
  await runJobsHere(fresh.ctx);
  for await (const { what, ok, detail } of check(fresh.ctx)) expect([what, ok, detail]).toEqual([what, true, detail]);
});
