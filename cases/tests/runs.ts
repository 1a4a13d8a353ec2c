import type { z } from 'zod';
import type { newTestRunSchema } from '@/contracts/bodies/all';
import { wrong } from '@/contracts/problem';
import { subjectText } from '@/contracts/subject';
import { exponentOf, formatAmount } from '@/core/money';
import { isTest, type Kept, TEST_CODES, type TestCode, testOf } from '@/core/tests/list';
import type { Param } from '@/core/tests/test';
import type { RunRow } from '@/store/evidence';
import { type JobRow, readJob } from '@/store/jobs';
import * as store from '@/store/testRuns';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { figureAt } from '../asking/subjects';
import { typedAmount } from '../asking/typedAmount';
import { maySee, require, type Viewer } from '../asking/viewer';
import { aboutOf, keepEvidence, shownAbout } from '../evidence/about';
import { type EvidenceParams, seenEvidence, seenPiece } from '../evidence/seenEvidence';
import { takeAway } from '../evidence/takeAway';
import { addJob, begunBy } from '../jobs/jobs';
import { addressOf, settingsSaid, testsNamed } from './tests';

type Wanted = z.infer<typeof newTestRunSchema>;

/** Has tests run over the lines of a figure, in the background. @throws ProblemError */
export async function beginRun(
  ctx: Context,
  viewer: Viewer,
  wanted: Wanted,
  byItself = false,
): Promise<{ id: number }> {
  require(viewer, 'preparer', 'run tests');
  const tests = testsNamed(wanted.tests);
  const asked = await figureAt(ctx, viewer, addressOf(wanted.scope), null);
  const params = paramsOf(wanted.parameters ?? {}, asked.entities);
  const subject = subjectText({ is: 'figure', address: asked.narrowed({ load: null }).address });
  const about = await aboutOf(ctx, viewer, {
    ...{ subject, address: wanted.address, label: asked.sentence.slice(0, 300), thread: wanted.thread ?? null },
  });
  const title =
    wanted.title ||
    (tests.length === TEST_CODES.length
      ? 'All tests'
      : tests.length === 1
        ? testOf(tests[0] as TestCode).name
        : `${tests.length} tests`);
  return writeRun(ctx, viewer, about, { title, tests, params, by_itself: byItself });
}

/** Runs the same tests with the same settings over the same figure again, on the newest load. @throws ProblemError */
export async function runAgain(ctx: Context, viewer: Viewer, id: number): Promise<{ id: number }> {
  require(viewer, 'preparer', 'run tests');
  const row = await seenPiece(ctx, viewer, 'run', id);
  const { subject, address, label, thread, title, tests, params } = row;
  const about = await aboutOf(ctx, viewer, { subject, address, label, thread });
  return writeRun(ctx, viewer, about, { title, tests: tests.filter(isTest), params, by_itself: false });
}

/** Writes a run down, and has it done in the background. */
async function writeRun(
  ctx: Context,
  viewer: Viewer,
  about: Awaited<ReturnType<typeof aboutOf>>,
  { title, tests, params, by_itself }: Pick<RunRow, 'title' | 'tests' | 'params' | 'by_itself'>,
): Promise<{ id: number }> {
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const added = await keepEvidence(trx, 'run', about, { title, tests, params: JSON.stringify(params), by_itself });
    const job = await addJob(trx, {
      ...begunBy(viewer),
      kind: 'tests',
      subject: runSubject(added),
      label: title,
      entities: about.entities,
      input: { run: added },
    });
    await store.setJob(trx, added, job);
    await record('ran tests', about.subject, { run: added, tests, params, load: about.load });
    return added;
  });
  return { id };
}

export const runSubject = (id: number): string => `run ${id}`;

/** Settings as they are kept: amounts in minor units of each company's books. @throws ProblemError naming the setting */
function paramsOf(
  given: NonNullable<Wanted['parameters']>,
  entities: readonly { code: string; currency: string }[],
): Record<string, Record<string, Kept>> {
  return Object.fromEntries(
    Object.entries(given).map(([code, values]) => {
      if (!isTest(code)) throw wrong(`parameters.${code}`, 'there is no such test; GET /tests lists them');
      const { params } = testOf(code);
      const kept = Object.entries(values).map(([name, value]) => {
        const path = `parameters.${code}.${name}`;
        const param = params[name];
        if (!param)
          throw wrong(path, `this test has no such setting; it has ${Object.keys(params).join(', ') || 'none'}`);
        return [name, keptValue(param, value, entities, path)] as const;
      });
      return [code, Object.fromEntries(kept)];
    }),
  );
}

function keptValue(
  param: Param,
  value: number | string | readonly string[],
  entities: readonly { code: string; currency: string }[],
  path: string,
): Kept {
  switch (param.is) {
    case 'amount': {
      if (typeof value !== 'string') throw wrong(path, 'write an amount, such as "10000.00"');
      return Object.fromEntries(
        entities.map((e) => {
          const amount = typedAmount(value, exponentOf(e.currency), path);
          if (amount < 0) throw wrong(path, 'an amount here is not below nothing');
          return [e.code, amount];
        }),
      );
    }
    case 'number': {
      const n = Number(value);
      if (Array.isArray(value) || !Number.isFinite(n) || n < param.least || n > param.most)
        throw wrong(path, `write a number from ${param.least} to ${param.most}`);
      return n;
    }
    case 'words':
      if (!Array.isArray(value)) throw wrong(path, 'give a list of words');
      return value.map((word: string) => word.trim()).filter(Boolean);
    case 'choice':
      if (typeof value !== 'string' || !param.options.includes(value))
        throw wrong(path, `choose ${param.options.join(' or ')}`);
      return value;
  }
}

