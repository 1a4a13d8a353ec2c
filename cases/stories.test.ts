import { afterAll, beforeAll, expect, test } from 'vitest';
import type { z } from 'zod';
import {
  linesShape,
  marksShape,
  overTimeShape,
  searchShape,
  sheetShape,
  statementShape,
  totalsShape,
  trialBalanceShape,
  whatMovedShape,
} from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { rowsOf } from '@/store/db';
import { walkRecord } from '@/store/record';
import { readSentence } from './asking/readSentence';
import type { Viewer } from './asking/viewer';
import { readAccounts } from './charts/accounts';
import { readDimensions } from './charts/dimensions';
import { listParties } from './charts/parties';
import { readDocument } from './documents/readDocument';
import { readFiles } from './documents/readFiles';
import type { Work } from './jobs/work';
import { proveLoad } from './loads/proveLoad';
import { signIn, viewerOfSession } from './people/signIn';
import { search } from './search/search';
import { readMarks } from './sheets/marks';
import { readLines } from './sheets/readLines';
import { readOtherSide } from './sheets/readOtherSide';
import { readOverTime } from './sheets/readOverTime';
import { readSheet } from './sheets/readSheet';
import { readTotals } from './sheets/readTotals';
import { readTrialBalance } from './sheets/readTrialBalance';
import { readWhatMoved } from './sheets/readWhatMoved';
import { readStatement } from './statements/readStatement';

// Each planted story of the demo world can be found with the product alone; and who may see what.

let fresh: Fresh;
let ines: Viewer;
beforeAll(async () => {
  fresh = await demoInstallation();
  ines = fresh.owner;
});
afterAll(() => fresh?.close());

const lines = async (query: string) =>
  (await readLines(fresh.ctx, ines, readQuery(linesShape, new URLSearchParams(query)))).rows;
const split = async (query: string) =>
  (await readSheet(fresh.ctx, ines, readQuery(sheetShape, new URLSearchParams(query)))).rows;
const closing = async (query: string) => {
  const { rows } = await readTrialBalance(fresh.ctx, ines, readQuery(trialBalanceShape, new URLSearchParams(query)));
  return Object.fromEntries(rows.map((r) => [r.account, r.closing]));
};

test('1 the same stage invoice stands under two document numbers and on two projects', async () => {
  const found = await lines('entity=KSF&accounts=6320&min=410200&max=410200');
  expect(
    (await lines('entity=KSF&accounts=6320&from=2027.04&to=2027.04')).map((l) => [
      l.document,
      l.dims.find((d) => d.dimension === 'project')?.code,
    ]),
  ).toEqual([
    ['NS-20631', 'DD-MAR-26'],
    ['NS-2063I', 'LINK-BRE'],
  ]);
  expect(found).toEqual([]); // the latest period has none: the story is in July
});

test('2 a quarter of one grant is in the unrestricted fund', async () => {
  const rows = await split('entity=KSF&accounts=4310&from=2027.01&to=2027.03&by=dim:fund');
  expect(rows.map((r) => r.member)).toEqual(['G-BRE', 'G-SKA', 'G-TOL', 'UNR']);
});

test('3 the insurance prepayment ends in credit', async () => {
  expect(await closing('entity=KSF&accounts=1410')).toEqual({ '1410': '-156000.00' });
});

test('4 fuel was bunkered for a vessel in a week in which it did not sail', async () => {
  const week = 'entity=KSF&from=2026-07-06&to=2026-07-12&dim.vessel=MAREN';
  expect((await lines(`${week}&accounts=6210`)).map((l) => [l.entry, l.quantity])).toEqual([['PI-KSF-90702', '38000']]);
  expect(await lines(`${week}&accounts=41*`)).toEqual([]);
});

test('5 seven till differences, small and round, all by one cashier', async () => {
  const found = await lines('entity=STL&accounts=2990&window=everything');
  expect(found.map((l) => l.postedBy)).toEqual(new Array(7).fill('cashier07'));
  expect(found.every((l) => Number(l.debit) % 20 === 0 && Number(l.debit) < 100)).toBe(true);
});

