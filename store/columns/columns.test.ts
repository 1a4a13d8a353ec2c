import { type ChildProcess, spawn } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { resolveFigure } from '@/cases/asking/resolveFigure';
import { tick } from '@/cases/evidence/ticks';
import { bringCopiesUp } from '@/cases/loads/copyLines';
import { readLines } from '@/cases/sheets/readLines';
import { readSheet } from '@/cases/sheets/readSheet';
import { check } from '@/cases/upkeep/check';
import { sheetShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { readSplit } from '@/contracts/splits';
import { ATTRIBUTES, type Attribute, LINE_NUMBERS } from '@/core/figure';
import { SORTS } from '@/core/lineFields';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { answering } from '../asking';
import { recordSums, splitSums } from '../balances';
import { type Db, rowsOf } from '../db';
import { currencySums, ledgerPage, sortedPage } from '../lines';
import { otherSideSums } from '../otherSide';
import type { Question } from '../question';
import { taxSums } from '../taxes';
import { allParts } from './manifest';

// The copies by columns answer what the database answers from the lines themselves: every split, clause and order, over
// the demo world. The laws hold of both (cases/laws.test.ts); here each is held against the other.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation({ copied: true });
  const { rows } = await readLines(fresh.ctx, fresh.owner, {
    ...{ entity: ['KSF', 'STL'], from: '2026-07-01', to: '2026-07-31', dims: {}, limit: 40, sort: 'date' },
  } as never);
  const subjects = rows.flatMap((l, i) => (i % 3 === 0 ? [`line:${l.entity}/${l.entry}/${l.line}`] : []));
  await tick(fresh.ctx, fresh.owner, { subjects, mark: 'cast' });
});
afterAll(() => fresh?.close());

const KSF = 'entity=KSF&from=2027.04&to=2027.06';
/** A question as the copies answer it, and as the database does, which may take its time. */
async function both(query: string): Promise<{ db: Db; copied: Question; stored: Question }> {
  const asked = await resolveFigure(fresh.ctx, fresh.owner, readQuery(scopeShape, new URLSearchParams(query)));
  const { question } = await asked.ask(fresh.ctx, []);
  expect(question.columns, 'the copies answer').toBeDefined();
  return { db: fresh.ctx.work, copied: question, stored: asked.unweighed };
}
const inOrder = (rows: readonly object[]): string[] =>
  rows.map((row) => JSON.stringify(Object.entries(row).sort())).sort();

async function same(query: string, by: string[]): Promise<number> {
  const { db, copied, stored } = await both(query);
  const splits = by.map((text) => readSplit(text));
  const found = await splitSums(db, copied, splits);
  expect(inOrder(found)).toEqual(inOrder(await splitSums(db, stored, splits)));
  return found.filter((s) => s.part === 3).reduce((n, s) => n + s.count, 0);
}

const SPLITS = [
  'account',
  'type',
  'entity',
  'period',
  'month',
  'week',
  'day',
  'kind',
  'size',
  'dim:vessel',
  ...ATTRIBUTES,
];

test.each(SPLITS)('a split by %s, alone and within another, over periods and over dates', async (by) => {
  expect(await same(`${KSF}&accounts=4*,6*,15*`, [by])).toBeGreaterThan(0);
  expect(
    await same('entity=KSF&entity=STL&accounts=2*,7*&from=2026-04-17&to=2026-09-12&status=all', [by, 'dim:costcentre']),
  ).toBeGreaterThan(0);
  // Without adjustments the words are the same; each third of the splits is enough to see it.
  if (SPLITS.indexOf(by) % 3 === 0) await same(`${KSF}&adjustments=without&accounts=3*,6*`, [by]);
});

/** A value that lines have, and others: some clauses of every kind. */
async function valuesOf(name: Attribute): Promise<string[]> {
  const { db, stored } = await both(`${KSF}&window=everything`.replace('from=2027.01&to=2027.06&', ''));
  const sums = await splitSums(db, stored, [readSplit(name)]);
  return [...new Set(sums.flatMap((s) => s.keys[0] ?? []))];
}

