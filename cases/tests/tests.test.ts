import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { readQuery, scopeShape } from '@/contracts/scope';
import { calendar, periodText } from '@/core/calendar';
import { dimensionsFile, linesFile } from '@/core/testing/ledgerFile';
import { ODD_CHART, ODD_PARTIES, ODD_SPEC, oddLines, oddTested } from '@/core/testing/oddLedger';
import { RETAINED, TREES } from '@/core/testing/randomLedger';
import { type Kept, TEST_CODES, type TestCode, testOf, valuesOf } from '@/core/tests/list';
import { AT_FIELDS, type AtField, type Facts, type Hit, type LedgerTested } from '@/core/tests/test';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { factsOf } from '@/store/tests/facts';
import { type FoundHit, findHits } from '@/store/tests/findHits';
import type { Population } from '@/store/tests/population';
import { resolveFigure } from '../asking/resolveFigure';
import { addEntity } from '../charts/entities';
import { copyAgain } from '../loads/copyLines';
import { loadFile } from '../loads/loading/runLoads';
import { populationOf } from './population';

// Every test for what is unusual, as the database answers it and as the core defines it, on random ledgers.

const LEDGERS = [11, 12];
const code = (seed: number): string => `ODD${seed}`;
const made = new Map(LEDGERS.map((seed) => [seed, oddLines(seed * 1_009, code(seed))]));

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
  await load('dimensions', 'dimensions', dimensionsFile(TREES));
  const parties = ODD_PARTIES.map((p) => `${p.code},${p.name},${p.kind},${p.bankAccount}`);
  await load('parties', 'parties', ['code,name,kind,bank_account', ...parties]);
  for (const [seed, { first, restated, period }] of made) {
    const entity = code(seed);
    await addEntity(fresh.ctx, fresh.owner, {
      ...{
        code: entity,
        name: entity,
        currency: 'GBP',
        calendar: ODD_SPEC,
        yearEnd: 'derived',
        retainedEarnings: RETAINED,
      },
    });
    const bare = ODD_CHART.map((a) => [a.code, a.name, a.type, a.parent ?? '', a.posting ? 'yes' : 'no'].join(','));
    await load(`chart-${entity}`, 'accounts', ['code,name,type,parent,posting', ...bare], { entity });
    await load(`lines-${entity}`, 'lines', linesFile({ lines: first }));
    const replaces = periodText(period);
    await load(`again-${entity}`, 'lines', linesFile({ lines: restated }), { entity, replaces });
    // What a load would not have let in is there once the chart has other rules.
    const ruled = ODD_CHART.map((a, i) => [bare[i], a.status, a.dimRules.unit ?? '', a.dimRules.fund ?? ''].join(','));
    await load(`ruled-${entity}`, 'accounts', ['code,name,type,parent,posting,status,dim:unit,dim:fund', ...ruled], {
      entity,
    });
  }
});
afterAll(() => fresh?.close());

async function load(
  name: string,
  kind: 'lines' | 'accounts' | 'dimensions' | 'parties',
  rows: string[],
  more = {},
): Promise<void> {
  const path = join(fresh.env.JUST_THREAD_HOME as string, `${name}.csv`);
  writeFileSync(path, `${rows.join('\n')}\n`);
  const done = await loadFile(fresh.ctx, fresh.owner, path, { kind, format: 'csv', ...more });
  expect(done.problems).toEqual([]);
}

/** Settings so low that a small ledger has hits. */
const LOW: Partial<Record<TestCode, Record<string, Kept>>> = {
  changed: { least: 1, percent: 10 },
  'out-of-line': { deviations: 1, least: 3, history: 9 },
  dormant: { periods: 1 },
  'missing-month': { periods: 2 },
  season: { points: 3, years: 1, least: 1 },
  gaps: { numbers: 5 },
  large: { from: 50_000 },
  round: { multiple: 10_000 },
  'under-limit': { limit: 60_000, percent: 50 },
  'first-digits': { lines: 30, deviation: 5 },
  holiday: { days: ['05-01', '2025-12-24', '12-25', '06-15', '09-09', '10-11', '02-02'] },
  'out-of-hours': { from: 9, to: 18 },
  'entered-late': { days: 20 },
  'out-of-order': { days: 20 },
  'rare-person': { entries: 9, others: 20 },
  'rare-poster': { lines: 9, expected: 1 },
  'rare-pair': { entries: 3, lines: 5 },
  'unusual-account': { lines: 4, usual: 4 },
};