test('6 and 7 a weekend entry reversed in the next period; an invoice dated a year ahead of its period', async () => {
  const weekend = await lines('entity=KSF&accounts=4410&from=2027.05&to=2027.06&postedBy=rquill');
  expect(weekend.map((l) => [l.date, new Date(l.date).getUTCDay(), l.amount])).toEqual([
    ['2026-08-29', 6, '-250000.00'],
    ['2026-09-02', 3, '250000.00'],
  ]);
  const typed = await lines('entity=KSF&accounts=6310&period=2027.03&from=2027.03&to=2027.03&sort=-date&limit=1');
  expect(typed.map((l) => [l.date, l.period])).toEqual([['2027-06-11', '2027.03']]);
  // Of all lines of the account it is the one whose date does not belong, and it says why.
  const repairs = await lines('entity=KSF&accounts=6310&window=everything&limit=1000');
  const marked = repairs.filter((r) => r.outOfOrder);
  expect(marked.map((r) => [r.entry, r.standsOut?.[0]])).toEqual([
    ['PI-KSF-90307', 'entered 364 days from the day it is booked on; usual here is the same day'],
  ]);
});

test('8 harbour dues of March are in period 13 of one company and in April of the other', async () => {
  expect(
    (await lines('entity=STL&accounts=4511&from=2026.12&to=2026.13&text=HD-2026-03')).map((l) => l.period),
  ).toEqual(['2026.13']);
  expect(
    new Set((await lines('entity=KSF&accounts=6410&window=everything&text=HD-2026-03')).map((l) => l.period)),
  ).toEqual(new Set(['2027.01']));
});

test('9 and 10 an accrual that was not reversed, so that the cost counts twice; tax of a charter in its income', async () => {
  expect(await closing('entity=KSF&accounts=2192&to=2026.11')).toEqual({ '2192': '0.00' });
  expect(await closing('entity=KSF&accounts=2192')).toEqual({ '2192': '-81400.00' });
  expect((await lines('entity=KSF&accounts=6350&from=2026.12&to=2027.01')).map((l) => l.amount)).toEqual([
    '81400.00',
    '81400.00',
  ]);
  const charters = 'entity=KSF&accounts=4410&from=2027.04&to=2027.06&document=CH-*&by=document';
  const untaxed = await split(`${charters}&taxCode=~none`);
  expect((await split(charters)).map((r) => r.member)).toEqual(['CH-0061', 'CH-0062', 'CH-0063']);
  expect(untaxed.map((r) => [r.member, r.movement])).toEqual([['CH-0062', '-13800.00']]);
});

test('11, 13 and 15 a lost invoice number, a storm week without sailings, a line on a dormant account', async () => {
  expect(await lines('entity=KSF&window=everything&document=FI-00871')).toEqual([]);
  expect((await lines('entity=KSF&window=everything&document=FI-00870')).length).toBeGreaterThan(0);
  const { gaps } = await proveLoad(fresh.ctx, ines, 5);
  expect(gaps).toContainEqual({ entity: 'KSF', from: 'FI-00871', to: 'FI-00871', count: 1 });
  expect(
    (await split('entity=KSF&accounts=41*&from=2026-02-09&to=2026-02-15&dim.route=R5&by=day')).map((r) => r.member),
  ).toEqual(['2026-02-09']);
  expect((await lines('entity=KSF&accounts=2992&window=everything')).map((l) => l.entry)).toEqual(['JE-KSF-90515']);
});

test('16 two suppliers are paid into one bank account, in turn just under the limit, approved by one person', async () => {
  const { rows } = await listParties(fresh.ctx, ines);
  expect(rows.find((p) => p.code === 'S-418')).toMatchObject({ sameBank: ['S-404'], nearName: ['S-404'] });
  const both =
    'entity=KSF&accounts=2110&window=everything&journal=PI&counterparty=S-404&counterparty=S-418&approvedBy=rquill';
  const found = await lines(both);
  expect(found.map((l) => l.counterparty)).toEqual(['S-404', 'S-418', 'S-404', 'S-418', 'S-404', 'S-418']);
  for (const { credit } of found) {
    expect(Number(credit)).toBeGreaterThan(4_950);
    expect(Number(credit)).toBeLessThan(5_000);
  }
  // Nobody else's invoices are approved by that person.
  expect(await lines('entity=KSF&accounts=2110&window=everything&approvedBy=rquill')).toHaveLength(6);
});