test.each(ATTRIBUTES)('clauses on %s: a value, several, none, a pattern, a range, and all but these', async (name) => {
  const values = await valuesOf(name);
  const [some = 'nothing', other = 'nothing'] = [values[0], values[values.length >> 1]];
  const exact = (value: string): string => encodeURIComponent(`~is:${value}`);
  const clauses = [
    [exact(some), exact(other)],
    ['~none'],
    [encodeURIComponent(`${some.slice(0, 2).toUpperCase()}*`)],
    [encodeURIComponent(`*${other.slice(1, 4).toLowerCase()}?*`)],
    [encodeURIComponent(`${some}..${other}`)],
    ['1..500'],
    [encodeURIComponent(`~not:${some}`)],
  ];
  let found = 0;
  for (const values of clauses)
    found += await same(`${KSF}${values.map((v) => `&${name}=${v}`).join('')}`, ['account']);
  expect(found).toBeGreaterThan(0);
});

test.each(LINE_NUMBERS)('clauses on %s: ranges, one number, none', async (name) => {
  let found = 0;
  for (const value of ['1..100', '..2.5', '3', '10.5..', '~none', '~not:1..50', '0.01..99999999'])
    found += await same(`${KSF}&${name}=${encodeURIComponent(value)}`, ['account']);
  expect(found).toBeGreaterThan(0);
});

test.each([
  'text=FUEL',
  'text=%25',
  `text=${encodeURIComponent('sørvik')}`,
  'min=1000&max=5000.50',
  'begins=1&begins=37',
  'enteredWhen=sat&enteredWhen=.14',
  'opposite=1510&opposite=4110',
  'opposite=2410&dim.vessel=TERN',
  'dim.vessel=~none&dim.costcentre=~none',
  'dim.vessel=FLEET&journal=SJ&postedBy=ihallam&text=a',
  'period=2027.02&kind=normal',
  'status=unposted',
  'ticked=yes',
  'ticked=no&min=100',
  'status=all&counterparty=~not:~none',
])('the clause %s', async (clause) => {
  await same(`${KSF}&${clause}`, ['account']);
  await same(`entity=KSF&entity=STL&from=2026-05-03&to=2026-09-20&${clause}`, ['dim:vessel']);
});

test('what is told of lines beside their sum, and what they come to in their own currencies', async () => {
  for (const by of SPLITS.filter((s) => s !== 'entry' && s !== 'type')) {
    const { db, copied, stored } = await both(`${KSF}&accounts=4*,6*,71*`);
    const split = [readSplit(by)];
    const plain = (rows: Awaited<ReturnType<typeof recordSums>>): object[] =>
      rows.map(({ keys, kept }) => ({ keys, ...kept, quantity: String(kept.quantity) }));
    expect(inOrder(plain(await recordSums(db, copied, split)))).toEqual(
      inOrder(plain(await recordSums(db, stored, split))),
    );
  }
  const { db, copied, stored } = await both('entity=KSF&entity=STL&window=everything');
  const sums = await currencySums(db, copied);
  expect(inOrder(sums)).toEqual(inOrder(await currencySums(db, stored)));
  expect(sums.length).toBeGreaterThan(0);
});

test.each(SORTS)('lines in the order of %s, up and down, page after page, with their balances', async (by) => {
  for (const descending of [false, true])
    for (const [offset, running] of [
      [0, true],
      [333, false],
    ] as const) {
      const { db, copied, stored } = await both(`entity=KSF&entity=STL&accounts=6*,71*&from=2027.01&to=2027.03`);
      const page = (question: Question) => sortedPage(db, question, [{ by, descending }], offset, 60, running);
      expect(await page(copied)).toEqual(await page(stored));
    }
});

test('lines with a word in ledger order, from a row on and from a line on', async () => {
  const { db, copied, stored } = await both(`${KSF}&accounts=4*,6*,7*&text=a&min=10`);
  const page = (question: Question, from: Parameters<typeof ledgerPage>[2]) => ledgerPage(db, question, from, 70);
  const first = await page(copied, { offset: 0, day: null });
  expect(first).toHaveLength(70);
  expect(first).toEqual(await page(stored, { offset: 0, day: null }));
  expect(await page(copied, { offset: 41, day: '2026-05-03' })).toEqual(
    await page(stored, { offset: 41, day: '2026-05-03' }),
  );
  for (const line of [first[13], first[69]]) {
    if (!line) throw new Error('the page is full');
    const after = { day: line.day, entryNumber: line.entry, entity: line.books, entry: line.entryId, line: line.line };
    expect(await page(copied, { after })).toEqual(await page(stored, { after }));
  }
});

