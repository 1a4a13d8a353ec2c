import { ProblemError } from '@/contracts/problem';
import { readSubject } from '@/contracts/subject';
import { sha256Text } from '@/core/digest';
import type { Minor } from '@/core/money';
import { isTest, type Kept, type TestCode, testOf, valuesOf } from '@/core/tests/list';
import { AT_FIELDS, type Facts } from '@/core/tests/test';
import { readEvidence } from '@/store/evidence';
import * as store from '@/store/testRuns';
import { countedIn, factsOf, unitsOf } from '@/store/tests/facts';
import { type FoundHit, findHits } from '@/store/tests/findHits';
import { type Context, known } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { figureAt } from '../asking/subjects';
import type { Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { JobCancelled, type Work } from '../jobs/work';
import { tell as tellPeople } from '../mail/tell';
import { viewerOfPerson } from '../people/signIn';
import { materialAsked } from '../proposals/material';
import { populationOf } from './population';
import { beginRun } from './runs';

/** Reading the lines is so much of the work; the tests are the rest. */
const READING = 0.2;

/** The work of a run of tests; one that a load began is written down first. */
export async function lookOver({ ctx, job, tell }: Work): Promise<{ message?: string }> {
  const viewer = await viewerOfPerson(ctx, job.person as number);
  const input = job.input as { run?: number; scope?: string; tests?: string[]; firstLook?: number };
  if (input.firstLook !== undefined) return firstLook(ctx, viewer, input.firstLook);
  if (input.run === undefined) {
    await beginRun(ctx, viewer, { scope: input.scope ?? '', tests: input.tests, address: '', title: job.label }, true);
    return {};
  }
  const row = await readEvidence(ctx.work, 'run', input.run);
  if (!row) return { message: 'the run was taken away' };
  const subject = readSubject(row.subject);
  if (subject.is !== 'figure') throw new ProblemError(422, 'This is no figure');
  const asked = await figureAt(ctx, viewer, subject.address, row.load);
  const companies = asked.entities.map((e) => asked.narrowed({ entities: [e.code] }, e.currency));
  await tell(0, 'reading the lines');
  const population = await populationOf(ctx, companies);
  // Whoever asked it to stop is heard while a test runs too.
  let stopped: JobCancelled | null = null;
  const watching = setInterval(() => {
    tell(progress).catch((error: unknown) => {
      if (!(error instanceof JobCancelled)) return;
      stopped = error;
      population.interrupt();
    });
  }, WATCH_EVERY_MS);
  let progress = READING;
  try {
    const counted = await countedIn(population);
    const facts = await withMaterial(ctx, companies, await factsOf(population));
    const units = await unitsOf(population);
    const tests = row.tests.filter(isTest);
    const ranWith: Record<string, Record<string, Kept>> = {};
    const results: store.Result[] = [];
    const hits: Omit<store.HitRow, 'run' | 'no'>[] = [];
    for (const [i, code] of tests.entries()) {
      progress = READING + ((1 - READING) * i) / tests.length;
      await tell(progress, testOf(code).name);
      const began = performance.now();
      const kept = row.params[code] ?? {};
      ranWith[code] = settingsOf(code, kept, facts, population.entities);
      const notLookedAt = whyNot(code, asked);
      if (notLookedAt !== null) {
        results.push({ test: code, count: 0, kept: 0, amounts: {}, notLookedAt, ms: 0 });
        continue;
      }
      const found = await findHits(population, code, { kept, facts, units: units[testOf(code).looksAt] });
      results.push({
        ...{ test: code, count: found.count, kept: found.hits.length, amounts: found.amounts, notLookedAt },
        ms: Math.round(performance.now() - began),
      });
      hits.push(...found.hits.map((hit) => hitRow(code, hit)));
    }
    const ties = await Promise.all(companies.map((one) => tieOf(ctx, one, counted)));
    await ctx.work.transaction(async (trx) => {
      await store.keepResults(trx, row.id, { ran_with: ranWith, population: ties.flat(), results }, hits);
      await tellOfNew(trx, viewer, row);
    });
    if (row.by_itself) await ctx.write.transaction((trx) => store.forgetOlder(trx, row));
    return { message: `${results.reduce((sum, r) => sum + r.count, 0)} hits` };
  } catch (error) {
    throw stopped ?? error;
  } finally {
    clearInterval(watching);
    await population.close();
  }
}

const WATCH_EVERY_MS = 1_000;

/** All tests over the companies that loads brought lines of, from one load on. */
async function firstLook(ctx: Context, viewer: Viewer, load: number): Promise<{ message?: string }> {
  const [ids, { catalogue, newest }] = await Promise.all([store.companiesSince(ctx.work, load), known(ctx.work)]);
  const companies = [...catalogue.entities.values()].filter((e) => ids.includes(e.id));
  const [first] = companies;
  if (!first) return { message: 'the load brought no entries' };
  const scope = new URLSearchParams(companies.map((e) => ['entity', e.code]));
  scope.set('window', 'everything');
  if (companies.some((e) => e.currency !== first.currency)) scope.set('in', first.currency);
  await beginRun(ctx, viewer, { scope: scope.toString(), address: '', title: `First look after load ${newest}` }, true);
  return {};
}

/** Why a test cannot look at what a scope leaves in; null: it can. */
function whyNot(code: TestCode, { figure }: ResolvedFigure): string | null {
  const { needs = [] } = testOf(code);
  if (needs.includes('periods') && figure.window.by !== 'period')
    return 'it holds whole periods against each other; choose a window of periods';
  if (needs.includes('whole entries') && (figure.accounts !== null || figure.where.length > 0))
    return 'it looks at whole entries, of which this scope has only some lines; leave out accounts and clauses';
  return null;
}

/** The settings of a test as it ran, amounts by company. */
function settingsOf(
  code: TestCode,
  kept: Readonly<Record<string, Kept>>,
  facts: Facts,
  entities: readonly string[],
): Record<string, Kept> {
  const values = valuesOf(testOf(code).params, kept, facts);
  return Object.fromEntries(
    Object.entries(values).map(([name, value]) => [
      name,
      typeof value === 'function'
        ? Object.fromEntries(entities.map((e) => [e, (value as (entity: string) => number)(e)]))
        : (value as Kept),
    ]),
  );
}

/** The key that the same thing has in every run. */
const KEY_LETTERS = 24;
const keyOf = (code: TestCode, { entity, at }: FoundHit): string =>
  sha256Text(JSON.stringify([code, entity, ...AT_FIELDS.map((f) => at[f] ?? null)])).slice(0, KEY_LETTERS);

const hitRow = (code: TestCode, hit: FoundHit): Omit<store.HitRow, 'run' | 'no'> => {
  const { entity, at, parts, amount, degree, rarity, size, score, lines, sum, seal, entries, about } = hit;
  return {
    key: keyOf(code, hit),
    test: code,
    entity,
    at,
    parts: { ...parts },
    amount,
    degree,
    rarity,
    size,
    score,
    lines,
    sum,
    seal,
    entries,
    ...about,
  };
};

/** What was looked at of a company, and whether the ledger's own sums say the same. */
async function tieOf(ctx: Context, asked: ResolvedFigure, counted: Awaited<ReturnType<typeof countedIn>>) {
  const [entity] = asked.entities;
  if (!entity) return [];
  const own = counted.find((c) => c.entity === entity.code) ?? {
    entity: entity.code,
    lines: 0,
    entries: 0,
    debit: 0,
    credit: 0,
  };
  const { debit, credit, count } = await figureTotal(ctx, asked);
  return [
    { ...own, currency: entity.currency, ties: own.debit === debit && own.credit === credit && own.lines === count },
  ];
}

/** Of a run that nobody began, whoever set it is told what is new in it. */
async function tellOfNew(
  trx: Parameters<typeof tellPeople>[0],
  viewer: Viewer,
  row: { id: number; subject: string; by_itself: boolean },
) {
  if (!row.by_itself) return;
  const many = (await store.countNew(trx, row, null)) ?? 0;
  if (many > 0)
    await tellPeople(trx, { ...viewer, id: 0, name: 'Just Thread' }, [viewer.id], {
      what: `has ${many} new hits of tests after a load`,
      place: `/tests/${row.id}`,
    });
}

/** Facts with what somebody said is material of each company. */
async function withMaterial(ctx: Context, companies: readonly ResolvedFigure[], facts: Facts): Promise<Facts> {
  const said = new Map<string, Minor>();
  for (const company of companies) {
    const material = await materialAsked(ctx, company);
    for (const { code } of material ? company.entities : []) said.set(code, material?.overall ?? 0);
  }
  return { ...facts, of: (entity) => ({ ...facts.of(entity), material: said.get(entity) ?? null }) };
}