test('17 a change order is billed by itself and within the next stage, so that more is billed than the contract is worth', async () => {
  const contract = await readDocument(fresh.ctx, ines, 'CON-LINK-BRE', {});
  expect(contract).toMatchObject({ amount: '1240000.00', value: '1357500.00', open: '-31500.00' });
  expect(contract.state).toBe('billed for more than it is worth');
  const [, second] = contract.events.filter((e) => e.changes);
  expect(second).toMatchObject({ document: 'CO-LINK-BRE-2', applied: '-31500.00' });
  expect(
    (await lines('entity=KSF&accounts=1130&window=everything&min=31500&max=31500')).map((l) => l.document),
  ).toEqual(['BSW-3391']);
  // What both papers say of it is found in what is written on them.
  await readFiles({ ctx: fresh.ctx, tell: async () => {} } as unknown as Work);
  const hits = await search(fresh.ctx, ines, readQuery(searchShape, new URLSearchParams('q=fender piles&kind=file')));
  expect(hits.hits.map((h) => h.label).sort()).toEqual(['BSW-3391.pdf', 'BSW-3420.pdf', 'CON-LINK-BRE.pdf']);
});

test('18 a deposit is less than the receipts that it holds, and the rest comes a week later on another account', async () => {
  const held = await readDocument(fresh.ctx, ines, 'DEP-0262', {});
  expect([held.settles.length, held.amount]).toEqual([7, '5485.00']);
  const receipts = await Promise.all(held.settles.map((s) => readDocument(fresh.ctx, ines, s.document, {})));
  const taken = receipts.reduce((all, r) => all + Math.round(Number(r.amount) * 100), 0);
  expect(taken - 548_500).toBe(105_000);
  const short = receipts.find((r) => r.events.length > 2);
  expect(short?.events.slice(1).map((e) => [e.document, e.applied, e.date])).toEqual([
    ['DEP-0262', '47.10', '2026-02-18'],
    ['DEP-0262R', '1050.00', '2026-02-25'],
  ]);
  const bank = async (document: string) =>
    (await lines(`entity=KSF&window=everything&accounts=152*&document=${document}`))[0];
  expect([(await bank('DEP-0262'))?.account, (await bank('DEP-0262R'))?.account]).toEqual(['1520', '1521']);
});

test('a session stands for its person and grant; a wrong password opens nothing', async () => {
  const secret = await signIn(fresh.ctx, 'Col@Kestrel.example', 'harrowick-quay', { address: '127.0.0.1', agent: '' });
  const col = (await viewerOfSession(fresh.ctx, secret)) as Viewer;
  expect(col).toMatchObject({ name: 'Col Marsh', role: 'reader', entities: ['KSF'] });
  await expect(
    readTrialBalance(fresh.ctx, col, readQuery(trialBalanceShape, new URLSearchParams('entity=STL'))),
  ).rejects.toMatchObject({ status: 404 });
  const own = await readTrialBalance(fresh.ctx, col, readQuery(trialBalanceShape, new URLSearchParams('')));
  expect(own.sentence).toMatch(/^Kestrel Sound Ferries Ltd,/);
  await expect(
    signIn(fresh.ctx, 'col@kestrel.example', 'harrowick', { address: '127.0.0.1', agent: '' }),
  ).rejects.toMatchObject({ status: 401 });
  expect(await viewerOfSession(fresh.ctx, `${secret}x`)).toBeNull();
  const [kept] = await rowsOf<{ password_hash: string }>(
    fresh.ctx.work,
    `select password_hash from person where email = 'col@kestrel.example'`,
  );
  expect(kept?.password_hash).toMatch(/^\$argon2id\$/);
});

test('the record is only ever added to, and a broken link of its chain is found', async () => {
  // Whoever answers requests, and whoever loads, may not even try; whoever owns the database is stopped by it.
  for (const db of [fresh.ctx.write, fresh.ctx.work]) {
    await expect(db.raw(`update record set act = 'nothing'`)).rejects.toThrow(/permission denied/);
    await expect(db.raw('delete from record')).rejects.toThrow(/permission denied/);
    await expect(db.raw('alter table record disable trigger all')).rejects.toThrow(/must be owner/);
  }
  await expect(fresh.superuser.raw('delete from record')).rejects.toThrow(/only ever added to/);
  expect((await walkRecord(fresh.ctx.work)).brokenAt).toBeNull();
  await fresh.superuser.raw('alter table record disable trigger record_is_final');
  await fresh.superuser.raw(`update record set person_name = 'Somebody Else' where id = 3`);
  expect((await walkRecord(fresh.ctx.work)).brokenAt).toBe(3);
});