test('a split with very many rows comes page by page, each with what the others come to, and whole in the end', async () => {
  const { db, stored } = await both(`${KSF}&accounts=6*,7*`);
  const sums = await splitSums(db, stored, [readSplit('entry')]);
  const wanted = [...new Set(sums.flatMap((s) => s.keys[0] ?? []))].sort();
  const ask = (more: string) =>
    readSheet(
      fresh.ctx,
      fresh.owner,
      readQuery(sheetShape, new URLSearchParams(`${KSF}&accounts=6*,7*&by=entry&by=account&first=700${more}`)),
    );
  const found: string[] = [];
  let debit = 0n;
  const minor = (text: string): bigint => BigInt(text.replace('.', ''));
  for (let after: string | null = '', pages = 0; after !== null; pages++) {
    expect(pages).toBeLessThan(30);
    const page = await ask(after === '' ? '' : `&after=${encodeURIComponent(after)}`);
    expect(page.tie).toMatchObject({ ok: true, offBy: '0.00' });
    const tops = page.rows.filter((r) => r.depth === 0);
    const shown = tops.reduce((sum, row) => sum + minor(row.debit), 0n);
    expect(shown + minor(page.others?.debit ?? '')).toBe(minor(page.total.debit));
    debit += shown;
    found.push(...tops.map((r) => r.member));
    if (page.others?.next === null) expect(debit).toBe(minor(page.total.debit));
    after = page.others?.next ?? null;
  }
  expect(wanted.length).toBeGreaterThan(2_000);
  // Entries of ended years have come to rest in retained earnings, and are no rows of accounts that start at nothing.
  expect(wanted).toEqual(expect.arrayContaining(found));
  expect(new Set(found).size).toBe(found.length);
  const few = readQuery(sheetShape, new URLSearchParams(`${KSF}&by=dim:vessel&after=x`));
  await expect(readSheet(fresh.ctx, fresh.owner, few)).rejects.toThrow(/leave out after/);
});

test('the other side, shared out to the last cent', async () => {
  const ways = new Set<string>();
  for (const scope of [
    `${KSF}&accounts=1510`,
    `${KSF}&accounts=6*`,
    `${KSF}&accounts=5*,2*&text=a`,
    `${KSF}&accounts=1*&entity=STL`,
    'entity=KSF&accounts=1*,2*,6*&from=2026-05-03&to=2026-09-20',
    // Two months came again: as they were, and as they are.
    'entity=KSF&accounts=6*&from=2027.03&to=2027.06&load=6',
    'entity=KSF&accounts=6*&from=2027.03&to=2027.06&load=7',
  ]) {
    const { db, copied, stored } = await both(scope);
    expect([...(copied.columns?.summed.values() ?? [])].some((of) => of.has('other'))).toBe(true);
    const sums = await otherSideSums(db, copied);
    expect(inOrder(sums)).toEqual(inOrder(await otherSideSums(db, stored)));
    for (const { exact } of sums) ways.add(`${exact}`);
  }
  // Of entries with one line on a side, and of those with several on both.
  expect(ways).toEqual(new Set(['true', 'false']));
});

test('the tax on lines, by code', async () => {
  const { db, copied, stored } = await both('entity=KSF&entity=STL&window=everything');
  const sums = await taxSums(db, copied, 2);
  expect(inOrder(sums)).toEqual(inOrder(await taxSums(db, stored, 2)));
  expect(sums.some(({ tax }) => tax !== 0)).toBe(true);
});

test('a copy that is not as the lines are is found', async () => {
  const found = async () => {
    for await (const { what, ok, detail } of check(fresh.ctx)) if (what === 'copies by columns') return { ok, detail };
    return null;
  };
  expect(await found()).toMatchObject({ ok: true, detail: expect.stringMatching(/^[\d,]{5,} lines agree$/) });
  // A line that was changed in the database by hand is not in the copy.
  await fresh.superuser.raw('update line set d1 = d1 + 1 where entry = 77 and line_no = 1');
  expect(await found()).toMatchObject({ ok: false });
  await fresh.superuser.raw('update line set d1 = d1 - 1 where entry = 77 and line_no = 1');
  expect(await found()).toMatchObject({ ok: true });
});

