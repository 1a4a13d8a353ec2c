import { afterAll, beforeAll, expect, test } from 'vitest';
import { journalShape, seriesShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import type { DemoEntry } from '@/demo/entry';
import { demoWorld } from '@/demo/world/demoWorld';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import { setEntryOrigins } from '../charts/entryOrigins';
import { readEntry } from '../sheets/readEntry';
import { readJournal, readSeries } from './readJournal';

// The yard's books, which were delivered once: what is read of them is held against the entries that were delivered.

let fresh: Fresh;
const entries: DemoEntry[] = [];
beforeAll(async () => {
  fresh = await demoInstallation();
  entries.push(...[...demoWorld()].filter((e) => e.entity === 'NHS' && e.status !== 'unposted'));
});
afterAll(() => fresh?.close());

const ask = (query: string, viewer = fresh.owner) =>
  readJournal(fresh.ctx, viewer, readQuery(journalShape, new URLSearchParams(query)));
const money = (ore: number): string => (ore / 100).toFixed(2);
const inOrder = (a: DemoEntry, b: DemoEntry): number =>
  a.date === b.date ? (a.number < b.number ? -1 : 1) : a.date < b.date ? -1 : 1;

test.each([
  [
    'journal=YI&from=2026-01-01&to=2026-06-30',
    (e: DemoEntry) => e.journal === 'YI' && e.date >= '2026-01-01' && e.date <= '2026-06-30',
  ],
  [
    'documentType=invoice&from=2025-05-01&to=2025-05-31',
    (e: DemoEntry) => e.documentType === 'invoice' && e.date >= '2025-05-01' && e.date <= '2025-05-31',
  ],
  [
    'accounts=6512&from=2026-03-01&to=2026-03-31',
    (e: DemoEntry) => e.lines.some((l) => l.account === '6512') && e.date >= '2026-03-01' && e.date <= '2026-03-31',
  ],
])('the entries of %s are read in full, each once, page after page', async (scope, is) => {
  const expected = entries.filter((e) => e.kind !== 'opening' && is(e)).sort(inOrder);
  expect(expected.length).toBeGreaterThan(5);
  const read = [];
  for (let after: number | null = 0; after !== null; ) {
    const page = await ask(`entity=NHS&${scope}&limit=7&after=${after}`);
    expect(page.count).toBe(expected.length);
    read.push(...page.entries);
    after = page.next;
  }
  const side = (e: DemoEntry, sign: 1 | -1): string =>
    money(e.lines.reduce((all, l) => all + Math.max(0, sign * l.amount), 0));
  expect(read.map((e) => [e.date, e.number, e.lines.length, e.debit, e.credit, e.tie?.ok])).toEqual(
    expected.map((e) => [e.date, e.number, e.lines.length, side(e, 1), side(e, -1), true]),
  );
  // What is of the scope itself is told from what is only beside it.
  const accounts = /accounts=(\d+)/.exec(scope)?.[1];
  expect(
    read.flatMap((e) => e.lines).every((l) => l.within === (accounts === undefined || l.account === accounts)),
  ).toBe(true);
});

test('an entry’s number tells where it comes from, as an owner says, by the first pattern that fits', async () => {
  const of = async (journal: string) =>
    (await ask(`entity=NHS&from=2026-05-01&to=2026-05-31&journal=${journal}`)).entries[0];
  expect((await of('YI'))?.origin).toMatchObject({ name: 'Yard invoices', leads: 'document' });
  const rows = [
    { pattern: 'yi-0000?', name: 'The first of the yard', leads: 'entry' as const },
    { pattern: 'YI-*', name: 'Invoices', leads: 'document' as const },
  ];
  const priya = await demoPerson(fresh, 'priya');
  await expect(setEntryOrigins(fresh.ctx, priya, { rows })).rejects.toMatchObject({ status: 403 });
  await setEntryOrigins(fresh.ctx, fresh.owner, { rows });
  expect((await of('YI'))?.origin?.name).toBe('Invoices');
  expect((await of('BP'))?.origin).toBeNull();
  expect((await readEntry(fresh.ctx, fresh.owner, 'YI-00003', {})).origin?.name).toBe('The first of the yard');
});

test('what was entered last comes first, on whatever day it is booked', async () => {
  const { entries: last } = await ask('entity=KSF&window=everything&order=entered&limit=200');
  const entered = last.map((e) => e.enteredAt?.slice(0, 10) ?? '');
  expect(entered).toEqual([...entered].sort().reverse());
  // Story 7: an invoice with next year's date was entered long ago, and is not among them.
  expect(last.map((e) => e.number)).not.toContain('PI-KSF-90307');
});

test('the numbers of a series that no entry bears are told, and not those of another window', async () => {
  const of = async (query: string) =>
    (await readSeries(fresh.ctx, fresh.owner, readQuery(seriesShape, new URLSearchParams(query)))).series ?? [];
  // Story 11: a number that was given out and never booked.
  const [freight] = (await of('entity=KSF&window=everything&journal=FI')).filter((s) => s.first === 'FI-00001');
  expect(freight).toMatchObject({ missing: 1, gaps: [{ from: 'FI-00871', to: 'FI-00871' }], jumps: [] });
  // In a month many numbers between its first and last are of other months.
  for (const series of await of('entity=NHS&from=2026-04-01&to=2026-04-30')) expect(series.missing).toBe(0);
});

test('who sees cost centres alone reads of each entry what is theirs, counts the rest, and learns no numbers', async () => {
  const col = await demoPerson(fresh, 'col');
  const { entries: read } = await ask('entity=KSF&from=2026-06-01&to=2026-06-30&limit=200', col);
  expect(read.length).toBeGreaterThan(5);
  for (const entry of read) {
    expect(entry.outside).toBeGreaterThan(0);
    expect(entry.tie).toBeNull();
    expect(entry.lines.every((l) => l.dims.length > 0)).toBe(true);
  }
  const told = await readSeries(
    fresh.ctx,
    col,
    readQuery(seriesShape, new URLSearchParams('entity=KSF&from=2026-06-01&to=2026-06-30')),
  );
  expect(told.series).toBeNull();
});

test('by the copies of lines entries, their order and their numbers are the same', async () => {
  const told = async () => ({
    pages: await Promise.all(
      [
        'window=everything&limit=20&after=900',
        'window=everything&order=entered&limit=30',
        'accounts=6310&from=2027.01&limit=20',
      ].map((query) => ask(`entity=KSF&${query}`)),
    ),
    series: await Promise.all(
      ['window=everything', 'from=2027.04&to=2027.06&journal=FI'].map((query) =>
        readSeries(fresh.ctx, fresh.owner, readQuery(seriesShape, new URLSearchParams(`entity=KSF&${query}`))),
      ),
    ),
  });
  const toldBy = async (copied: boolean) => {
    await fresh.close();
    fresh = await demoInstallation({ copied });
    return told();
  };
  const before = await toldBy(false);
  expect(await toldBy(true)).toEqual(before);
  expect(before.series[0]?.series?.length).toBeGreaterThan(5);
});