test('a question that must read very many lines says so before it runs, and what would help; asked all the same it is answered', async () => {
  const ctx = { ...fresh.ctx, heavyLines: 20_000 };
  const sheet = (query: string) => readSheet(ctx, fresh.owner, readQuery(sheetShape, new URLSearchParams(query)));
  const scope = 'entity=KSF&from=2027.01&to=2027.06&by=dim:vessel';
  // One dimension comes from sums, however many lines there are.
  expect((await sheet(scope)).tie.ok).toBe(true);
  const refused = await sheet(`${scope}&postedBy=mhald`).catch((error: unknown) => error);
  expect(refused).toMatchObject({
    status: 409,
    kind: 'heavy',
    title: expect.stringMatching(/^This has to read [\d,]+ lines one by one/),
  });
  // Its words are there before its answer.
  expect(
    (
      await readSentence(
        ctx,
        fresh.owner,
        readQuery(scopeShape, new URLSearchParams('entity=KSF&from=2027.01&to=2027.06&postedBy=mhald')),
      )
    ).sentence,
  ).toContain('posted by mhald');
  // A strip of the thread is no question of its own: it leaves out what would take long.
  const strip = (of: typeof ctx) =>
    readTotals(
      of,
      fresh.owner,
      readQuery(totalsShape, new URLSearchParams('entity=KSF&from=2027.01&to=2027.06&column=largest')),
    );
  expect((await strip(ctx)).values?.largest).toBeNull();
  expect((await strip(fresh.ctx)).values?.largest).not.toBeNull();
  await expect(sheet(`${scope}&column=largest`)).rejects.toThrow(/one by one/);
  const { errors } = refused as { errors: { path: string; put?: Record<string, string[]> }[] };
  expect(errors.find((e) => e.path === 'postedBy')?.put).toEqual({ postedBy: [] });
  // Each kind of account that it offers is light enough.
  const offered = errors.flatMap((e) => e.put?.accounts ?? []);
  expect(offered.length).toBeGreaterThan(0);
  for (const accounts of offered)
    expect((await sheet(`${scope}&postedBy=mhald&accounts=${accounts}`)).tie.ok).toBe(true);
  expect((await sheet(`${scope}&postedBy=mhald&heavy=run`)).total).toEqual(
    (await readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, new URLSearchParams(`${scope}&postedBy=mhald`))))
      .total,
  );
});

test('whatever is asked of a figure is weighed before it is run, be it a sheet, a statement, a panel or a chart', async () => {
  const ctx = { ...fresh.ctx, heavyLines: 500 };
  const scope = 'entity=KSF&from=2027.01&to=2027.06&postedBy=mhald';
  const asked = <Shape extends z.ZodRawShape>(shape: Shape, more = '') =>
    readQuery(shape, new URLSearchParams(`${scope}${more}`));
  const questions: Record<string, () => Promise<unknown>> = {
    'trial balance': () => readTrialBalance(ctx, ines, asked(trialBalanceShape)),
    'its columns': () => readTrialBalance(ctx, ines, asked(trialBalanceShape, '&column=year-before')),
    'income statement': () => readStatement(ctx, ines, 'income', asked(statementShape)),
    'cash flow': () => readStatement(ctx, ines, 'cashflow', asked(statementShape)),
    'tax return': () => readStatement(ctx, ines, 'tax', asked(statementShape)),
    'in another currency': () => readStatement(ctx, ines, 'income', asked(statementShape, '&in=NOK')),
    split: () => readSheet(ctx, ines, asked(sheetShape, '&by=dim:vessel')),
    strip: () => readTotals(ctx, ines, asked(totalsShape)),
    lines: () => readLines(ctx, ines, asked(linesShape)),
    'over time': () => readOverTime(ctx, ines, asked(overTimeShape)),
    'what moved': () => readWhatMoved(ctx, ines, asked(whatMovedShape)),
    'other side': () => readOtherSide(ctx, ines, asked(scopeShape)),
    'what stands out': () => readMarks(ctx, ines, asked(marksShape)),
    accounts: () => readAccounts(ctx, ines, asked(scopeShape)),
    dimensions: () => readDimensions(ctx, ines, asked(scopeShape)),
  };
  for (const [name, ask] of Object.entries(questions)) {
    const refused = await ask().catch((error: unknown) => error);
    expect([name, refused]).toEqual([name, expect.objectContaining({ status: 409, kind: 'heavy' })]);
  }
});

