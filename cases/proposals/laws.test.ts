import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { newProposedSchema } from '@/contracts/bodies/all';
import { linesShape, sheetShape, statementShape, trialBalanceShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { splitText } from '@/contracts/splits';
import { lineSubject } from '@/contracts/subject';
import { addBalance, type Balance, emptyBalance } from '@/core/balances';
import { periodText } from '@/core/calendar';
import { evaluate, evaluateTotal, type Ledger, linesOf } from '@/core/evaluate';
import { type Figure, refine, type Split, splitWhole } from '@/core/figure';
import type { Line } from '@/core/ledger';
import { formatAmount } from '@/core/money';
import { chartFile, dimensionsFile, linesFile } from '@/core/testing/ledgerFile';
import { CHART, dice, RETAINED, randomFigure, randomLedger, TREES } from '@/core/testing/randomLedger';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { asSeenBy, type Viewer } from '../asking/viewer';
import { addEntity } from '../charts/entities';
import { tick, tickedShare } from '../evidence/ticks';
import { copyAgain } from '../loads/copyLines';
import { loadFile } from '../loads/loading/runLoads';
import { readLines } from '../sheets/readLines';
import { readSheet } from '../sheets/readSheet';
import { readTotals } from '../sheets/readTotals';
import { readTrialBalance } from '../sheets/readTrialBalance';
import { readStatement } from '../statements/readStatement';
import { narrowedBy, texts, withParams } from '../testing/asking';
import { check } from '../upkeep/check';
import { changeProposed, propose } from './propose';
import { makeSet } from './sets';

// Figures with what is proposed are those of a ledger into which it was loaded: of random ledgers a part of the entries
// is loaded and a part proposed, and whatever is asked is held against the core's definitions over both together.

const ENTITY = 'PROP';
const SETS = ['corrections', 'what-if'];
let fresh: Fresh;
let booked: Ledger;
/** Lines by the set that they are proposed in; those that were taken back are in none. */
const proposed = new Map<string, Line[]>(SETS.map((name) => [name, []]));

beforeAll(async () => {
  fresh = await freshInstallation();
  await load('dimensions', 'dimensions', dimensionsFile(TREES));
  const spec = { kind: 'monthly', start: '04', adjustmentPeriods: 1 } as const;
  const whole = randomLedger(4_711, [{ code: ENTITY, spec, yearEnd: 'derived' }]);
  await addEntity(fresh.ctx, fresh.owner, {
    ...{ code: ENTITY, name: ENTITY, currency: 'GBP', calendar: spec, yearEnd: 'derived', retainedEarnings: RETAINED },
  });
  await load('chart', 'accounts', chartFile(CHART), ENTITY);
  const { calendar } = whole.entities.get(ENTITY) as { calendar: { periodAt(date: string): { ordinal: number } } };
  const entries = new Map<string, Line[]>();
  for (const line of whole.lines) entries.set(line.entry, [...(entries.get(line.entry) ?? []), line]);
  const held = [...entries.values()].filter(
    (lines, i) =>
      i % 3 === 0 &&
      lines.every(
        (l) => l.amount !== 0 && l.kind === 'normal' && calendar.periodAt(l.postingDate).ordinal === l.period,
      ),
  );
  const out = new Set(held.flat());
  booked = { ...whole, lines: whole.lines.filter((l) => !out.has(l)) };
  await load('lines', 'lines', linesFile(booked));
  await makeSet(fresh.ctx, fresh.owner, { name: 'what-if', about: '' });
  for (const [i, lines] of held.entries()) {
    const set = SETS[i % 2] as string;
    const [first] = lines as [Line];
    const { id, number } = await propose(
      fresh.ctx,
      fresh.owner,
      newProposedSchema.parse({
        ...{ entity: ENTITY, date: first.postingDate, kind: 'factual', reason: 'it was left out', set },
        lines: lines.map((l) => ({
          ...{ account: l.account, amount: formatAmount(l.amount, 2), description: l.description, dims: l.dims },
          ...(l.counterparty === null ? {} : { counterparty: l.counterparty }),
          ...(l.document === null ? {} : { document: l.document }),
          ...(l.taxCode === null ? {} : { taxCode: l.taxCode }),
        })),
      }),
    );
    // Some are taken back again, and some of those proposed once more.
    if (i % 5 === 4) await changeProposed(fresh.ctx, fresh.owner, id, { state: 'retired', stateReason: 'not ours' });
    if (i % 10 === 4) await changeProposed(fresh.ctx, fresh.owner, id, { state: 'proposed' });
    if (i % 5 === 4 && i % 10 !== 4) continue;
    proposed.get(set)?.push(...lines.map((l, at) => asProposed(l, number, at + 1)));
  }
  const some = [booked.lines, ...SETS.map((name) => proposed.get(name) ?? [])].flatMap((lines) => lines.slice(3, 6));
  await tick(fresh.ctx, fresh.owner, { subjects: some.map(lineSubject), mark: 'cast' });
  for (const line of some) ticked.add(line);
});
afterAll(() => fresh?.close());
const ticked = new Set<Line>();

/** A line as it counts while it is proposed: what the ledger gives an entry when it is booked is not there. */
const asProposed = (l: Line, entry: string, line: number): Line => ({
  ...l,
  ...{ entry, line, status: 'posted', side: l.amount < 0 ? 'credit' : 'debit', entryDescription: 'it was left out' },
  ...{ journal: null, postedBy: null, documentType: null, dueDate: null, documentDate: null, approvedBy: null },
  ...{ enteredAt: null, source: null, partnerEntity: null, reversalOf: null, attachment: null, reconciled: null },
  ...{ unit: null, quantity: null, taxAmount: null, currency: 'GBP', currencyAmount: l.amount },
});

const BASES = [
  { basis: 'proposed', sets: ['corrections'] },
  { basis: 'with-proposed', sets: ['corrections'] },
  { basis: 'with-proposed', sets: ['what-if'] },
  { basis: 'with-proposed', sets: ['corrections', 'what-if'] },
  { basis: 'proposed', sets: ['corrections', 'what-if'] },
  {},
] satisfies Pick<Figure, 'basis' | 'sets'>[];

/** A random figure on one of the bases, and the ledger that it is of. */
function asked(seed: number): { ledger: Ledger; figure: Figure } {
  const roll = dice(seed * 7_919 + 5);
  const on = roll.pick([...BASES]) as Pick<Figure, 'basis' | 'sets'>;
  const lines = [
    ...(on.basis === 'proposed' ? [] : booked.lines),
    ...(on.sets ?? []).flatMap((name) => proposed.get(name) ?? []),
  ];
  return { ledger: { ...booked, lines }, figure: { ...randomFigure(roll, booked, [ENTITY]), ...on } };
}

const SPLITS: Split[] = [
  ...(['account', 'type', 'period', 'day', 'week', 'kind', 'size', 'entry', 'document', 'taxCode'] as const).map(
    (by) => ({
      by,
    }),
  ),
  ...(['counterparty', 'journal', 'postedBy', 'currency', 'month', 'description'] as const).map((by) => ({ by })),
  { by: 'dim', dim: 'unit', under: null },
  { by: 'dim', dim: 'unit', under: 'N' },
  { by: 'dim', dim: 'fund', under: null },
];

const GRANTS: Pick<Viewer, 'members' | 'accounts'>[] = [
  { members: {}, accounts: null },
  { members: { unit: ['N1', 'S'] }, accounts: null },
  { members: {}, accounts: '4, 5 except 5110' },
];

describe.each([
  ['lines as they are', 25],
  ['copies of lines by columns', 15],
])('%s', (how, runs) => {
  beforeAll(async () => {
    if (how.startsWith('copies')) await copyAgain(fresh.ctx);
  });

  test('a trial balance has what the definitions give over what is booked and proposed together', async () => {
    await fc.assert(
      fc.asyncProperty(fc.nat(), async (seed) => {
        const { ledger, figure } = asked(seed);
        const answer = await readTrialBalance(
          fresh.ctx,
          fresh.owner,
          readQuery(trialBalanceShape, withParams(figure, { zero: 'show' })),
        );
        const empty = JSON.stringify(texts(emptyBalance()));
        const expected = [...(evaluate(ledger, figure).get(ENTITY) ?? new Map<string, Balance>())]
          .map(([code, b]) => [code, JSON.stringify(texts(b))])
          .filter(([, b]) => b !== empty);
        const got = answer.rows.map((r) => [r.account, JSON.stringify(texts(r))]).filter(([, b]) => b !== empty);
        expect(Object.fromEntries(got)).toEqual(Object.fromEntries(expected));
        expect(answer.tie).toMatchObject({ ok: true });
      }),
      { numRuns: runs },
    );
  });

  test('whatever it is split by, under whichever grant, each row has the lines that the core has', async () => {
    await fc.assert(
      fc.asyncProperty(fc.nat(), fc.constantFrom(...SPLITS), fc.constantFrom(...GRANTS), async (seed, split, grant) => {
        const { ledger, figure } = asked(seed);
        const names = { chart: CHART, trees: TREES };
        const viewer: Viewer = { ...fresh.owner, ...grant };
        let seen: Figure;
        try {
          seen = asSeenBy(figure, viewer, names);
        } catch {
          return; // outside of the grant, as it is without a basis
        }
        const sheet = await readSheet(
          fresh.ctx,
          viewer,
          readQuery(sheetShape, withParams(figure, { by: splitText(split) })),
        );
        expect(sheet.tie).toMatchObject({ ok: true, offBy: '0.00' });
        const total = emptyBalance();
        addBalance(total, evaluateTotal(ledger, splitWhole(seen, split, names)));
        expect(sheet.total.count).toBe(total.count);
        const row = sheet.rows.filter((r) => r.count > 0)[seed % Math.max(1, sheet.rows.length)];
        if (!row || split.by === 'period') return;
        const own = refine(splitWhole(seen, split, names), split, row.member, names);
        expect(row.count).toBe(linesOf(ledger, own).length);
        // What the row leads to is on the same basis.
        const params = narrowedBy(withParams(figure), row.refine);
        expect((await readTotals(fresh.ctx, viewer, readQuery(scopeShape, params))).total.count).toBe(row.count);
      }),
      { numRuns: runs },
    );
  });

  test('lines come in ledger order with their running balances, and say which of them are proposed', async () => {
    await fc.assert(
      fc.asyncProperty(fc.nat(), async (seed) => {
        const { ledger, figure } = asked(seed);
        const expected = linesOf(ledger, figure);
        const rows = [];
        let page = await readLines(fresh.ctx, fresh.owner, readQuery(linesShape, withParams(figure, { limit: '37' })));
        for (;;) {
          rows.push(...page.rows);
          if (!page.next) break;
          page = await readLines(
            fresh.ctx,
            fresh.owner,
            readQuery(linesShape, withParams(figure, { limit: '37', after: page.next })),
          );
        }
        expect(rows.map((r) => `${r.entry}|${r.line}|${r.amount}`)).toEqual(
          expected.map((l) => `${l.entry}|${l.line}|${formatAmount(l.amount, 2)}`),
        );
        for (const r of rows) expect(r.proposedIn !== undefined).toBe(r.entry.startsWith('P-'));
      }),
      { numRuns: runs },
    );
  });

  test('a tick is seen on what is proposed as on what is booked', async () => {
    for (const { basis = 'booked', sets = [] as string[] } of BASES as Pick<Figure, 'basis' | 'sets'>[]) {
      const lines = [
        ...(basis === 'proposed' ? [] : booked.lines),
        ...sets.flatMap((name) => proposed.get(name) ?? []),
      ].filter((l) => l.kind !== 'opening');
      const scope = new URLSearchParams({ entity: ENTITY, window: 'everything', status: 'all', basis });
      for (const name of sets) scope.append('set', name);
      const of = async (word: string) =>
        (
          await readTotals(
            fresh.ctx,
            fresh.owner,
            readQuery(scopeShape, new URLSearchParams(`${scope}&ticked=${word}`)),
          )
        ).total.count;
      const bear = lines.filter((l) => ticked.has(l));
      expect([basis, ...sets, await of('yes')]).toEqual([basis, ...sets, bear.length]);
      expect(await of('no')).toBe(lines.length - bear.length);
      const share = await tickedShare(fresh.ctx, fresh.owner, { ...readQuery(scopeShape, scope) });
      expect([share.ticked, share.lines]).toEqual([bear.length, lines.length]);
    }
  });

  test.each([['income'], ['balance'], ['position'], ['cashflow']])(
    'every row of a statement (%s) is what is booked and what is proposed together',
    async (code) => {
      await fc.assert(
        fc.asyncProperty(fc.nat(), async (seed) => {
          const { window } = randomFigure(dice(seed + 3), booked, [ENTITY]);
          if (window.by !== 'period') return;
          const ask = (basis: string) =>
            readStatement(
              fresh.ctx,
              fresh.owner,
              code,
              readQuery(
                statementShape,
                new URLSearchParams([
                  ...Object.entries({ entity: ENTITY, from: periodText(window.from), to: periodText(window.to) }),
                  ...(basis === 'booked' ? [] : [['basis', basis]]),
                  ...(code === 'position' ? [['by', 'dim:fund']] : []),
                ]),
              ),
            );
          const [before, added, after] = await Promise.all(['booked', 'proposed', 'with-proposed'].map(ask));
          const minor = (sheet: typeof after, key: string, column: string): number =>
            Math.round(Number(sheet?.rows.find((r) => r.key === key)?.values[column] ?? 0) * 100);
          expect(after?.rows.length).toBeGreaterThan(0);
          for (const row of after?.rows ?? [])
            for (const { key: column, unit } of after?.columns ?? [])
              if (unit !== 'percent')
                expect([row.key, column, minor(after, row.key, column)]).toEqual([
                  row.key,
                  column,
                  minor(before, row.key, column) + minor(added, row.key, column),
                ]);
        }),
        { numRuns: 6 },
      );
    },
  );

  test('sets commute, and columns of booked and proposed come to the adjusted one', async () => {
    const [a, b] = ['set=corrections&set=what-if', 'set=what-if&set=corrections'].map((sets) =>
      readTrialBalance(
        fresh.ctx,
        fresh.owner,
        readQuery(
          trialBalanceShape,
          new URLSearchParams(`entity=${ENTITY}&window=everything&basis=with-proposed&${sets}`),
        ),
      ),
    );
    expect((await a)?.rows).toEqual((await b)?.rows);
    const sheet = await readTrialBalance(
      fresh.ctx,
      fresh.owner,
      readQuery(
        trialBalanceShape,
        new URLSearchParams(`entity=${ENTITY}&to=${periodText(2709)}&column=booked&column=proposed&column=adjusted`),
      ),
    );
    const moves = sheet.rows.filter((r) => Number(r.values?.proposed ?? 0) !== 0);
    expect(moves.length).toBeGreaterThan(2);
    for (const r of sheet.rows)
      expect(Math.round((Number(r.values?.booked ?? 0) + Number(r.values?.proposed ?? 0)) * 100)).toBe(
        Math.round(Number(r.values?.adjusted ?? 0) * 100),
      );
  });
});

test('sums, lines and copies agree after all of it', async () => {
  for await (const result of check(fresh.ctx)) expect(result).toMatchObject({ ok: true });
});

async function load(name: string, kind: 'lines' | 'accounts' | 'dimensions', rows: string[], entity?: string) {
  const path = join(fresh.env.JUST_THREAD_HOME as string, `${name}.csv`);
  writeFileSync(path, `${rows.join('\n')}\n`);
  const done = await loadFile(fresh.ctx, fresh.owner, path, { kind, format: 'csv', ...(entity ? { entity } : {}) });
  expect(done.problems).toEqual([]);
}
