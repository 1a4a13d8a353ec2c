import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { known } from '@/cases/asking/context';
import { resolveFigure } from '@/cases/asking/resolveFigure';
import { addEntity } from '@/cases/charts/entities';
import { bringCopiesUp, copyAgain } from '@/cases/loads/copyLines';
import { readQuery, scopeShape } from '@/contracts/scope';
import { formatAmount } from '@/core/money';
import { Random } from '@/demo/random';
import { type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { splitSums } from './balances';
import { newestLoad, touchCatalogue } from './catalogue';
import { currentParts } from './columns/manifest';
import { NEVER, rowsOf } from './db';
import type { Sort } from './ledgerPlaces';
import { amountOfFirst, amountsByDay, ledgerPage, sortedPage } from './lines';
import { sumsByDay, sumsByPeriod } from './rates';

// Loads are layers: a plain list of lines, kept beside, says what every table has to answer as of every load.

interface Plain {
  entry: string;
  line: number;
  month: number;
  day: string;
  account: string;
  vessel: string;
  amount: number;
  load: number;
  until: number;
}

const ACCOUNTS = ['1000', '2000', '4000', '6000'];
const VESSELS = ['MAREN', 'SKARN', ''];
const pad = (n: number): string => String(n).padStart(2, '0');

let fresh: Fresh;
let made: (month: number, count: number) => Omit<Plain, 'load' | 'until'>[];
let deliver: (rows: ReturnType<typeof made>, month: number | null) => Promise<void>;
const lines: Plain[] = [];
const loads: number[] = [];
beforeAll(async () => {
  fresh = await freshInstallation('2026-12-31');
  await addEntity(fresh.ctx, fresh.owner, {
    ...{ code: 'ONE', name: 'One', currency: 'GBP', yearEnd: 'derived', retainedEarnings: '3000' },
    calendar: { kind: 'monthly', start: '01', adjustmentPeriods: 1 },
  } as never);
  await loadText(
    fresh,
    ['code,name,type', '1000,Bank,asset', '2000,Loans,liability', '3000,Retained,equity', '4000,Sales,income']
      .concat('6000,Costs,expense')
      .join('\n'),
    { kind: 'accounts', entity: 'ONE' } as never,
  );
  await loadText(fresh, 'dimension,code,name\nvessel,,Vessel\nvessel,MAREN,Maren\nvessel,SKARN,Skarn', {
    kind: 'dimensions',
  } as never);
  const random = new Random(77);
  let number = 0;
  /** Entries of a month, some of which have the same day and number of lines as others. */
  made = (month, count) =>
    Array.from({ length: count }, () => {
      number += 1;
      const amount = random.whole(1, 90_000);
      const day = `2026-${pad(month)}-${pad(random.whole(1, 5))}`;
      const entry = `E${random.whole(0, 1) ? 'A' : 'b'}${number}`;
      const own = (line: number, value: number) => ({
        ...{ entry, line, month, day, amount: value },
        account: random.pick(ACCOUNTS),
        vessel: random.pick(VESSELS),
      });
      return [own(1, amount), own(2, -amount)];
    }).flat();
  deliver = async (rows, month) => {
    const text = rows.map(
      (r) => `${r.entry},${r.line},${r.day},${r.account},${formatAmount(r.amount, 2)},x,${r.vessel}`,
    );
    await loadText(fresh, ['entry,line,date,account,amount,description,dim:vessel', ...text].join('\n'), {
      ...{ kind: 'lines', entity: 'ONE' },
      ...(month === null ? {} : { replaces: `2026.${pad(month)}` }),
    } as never);
    const { load } = await newestLoad(fresh.ctx.work);
    loads.push(load);
    for (const line of lines) if (line.month === month && line.until === NEVER) line.until = load;
    lines.push(...rows.map((r) => ({ ...r, load, until: NEVER })));
  };
  await deliver([...made(1, 30), ...made(2, 30), ...made(3, 30)], null);
  await deliver(made(2, 12), 2);
  await deliver(made(4, 25), null);
  await deliver(made(2, 20), 2);
  await deliver(made(3, 5), 3);
});
afterAll(() => fresh?.close());

const asOf = (load: number): Plain[] => lines.filter((l) => l.load <= load && l.until > load);
const ask = async (query: string) => {
  const asked = await resolveFigure(fresh.ctx, fresh.owner, readQuery(scopeShape, new URLSearchParams(query)));
  return asked.ask(fresh.ctx, []);
};
const total = (of: readonly Plain[]): number => of.reduce((sum, l) => sum + l.amount, 0);

/** So many parts do the copies of the books consist of. */
const partsOfCopies = async (): Promise<number> => (await currentParts(fresh.ctx.work)).get(1)?.length ?? 0;

describe.each(['lines as they are', 'copies of lines by columns'])('%s', (how) => {
  beforeAll(async () => {
    if (how === 'lines as they are') return;
    await copyAgain(fresh.ctx);
    expect(await partsOfCopies()).toBe(1);
    // What only adds lines is copied beside what there is; what replaces some has all copied again.
    await deliver(made(4, 10), null);
    expect(await partsOfCopies()).toBe(0);
    await bringCopiesUp(fresh.ctx);
    expect(await partsOfCopies()).toBe(2);
    await deliver(made(3, 7), 3);
    await bringCopiesUp(fresh.ctx);
    expect(await partsOfCopies()).toBe(1);
    await deliver(made(1, 6), null);
    await deliver(made(2, 6), null);
    await bringCopiesUp(fresh.ctx);
    expect(await partsOfCopies()).toBe(2);
    const { question } = await ask('entity=ONE&from=2026.01&to=2026.04');
    expect(question.columns?.parts.get(1)).toHaveLength(2);
  });

  describe('as of every load', () => {
    test('each table of sums answers what the lines of that load come to', async () => {
      expect(loads.length).toBeGreaterThanOrEqual(5);
      for (const load of loads)
        for (const window of ['from=2026.01&to=2026.04', 'from=2026.02&to=2026.03', 'from=2026-01-03&to=2026-03-02']) {
          const inWindow = asOf(load).filter((l) =>
            window.includes('-')
              ? l.day >= '2026-01-03' && l.day <= '2026-03-02'
              : window.includes('02&')
                ? l.month === 2 || l.month === 3
                : true,
          );
          const { db, question } = await ask(`entity=ONE&${window}&load=${load}`);
          // By account periods answer, by day days, by a dimension its members, by entry the lines themselves.
          for (const by of ['account', 'day', 'vessel', 'entry'] as const) {
            const split = by === 'vessel' ? ({ by: 'dim', dim: 'vessel', under: null } as const) : ({ by } as const);
            const found = new Map<string, number>();
            for (const sum of await splitSums(db, question, [split])) {
              if (sum.part < 2 || !sum.own) continue;
              const key = sum.keys[0] ?? '';
              found.set(key, (found.get(key) ?? 0) + sum.debit - sum.credit);
            }
            const wanted = new Map<string, number>();
            for (const l of inWindow) wanted.set(l[by], (wanted.get(l[by]) ?? 0) + l.amount);
            const sorted = (of: Map<string, number>) =>
              [...of].filter(([, n]) => n !== 0).sort(([a], [b]) => (a < b ? -1 : 1));
            expect([load, window, by, sorted(found)]).toEqual([load, window, by, sorted(wanted)]);
          }
        }
    });

    test('sums for a translation are those of the lines, by period and by day, within what lines have', async () => {
      for (const load of [loads[0] as number, loads[4] as number]) {
        const { db, question } = await ask(`entity=ONE&from=2026.02&to=2026.04&load=${load}`);
        const [entity] = question.entities;
        if (!entity) throw new Error('the test names a company');
        const byVessel = [{ by: 'dim', dim: 'vessel', under: null } as const];
        const sums = await sumsByPeriod(db, question, entity, byVessel);
        for (const vessel of VESSELS)
          for (const within of [true, false]) {
            const found = sums.filter((s) => (s.keys[0] ?? '') === vessel && s.within === within);
            const wanted = asOf(load).filter((l) => l.vessel === vessel && l.month >= 2 === within);
            expect(found.reduce((n, s) => n + s.amount, 0)).toBe(total(wanted));
            expect(found.reduce((n, s) => n + s.count, 0)).toBe(wanted.length);
          }
        const sales = entity.entity.accounts.get('4000')?.id as number;
        const days = await sumsByDay(db, question, entity, [sales]);
        expect(days.reduce((n, s) => n + s.amount, 0)).toBe(total(asOf(load).filter((l) => l.account === '4000')));
        const kept = await amountsByDay(db, question);
        const mine = asOf(load).filter((l) => l.month >= 2);
        expect(kept.reduce((n, k) => n + k.amount * k.lines, 0)).toBe(total(mine));
        expect(kept.reduce((n, k) => n + k.lines, 0)).toBe(mine.length);
      }
    });
  });

  describe('the lines of a figure', () => {
    const inOrder = (a: Plain, b: Plain): number =>
      a.day < b.day ? -1 : a.day > b.day ? 1 : a.entry < b.entry ? -1 : a.entry > b.entry ? 1 : a.line - b.line;
    const named = (l: { entry: string; line: number }): string => `${l.entry}/${l.line}`;

    test('come page by page in one order, whole and once, from wherever one begins', async () => {
      const load = loads[4] as number;
      const wanted = asOf(load).sort(inOrder);
      const { db, question } = await ask(
        `entity=ONE&accounts=1000,2000,4000,6000&from=2026.01&to=2026.04&load=${load}`,
      );
      const found: string[] = [];
      for (let page = await ledgerPage(db, question, { offset: 0, day: null }, 17); page.length > 0; ) {
        found.push(...page.map(named));
        const last = page[page.length - 1];
        if (!last) break;
        const after = {
          day: last.day,
          entryNumber: last.entry,
          entity: last.books,
          entry: last.entryId,
          line: last.line,
        };
        page = await ledgerPage(db, question, { after }, 17);
      }
      expect(found).toEqual(wanted.map(named));
      for (const offset of [0, 1, 40, wanted.length - 1]) {
        const [line] = await ledgerPage(db, question, { offset, day: null }, 1);
        expect(line && named(line)).toBe(named(wanted[offset] as Plain));
        const day = wanted[0]?.day as string;
        expect(await amountOfFirst(db, question, day, offset)).toBe(total(wanted.slice(0, offset)));
      }
    });

    test('in another order they are the same lines, each with the balance that it has in the ledger’s', async () => {
      const load = loads[3] as number;
      const wanted = asOf(load).sort(inOrder);
      const running = new Map<string, number>();
      wanted.reduce((sum, l) => {
        running.set(named(l), sum + l.amount);
        return sum + l.amount;
      }, 0);
      const { db, question } = await ask(
        `entity=ONE&accounts=1000,2000,4000,6000&from=2026.01&to=2026.04&load=${load}`,
      );
      const orders: [Sort[], (a: Plain, b: Plain) => number][] = [
        [[{ by: 'amount', descending: true }], (a, b) => Math.abs(b.amount) - Math.abs(a.amount)],
        [
          [
            { by: 'account', descending: false },
            { by: 'amount', descending: false },
          ],
          (a, b) => (a.account < b.account ? -1 : a.account > b.account ? 1 : Math.abs(a.amount) - Math.abs(b.amount)),
        ],
        [[{ by: 'date', descending: true }], (a, b) => (a.day > b.day ? -1 : a.day < b.day ? 1 : 0)],
      ];
      for (const [sorts, compare] of orders) {
        const rows = await sortedPage(db, question, sorts, 0, 500, true);
        expect(rows.map(({ line }) => named(line))).toEqual(
          [...wanted].sort((a, b) => compare(a, b) || inOrder(a, b)).map(named),
        );
        for (const { line, running: balance } of rows) expect(balance).toBe(running.get(named(line)));
        const page = await sortedPage(db, question, sorts, 30, 10, false);
        expect(page.map(({ line }) => named(line))).toEqual(rows.slice(30, 40).map(({ line }) => named(line)));
        expect(page.every(({ running: balance }) => balance === null)).toBe(true);
      }
    });
  });
});

test('a changed name is told when its transaction is through, the very first one too', async () => {
  const { work } = fresh.ctx;
  const stamp = async (): Promise<string> => (await newestLoad(work)).stamp;
  const before = await stamp();
  const trx = await work.transaction();
  await trx.raw(`update account set name = 'Till' where code = '1000'`);
  await touchCatalogue(trx);
  // Whoever reads now reads the former name, and must not keep it under the stamp of the new one.
  expect(await stamp()).toBe(before);
  await trx.commit();
  expect(await stamp()).not.toBe(before);
  expect((await known(work)).catalogue.entities.get('ONE')?.accounts.get('1000')?.name).toBe('Till');
  expect(await rowsOf(work, 'select times from catalogue_change')).toHaveLength(1);
});