test('the trial balance by statutory codes has the same total, each heading taking its accounts; inactive accounts without balances can be left out', async () => {
  const tb = (query: string) =>
    readTrialBalance(
      fresh.ctx,
      fresh.owner,
      readQuery(trialBalanceShape, new URLSearchParams(`entity=KSF&from=2027.04&to=2027.06&${query}`)),
    );
  const house = await tb('tree=no');
  const codes = await tb('tree=yes&scheme=statutory');
  expect(codes.schemes).toEqual(['statutory']);
  expect(codes.totals).toEqual(house.totals);
  expect(
    codes.rows
      .filter((r) => !r.heading)
      .map((r) => r.account)
      .sort(),
  ).toEqual(house.rows.map((r) => r.account).sort());
  const crew = codes.rows.find((r) => r.name === '70 Pay of crews');
  const taken = await tb(`tree=no&accounts=${crew?.selection}`);
  expect([crew?.opening, crew?.movement, crew?.closing]).toEqual([
    taken.totals.opening,
    taken.totals.movement,
    taken.totals.closing,
  ]);
  // The scheme's own heading stands above its codes and comes to what they come to.
  const people = codes.rows.findIndex((r) => r.name === '7 People');
  expect(codes.rows[people + 1]).toMatchObject({ name: '70 Pay of crews', depth: 1 });
  expect(codes.rows[people]?.closing).toBe((await tb('tree=no&accounts=7*')).totals.closing);
  await expect(tb('tree=yes&scheme=none')).rejects.toMatchObject({ errors: [{ path: 'scheme' }] });
  const [all, active] = [await tb('zero=show'), await tb('zero=active')];
  const idle = all.rows.filter((r) => !active.rows.some((a) => a.account === r.account));
  expect(idle.length).toBeGreaterThan(0);
  expect(idle.every((r) => r.closing === '0.00' && r.count === 0)).toBe(true);
  expect(active.totals).toEqual(all.totals);
});

test('a figure by transaction currency says what moved in each, where its lines do', async () => {
  const rows = await split('entity=KSF&accounts=6320&from=2027.04&to=2027.04&by=currency');
  expect(rows.map((r) => [r.member, r.movement, (r as { inCurrency?: string | null }).inCurrency])).toEqual([
    ['NOK', '820400.00', '10993360.00'],
  ]);
  const all = await split('entity=KSF&accounts=2122&from=2027.04&to=2027.06&by=currency');
  expect(all.find((r) => r.member === '~none')).toMatchObject({ inCurrency: null });
});

test('the parts of retained earnings add up to its opening, and each traces to the lines that made it', async () => {
  for (const window of ['from=2027.04&to=2027.06', 'from=2026-08-15&to=2026-09-30']) {
    const scope = `entity=KSF&${window}`;
    const tb = await readTrialBalance(
      fresh.ctx,
      fresh.owner,
      readQuery(trialBalanceShape, new URLSearchParams(`${scope}&retained=parts`)),
    );
    const retained = tb.rows.find((r) => r.account === '3120');
    const minor = (text: string): number => Math.round(Number(text) * 100);
    expect(retained?.parts?.map((p) => p.year)).toEqual([2025, 2026, null]);
    expect(retained?.parts?.reduce((sum, p) => sum + minor(p.opening), 0)).toBe(minor(retained?.opening ?? ''));
    for (const part of retained?.parts ?? []) {
      const params = new URLSearchParams(scope);
      for (const [name, value] of Object.entries(part.refine ?? {})) {
        params.delete(name);
        if (value) params.set(name, value);
      }
      const { total } = await readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, params));
      // A year's result is what moved in it; what was booked directly includes the opening that was loaded.
      expect([
        part.label,
        part.year === null ? minor(total.opening) + minor(total.movement) : minor(total.movement),
      ]).toEqual([part.label, minor(part.opening)]);
    }
  }
});