const cal = calendar(ODD_SPEC);
const WINDOWS = [
  { by: 'period', from: 2501, to: 2713 },
  { by: 'period', from: 2604, to: 2609 },
  { by: 'date', from: '2025-06-10', to: '2026-11-03' },
] as const;

const told = (h: Hit) => ({
  at: Object.fromEntries(AT_FIELDS.flatMap((f) => (h.at[f] === undefined ? [] : [[f, h.at[f]]]))),
  degree: Math.round(h.degree * 1e6) / 1e6,
  amount: h.amount,
  parts: h.parts,
});
/** What only one of two finds, a few of each. */
function differing(what: string, database: readonly unknown[], core: readonly unknown[]): string[] {
  const [one, other] = [database, core].map((rows) => rows.map((r) => JSON.stringify(r)));
  const only = (a: string[] = [], b: string[] = []): string[] => a.filter((r) => !b.includes(r)).slice(0, 3);
  return [
    ...only(one, other).map((r) => `${what}, database alone: ${r}`),
    ...only(other, one).map((r) => `${what}, core alone: ${r}`),
    ...(database.length === core.length ? [] : [`${what}: ${database.length} and ${core.length}`]),
  ];
}

/** The lines behind a hit, by the core's own lines. */
function behind(ledger: LedgerTested, by: readonly AtField[] | 'entries', hit: Hit) {
  if (by === 'entries') return ledger.lines.filter((l) => hit.entries?.includes(l.entry));
  const of: Partial<Record<AtField, (l: LedgerTested['lines'][number]) => unknown>> = {
    ...{ entry: (l) => l.entry, account: (l) => l.account, period: (l) => l.period },
    ...{ party: (l) => l.counterparty, person: (l) => l.postedBy },
  };
  return by.length === 0 ? [] : ledger.lines.filter((l) => l.within && by.every((f) => of[f]?.(l) === hit.at[f]));
}

const found = new Map<TestCode, number>();

describe.each([['lines as they are'], ['copies by columns']])('%s', (how) => {
  beforeAll(async () => {
    if (how.startsWith('copies')) await copyAgain(fresh.ctx);
  });
  test.each(LEDGERS.flatMap((seed) => WINDOWS.map((window, i) => [seed, i, window] as const)))(
    'ledger %i, window %i: the database finds what the definitions find',
    async (seed, i, window) => {
      const status = i === 1 ? 'all' : 'posted';
      const [from, to] =
        window.by === 'period' ? [periodText(window.from), periodText(window.to)] : [window.from, window.to];
      const scope = readQuery(scopeShape, new URLSearchParams({ entity: code(seed), from, to, status }));
      const asked = await resolveFigure(fresh.ctx, fresh.owner, scope);
      const ledger = oddTested(code(seed), made.get(seed) as NonNullable<ReturnType<typeof made.get>>, {
        window,
        status,
      });
      const population: Population = await populationOf(fresh.ctx, [asked]);
      try {
        const facts: Facts = await factsOf(population);
        const off: string[] = [];
        for (const one of TEST_CODES) {
          const it = testOf(one);
          for (const kept of [LOW[one] ?? {}, ...(one === 'out-of-line' ? [{ ...LOW[one], by: 'median' }] : [])]) {
            const { hits, count } = await findHits(population, one, { kept, facts, units: 100 });
            const expected = it.plain(ledger, valuesOf(it.params, kept, facts) as never);
            off.push(...differing(one, hits.map(told), expected.map(told)));
            const lines = (hit: Hit) => {
              const own = behind(ledger, it.behind, hit);
              return {
                ...{ ...told(hit).at, lines: own.length, sum: own.reduce((sum, l) => sum + l.amount, 0) },
                entries: [...(hit.entries ?? [])].sort(),
              };
            };
            const behindHits = hits.map((h: FoundHit) => ({
              ...{ ...told(h).at, lines: h.lines, sum: h.sum, entries: h.entries },
            }));
            off.push(...differing(`${one}, lines behind`, behindHits, expected.map(lines)));
            expect([one, count]).toEqual([one, hits.length]);
            found.set(one, (found.get(one) ?? 0) + count);
          }
        }
        expect(off).toEqual([]);
      } finally {
        await population.close();
      }
    },
  );
});

test('every test but that for entries which do not balance, which no load lets in, had something to find', () => {
  expect(TEST_CODES.filter((one) => !found.get(one))).toEqual(['unbalanced']);
  expect(cal.periodsOf(2026)).toHaveLength(13);
});