test('a question to the copies is stopped when its time is over, and when nobody waits for it', async () => {
  const { columns } = fresh.ctx;
  const endless = 'select count(*) as n from range(100000000000) a where a.range % 7 = 3';
  await expect(columns.rows(endless, [], 80)).rejects.toMatchObject({ code: '57014' });
  const gone = new AbortController();
  const asked = answering({ id: 'x', signal: gone.signal, person: null }, () => columns.rows(endless, [], null));
  setTimeout(() => gone.abort(), 80);
  await expect(asked).rejects.toThrow(/nobody waits/);
  // What stopped it does not stop what comes after on the same connection.
  expect(await columns.rows('select 1 as one', [], 1_000)).toEqual([{ one: 1 }]);
});

test('an owner is told what answered a question, and why', async () => {
  const explained: { of: string; why?: string; ms: number }[] = [];
  const asking = { id: 'x', signal: new AbortController().signal, person: null, explained };
  await answering(asking, () => same(`${KSF}&journal=SJ`, ['account']));
  expect(explained).toContainEqual(
    expect.objectContaining({ of: 'copies by columns', why: 'sums do not know journal' }),
  );
  expect(explained.some(({ of, why }) => of.split(' ').includes('line') && why === 'sums do not know journal')).toBe(
    true,
  );
});

describe('a copy that cannot answer', () => {
  test('is not asked: its file gone, or changed books, or a number that is too long', async () => {
    const ask = async (query: string) => {
      const asked = await resolveFigure(fresh.ctx, fresh.owner, readQuery(scopeShape, new URLSearchParams(query)));
      return (await asked.ask(fresh.ctx, [])).question.columns;
    };
    expect(await ask(KSF)).toBeDefined();
    expect(await ask(`${KSF}&quantity=${'9'.repeat(60)}..`)).toBeUndefined();
    await rowsOf(fresh.ctx.work, 'update books_change set times = times + 1 returning 1');
    // Whoever read before knows the books as they were; the stamp of a load makes them look again.
    await rowsOf(fresh.ctx.work, 'update catalogue_change set times = times + 1 returning 1');
    expect(await ask(KSF)).toBeUndefined();
    expect(await bringCopiesUp(fresh.ctx)).toBe('0 lines were copied');
    expect(await ask(KSF)).toBeDefined();
    const [part] = await allParts(fresh.ctx.work);
    if (!part) throw new Error('there is a copy');
    const path = join(fresh.ctx.columns.folder, part.file);
    rmSync(path);
    await fresh.ctx.columns.close();
    expect(await ask(KSF)).toBeUndefined();
    // What is no copy at all is not taken for one, and does not stop anybody.
    writeFileSync(path, 'this is no copy');
    expect(await ask(KSF)).toBeUndefined();
    expect(await bringCopiesUp(fresh.ctx)).toMatch(/^[\d,]{5,} lines were copied$/);
    // Whoever made it does not keep it from others, such as a web server beside the process of the job.
    const made = (await allParts(fresh.ctx.work)).map((p) => join(fresh.ctx.columns.folder, p.file));
    for (const file of made) {
      const reads = elsewhere(`attach '${file}' as p (read_only)`);
      expect(await reads.opened).toBe(true);
      await reads.letGo();
    }
    // One that is held for a moment is tried again.
    const holds = elsewhere(`attach '${made[0]}' as p`);
    expect(await holds.opened).toBe(true);
    expect(await ask(KSF)).toBeUndefined();
    await holds.letGo();
    await expect.poll(() => ask(KSF), { timeout: 20_000 }).toBeDefined();
  });

  /** Another process that does something with a database, and stays until it is let go. */
  function elsewhere(sql: string): { opened: Promise<boolean>; letGo(): Promise<void> } {
    const program = `const { DuckDBInstance } = await import('@duckdb/node-api');
      const db = await (await DuckDBInstance.create()).connect();
      await db.run(${JSON.stringify(sql)});
      console.log('opened');
      setTimeout(() => {}, 60_000);`;
    const child = spawn(process.execPath, ['--input-type=module', '-e', program], {
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    const opened = new Promise<boolean>((resolve) => {
      child.stdout.once('data', () => resolve(true));
      child.once('exit', () => resolve(false));
    });
    children.push(child);
    const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
    return {
      opened,
      letGo: () => {
        child.kill('SIGKILL');
        return gone;
      },
    };
  }
});
const children: ChildProcess[] = [];
afterAll(() => {
  for (const child of children) child.kill('SIGKILL');
});
