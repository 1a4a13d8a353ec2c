import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { readQuery, scopeShape } from '@/contracts/scope';
import { formatAmount } from '@/core/money';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { runJobsHere } from '../jobs/runJob';
import { readHits } from '../tests/hits';
import { beginRun } from '../tests/runs';
import { readAccountMonths } from './accountMonths';
import { readDigits } from './digits';
import { readEnteredTimes } from './enteredTimes';
import { readSizes } from './sizes';
import { readWhoPostsWhere } from './whoPostsWhere';

let fresh: Fresh;
let tomas: Viewer;
const begin = async (copied: boolean): Promise<void> => {
  await fresh?.close();
  fresh = await demoInstallation({ copied });
  tomas = await demoPerson(fresh, 'tomas');
};
beforeAll(() => begin(false));
afterAll(() => fresh?.close());

const scopeOf = (address: string) => readQuery(scopeShape, new URLSearchParams(address));
/** What a part of a picture leads to, asked as the screen asks it. */
const lines = async (address: string): Promise<number> =>
  (await figureTotal(fresh.ctx, await resolveFigure(fresh.ctx, tomas, scopeOf(address)))).count;

describe.each([['lines as they are'], ['copies by columns']])(
  'each part of a picture leads to just its lines: %s',
  (how) => {
    const of = 'entity=KSF&window=everything&accounts=1520,6310';
    beforeAll(async () => {
      const copied = how.startsWith('copies');
      if (copied) await begin(copied);
      const { question } = await (await resolveFigure(fresh.ctx, tomas, scopeOf(of))).ask(fresh.ctx, [{ by: 'size' }]);
      expect(question.columns !== undefined).toBe(copied);
    });

    test('first digits of amounts', async () => {
      const { first, two } = await readDigits(fresh.ctx, tomas, scopeOf(of));
      for (const { digits, lines: counted } of [...first.digits, ...two.digits.slice(5, 12)])
        expect([digits, counted]).toEqual([digits, await lines(`${of}&begins=${digits}`)]);
      expect(first.digits.reduce((sum, d) => sum + d.lines, 0)).toBe(first.lines);
      expect(first.lines).toBeGreaterThan(1_000);
    });

    test('when entries were entered', async () => {
      const { times, untold } = await readEnteredTimes(fresh.ctx, tomas, scopeOf(of));
      expect(times.reduce((sum, t) => sum + t.lines, untold.lines)).toBe(await lines(of));
      expect(times.length).toBeGreaterThan(20);
      for (const { weekday, hour, lines: counted } of times.slice(0, 8))
        expect([weekday, hour, counted]).toEqual([
          weekday,
          hour,
          await lines(`${of}&enteredWhen=${weekday}.${hour === null ? '--' : String(hour).padStart(2, '0')}`),
        ]);
      expect(await lines(`${of}&enteredAt=~none`)).toBe(untold.lines);
    });

    test('who posts where', async () => {
      const { pairs, accounts } = await readWhoPostsWhere(fresh.ctx, tomas, scopeOf(of));
      expect(accounts.map((a) => a.code)).toEqual(['1520', '6310']);
      expect(pairs.reduce((sum, p) => sum + p.lines, 0)).toBe(await lines(of));
      for (const { account, person, lines: counted } of pairs.slice(0, 6))
        expect(counted).toBe(
          await lines(`entity=KSF&window=everything&accounts=${account}&postedBy=${person ?? '~none'}`),
        );
    });

    test('sizes around a limit', async () => {
      const { bars, limits, limit } = await readSizes(fresh.ctx, tomas, scopeOf(of));
      expect(limit).toBe(limits[0]?.limit);
      for (const { from, to, lines: counted } of bars.slice(12, 24))
        expect([from, counted]).toEqual([from, await lines(`${of}&min=${from}&max=${to}`)]);
      // Within five percent on either side of each limit that is told, by the amounts themselves.
      const minor = (text: string): number => Math.round(Number(text) * 100);
      for (const { limit: at, beneath, above } of limits) {
        const span = (from: number, to: number): Promise<number> =>
          lines(`${of}&min=${(from / 100).toFixed(2)}&max=${(to / 100).toFixed(2)}`);
        const bound = minor(at);
        expect([at, beneath, above]).toEqual([
          at,
          await span(Math.round(bound * 0.95), bound - 1),
          await span(bound, Math.round(bound * 1.05) - 1),
        ]);
      }
      const odd = await readSizes(fresh.ctx, tomas, { ...scopeOf(of), limit: '1234.56' });
      expect(odd.bars[20]).toMatchObject({ from: '1234.56', beneath: false });
      expect(odd.bars[19]).toMatchObject({ to: '1234.55', beneath: true });
      for (const [n, { from, to, lines: counted }] of odd.bars.slice(17, 22).entries())
        expect([n, counted]).toEqual([n, await lines(`${of}&min=${from}&max=${to}`)]);
    });
  },
);

test('months of accounts are what the accounts moved by, and out of line where the test says so', async () => {
  const of = 'entity=KSF&window=everything';
  const { accounts, periods, limit, tie } = await readAccountMonths(fresh.ctx, tomas, scopeOf(of));
  expect(tie.ok).toBe(true);
  expect(periods.length).toBe(24);
  const [first] = accounts;
  for (const month of first?.months.slice(-3) ?? []) {
    const asked = scopeOf(`entity=KSF&accounts=${first?.code}&from=${month.period}&to=${month.period}`);
    const figure = await resolveFigure(fresh.ctx, tomas, asked);
    const total = await figureTotal(fresh.ctx, figure);
    expect(month.amount).toBe(formatAmount(total.movement, figure.digits));
    expect(month.count).toBe(total.count);
  }
  const { id } = await beginRun(fresh.ctx, tomas, {
    ...{ scope: of, address: '', thread: null, tests: ['out-of-line'] },
    parameters: { 'out-of-line': { by: 'median' } },
  });
  await runJobsHere(fresh.ctx);
  const { hits } = await readHits(fresh.ctx, tomas, id, { limit: 2_000, after: 0, state: 'all', dims: {} });
  const told = new Set(
    accounts.flatMap((a) =>
      a.months.flatMap((m) => (Math.abs(m.deviations ?? 0) > limit ? [`${a.code} ${m.period}`] : [])),
    ),
  );
  const shown = new Set(periods.map((p) => p.period));
  const found = hits.flatMap((h) => {
    const period = /from=([\d.]+)/.exec(h.address)?.[1] ?? '';
    return shown.has(period) && accounts.some((a) => a.code === h.account) ? [`${h.account} ${period}`] : [];
  });
  expect(found.length).toBeGreaterThan(5);
  expect([...told].sort()).toEqual(found.sort());
});

test('sizes are told in one currency', async () => {
  await expect(readSizes(fresh.ctx, tomas, scopeOf('entity=KSF&entity=NHS&window=everything'))).rejects.toMatchObject({
    errors: [{ path: 'entity' }],
  });
});