/** Runs over what the viewer may see, the newest first. */
export async function listRuns(ctx: Context, viewer: Viewer, params: EvidenceParams) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'run', params, { ofAll: true });
  const shown = await Promise.all(
    rows.map(async (row) => shownHead(ctx, viewer, row, await countsOf(ctx, viewer, row))),
  );
  return { rows: shown.reverse(), next };
}

type Counts = Awaited<ReturnType<typeof store.countHits>>;

/** What is judged of what a run found; nothing before it is done. */
const countsOf = async (ctx: Context, viewer: Viewer, { id, finished_at }: RunRow): Promise<Counts> =>
  finished_at === null ? [] : store.countHits(ctx.write, id, seenEntities(viewer));

async function shownHead(ctx: Context, viewer: Viewer, row: RunRow, counts: Counts) {
  const job = row.finished_at === null && row.job !== null ? await readJob(ctx.write, row.job) : null;
  const hits = counts.reduce((sum, c) => sum + c.hits, 0);
  return {
    ...shownAbout(row, viewer),
    ...{ title: row.title, tests: row.tests, load: row.load, job: row.job, byItself: row.by_itself },
    ...stateOf(row, job),
    finished: row.finished_at?.toISOString() ?? null,
    hits: row.finished_at === null ? null : hits,
    open: row.finished_at === null ? null : hits - counts.reduce((sum, c) => sum + c.judged + c.ignored, 0),
  };
}

function stateOf(row: RunRow, job: JobRow | null | undefined) {
  if (row.finished_at !== null) return { state: 'done' as const, progress: 1, message: null };
  if (!job) return { state: 'failed' as const, progress: 0, message: 'its work is not there any more' };
  const ended = job.state === 'cancelled' ? ('cancelled' as const) : ('failed' as const);
  const state = job.finished_at !== null ? ended : job.begun_at === null ? ('waiting' as const) : ('running' as const);
  return { state, progress: job.progress, message: job.message };
}

export const seenEntities = (viewer: Viewer): readonly string[] | null => viewer.entities;

/** One run: what it looked at, and what each test came to. */
export async function showRun(ctx: Context, viewer: Viewer, id: number) {
  const row = await seenPiece(ctx, viewer, 'run', id);
  const [counts, { catalogue }] = await Promise.all([countsOf(ctx, viewer, row), known(ctx.read)]);
  const head = await shownHead(ctx, viewer, row, counts);
  const seen = (row.population ?? []).filter((p) => maySee(viewer, p.entity));
  const currency = new Map(seen.map((p) => [p.entity, p.currency]));
  const money = (entity: string, amount: number): string => {
    const of = currency.get(entity) ?? 'XXX';
    return `${of} ${formatAmount(amount, exponentOf(of))}`;
  };
  return {
    ...head,
    sentence: row.label,
    population: seen.map((p) => ({
      ...{ entity: p.entity, name: catalogue.entities.get(p.entity)?.name ?? p.entity, currency: p.currency },
      ...{ lines: p.lines, entries: p.entries, tie: p.ties },
      debit: formatAmount(p.debit, exponentOf(p.currency)),
      credit: formatAmount(p.credit, exponentOf(p.currency)),
    })),
    results: (row.results ?? []).flatMap((r) => {
      if (!isTest(r.test)) return [];
      const { name, group, looksFor, source } = testOf(r.test);
      const count = counts.find((c) => c.test === r.test);
      return [
        {
          ...{
            code: r.test,
            name,
            group,
            looksFor,
            source,
            hits: r.count,
            kept: r.kept,
            ms: r.ms,
            notLookedAt: r.notLookedAt,
          },
          ...{ judged: count?.judged ?? 0, ignored: count?.ignored ?? 0 },
          amounts: amountsByCurrency(r.amounts, currency),
          settings: settingsSaid(r.test, row.ran_with?.[r.test] ?? {}, money),
        },
      ];
    }),
    before: await store.runBefore(ctx.write, id, row.subject),
  };
}

function amountsByCurrency(amounts: Readonly<Record<string, number>>, currencies: ReadonlyMap<string, string>) {
  const sums = new Map<string, number>();
  for (const [entity, amount] of Object.entries(amounts)) {
    const currency = currencies.get(entity);
    if (currency !== undefined) sums.set(currency, (sums.get(currency) ?? 0) + amount);
  }
  return [...sums].map(([currency, amount]) => ({ currency, amount: formatAmount(amount, exponentOf(currency)) }));
}

/** Takes a run of one's own away, with what it found; what was said of that stays said. */
export const removeRun = (ctx: Context, viewer: Viewer, id: number): Promise<void> =>
  takeAway(ctx, viewer, 'run', id, 'took a run of tests away');
