import { randomBytes } from 'node:crypto';
import type { z } from 'zod';
import type { replacedItemSchema, sampleChangeSchema, testedItemSchema } from '@/contracts/bodies/all';
import { ProblemError, wrong } from '@/contracts/problem';
import { subjectText } from '@/contracts/subject';
import type { Reckoned } from '@/contracts/work';
import { exponentOf, formatAmount, type Minor } from '@/core/money';
import {
  evaluateDifferences,
  evaluateMonetaryUnits,
  type Tested,
  upperDeviationRate,
  upperDeviationRatePoisson,
} from '@/core/sampling';
import { type Written, writeCsv } from '@/exchange/writers';
import type { SampleRow } from '@/store/evidence';
import * as store from '@/store/samples';
import { type Context, known } from '../asking/context';
import { given } from '../asking/given';
import { onRecord } from '../asking/onRecord';
import { typedAmount } from '../asking/typedAmount';
import { require, type Viewer } from '../asking/viewer';
import { aboutOf, keepEvidence, shownAbout } from '../evidence/about';
import { type EvidenceParams, seenEvidence, seenPiece } from '../evidence/seenEvidence';
import { takeAway } from '../evidence/takeAway';
import { heldOpen } from '../evidence/threads/words';
import { type Drawn, draw, figureSampled, itemOf, mustBeDrawn, type SampleWanted, subjectOfItem, tieOf } from './drawn';

const SEED_BYTES = 8;
const TITLE = { lines: 'Lines', entries: 'Entries', documents: 'Documents' } as const;

/** What would be drawn, and how it was reckoned; nothing is kept. */
export async function planSample(ctx: Context, viewer: Viewer, wanted: SampleWanted) {
  const drawn = await draw(ctx, viewer, wanted, wanted.seed ?? 'plan');
  return {
    ...(await shownDraw(ctx, drawn)),
    items: drawn.items.length,
    certain: drawn.items.filter((i) => i.certain).length,
    reckoned: drawn.reckoned,
  };
}

/** What is drawn from, as it is shown. */
const shownPopulation = (population: store.Population, money: (amount: Minor) => string) => ({
  ...{
    count: population.count,
    value: money(population.value),
    net: money(population.net),
    zeros: population.zeros,
  },
  ...{ debits: population.debits, debit: money(population.debit) },
  ...{ credits: population.credits, credit: money(-population.credit) },
});

async function shownDraw(ctx: Context, drawn: Drawn) {
  const { asked, population, strata, interval } = drawn;
  const money = (amount: Minor): string => formatAmount(amount, asked.digits);
  return {
    sentence: asked.sentence,
    currency: asked.currency,
    population: shownPopulation(population, money),
    tie: await tieOf(ctx, drawn),
    strata: strata?.map((s) => ({ from: money(s.from), count: s.count, value: money(s.value) })) ?? null,
    interval: interval === null ? null : money(interval),
  };
}

/** Draws a sample and keeps it, with all that it needs to be drawn again. */
export async function drawSample(ctx: Context, viewer: Viewer, wanted: SampleWanted) {
  require(viewer, 'preparer', 'draw a sample');
  const seed = wanted.seed ?? randomBytes(SEED_BYTES).toString('hex');
  const { newest } = await known(ctx.write);
  const drawn = await draw(ctx, viewer, wanted, seed, newest);
  mustBeDrawn(drawn);
  const { asked, of, method, confidence, population, strata, interval, items } = drawn;
  const subject = subjectText({ is: 'figure', address: asked.narrowed({ load: null }).address });
  const about = await aboutOf(ctx, viewer, {
    ...{ subject, address: wanted.address, label: wanted.label },
    ...{ measure: 'movement', thread: wanted.thread ?? null },
  });
  const { scope: _, address: _a, label: _l, thread: _t, subjects: _s, title, seed: _d, ...params } = wanted;
  const words: store.SampleWords = {
    ...{ title: title || `${TITLE[of]} of ${wanted.label || 'a figure'}`.slice(0, 200), of, method, seed },
    params: { ...params, confidence, reckoned: drawn.reckoned },
    population: { ...population, ...(strata ? { strata } : {}) },
    ...{ currency: asked.currency, interval, attributes: wanted.attributes ?? [], conclusion: '' },
  };
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const added = await keepEvidence(trx, 'sample', { ...about, load: newest }, words);
    await store.addItems(
      trx,
      added,
      items.map((item) => newItem(asked, of, item)),
    );
    await record('drew a sample', about.subject, {
      ...{ sample: added, of, method, seed, load: newest, interval, count: population.count, value: population.value },
      items: items.length,
    });
    return added;
  });
  return showSample(ctx, viewer, id);
}

const newItem = (asked: Drawn['asked'], of: Drawn['of'], item: store.DrawnItem): store.NewItem => ({
  ...{ subject: subjectOfItem(asked, of, item), label: item.label.slice(0, 300), day: item.day },
  ...{ amount: item.amount, stratum: item.stratum, certain: item.certain },
});

/** Samples of figures that the viewer sees, with how far each is. */
export async function listSamples(ctx: Context, viewer: Viewer, params: EvidenceParams) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'sample', params, { ofAll: true });
  return {
    rows: rows.map((row) => {
      const items = row.items as { found: number | null; tested_at: string | null; amount: number }[];
      return {
        ...shownHead(row, viewer),
        size: items.length,
        tested: items.filter((i) => i.tested_at !== null).length,
        errors: items.filter((i) => i.found !== null && i.found !== i.amount).length,
      };
    }),
    next,
  };
}

const shownHead = (row: SampleRow, viewer: Viewer) => ({
  ...shownAbout(row, viewer),
  ...{ title: row.title, of: row.of, method: row.method, seed: row.seed, load: row.load, currency: row.currency },
  ...{ conclusion: row.conclusion, changed: row.changed_at.toISOString() },
});

/** One sample: what it was drawn from and how, and every item with what was found of it. */
export async function showSample(ctx: Context, viewer: Viewer, id: number) {
  const row = await seenPiece(ctx, viewer, 'sample', id);
  const items = await store.readItems(ctx.write, id);
  const digits = exponentOf(row.currency);
  const money = (amount: Minor): string => formatAmount(amount, digits);
  const { strata, ...population } = row.population;
  return {
    ...shownHead(row, viewer),
    size: items.length,
    interval: row.interval === null ? null : money(row.interval),
    confidence: Number(row.params.confidence),
    reckoned: row.params.reckoned as Reckoned,
    attributes: row.attributes,
    population: shownPopulation(population, money),
    strata: strata?.map((s) => ({ from: money(s.from), count: s.count, value: money(s.value) })) ?? null,
    items: items.map((i) => ({
      ...{ no: i.no, subject: i.subject, label: i.label, day: i.day, amount: money(i.amount) },
      ...{ stratum: i.stratum, certain: i.certain, replaces: i.replaces, why: i.why },
      replaced: items.some((other) => other.replaces === i.no),
      found: i.found === null ? null : money(i.found),
      ...{ attributes: i.attributes, note: i.note, by: i.tester, at: i.tested_at?.toISOString() ?? null },
    })),
  };
}

/** A sample of one's own or one's thread, that may be worked at. */
async function worked(ctx: Context, viewer: Viewer, id: number): Promise<SampleRow> {
  require(viewer, 'preparer', 'work at a sample');
  return seenPiece(ctx, viewer, 'sample', id);
}

/** Writes down what was found of an item. What is left out stays as it is. @throws ProblemError */
export async function testItem(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { subject, found, attributes, note }: z.infer<typeof testedItemSchema>,
) {
  const row = await worked(ctx, viewer, id);
  const item = (await store.readItems(ctx.write, id)).find((i) => i.subject === subject);
  if (!item) throw wrong('subject', 'this is no item of the sample');
  const digits = exponentOf(row.currency);
  for (const name of Object.keys(attributes ?? {}))
    if (!row.attributes.includes(name))
      throw wrong('attributes', `the sample has no attribute “${name}”; add it first`);
  const change = {
    ...(found === undefined ? {} : { found: found === null ? null : typedAmount(found, digits, 'found') }),
    ...(attributes === undefined ? {} : { attributes: JSON.stringify({ ...item.attributes, ...attributes }) }),
    ...(note === undefined ? {} : { note }),
  };
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, row.thread);
    await store.updateItem(trx, id, subject, { ...change, tested_by: viewer.id, tested_at: new Date() });
    await record('tested an item of a sample', subject, {
      ...{ sample: id, ...change },
      before: { found: item.found, attributes: item.attributes, note: item.note },
    });
  });
  return showSample(ctx, viewer, id);
}

/** Takes another item in the place of one that could not be tested, and says why. Both stay. @throws ProblemError */
export async function replaceItem(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { subject, by, why }: z.infer<typeof replacedItemSchema>,
) {
  const row = await worked(ctx, viewer, id);
  const items = await store.readItems(ctx.write, id);
  const item = items.find((i) => i.subject === subject);
  if (!item) throw wrong('subject', 'this is no item of the sample');
  if (items.some((i) => i.replaces === item.no)) throw new ProblemError(409, 'Another was taken in its place already');
  if (items.some((i) => i.subject === by)) throw wrong('by', 'this is in the sample already');
  const asked = await figureSampled(ctx, viewer, row.subject, row.load);
  const { question } = await asked.ask(ctx, []);
  const other = await itemOf({ asked, db: ctx.patient, question, of: row.of }, by, 'by');
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, row.thread);
    await store.addItems(trx, id, [
      { ...newItem(asked, row.of, other), stratum: item.stratum, certain: item.certain, replaces: item.no, why },
    ]);
    await record('took another item of a sample', by, { sample: id, instead: subject, why });
  });
  return showSample(ctx, viewer, id);
}

/** Changes what a sample is called, what is looked for in its items, and what is concluded from it. */
export async function changeSample(
  ctx: Context,
  viewer: Viewer,
  id: number,
  change: z.infer<typeof sampleChangeSchema>,
) {
  const row = await worked(ctx, viewer, id);
  const wanted = given(change);
  if (Object.keys(wanted).length > 0)
    await onRecord(ctx, viewer, async (trx, record) => {
      await heldOpen(trx, row.thread);
      await store.updateSample(trx, id, wanted);
      await record('changed a sample', row.subject, { sample: id, ...wanted });
    });
  return showSample(ctx, viewer, id);
}

/** Takes a sample of one's own away; the record keeps that it was drawn. */
export const removeSample = (ctx: Context, viewer: Viewer, id: number): Promise<void> =>
  takeAway(ctx, viewer, 'sample', id, 'took a sample away');

/**
 * What the sample tells of the whole, as far as it was tested. Items in whose place others were taken count no more.
 * Monetary units are projected by their taintings, others by the mean difference of their stratum; attributes by the
 * highest rate of deviations that is likely. A sample that was chosen, or the largest, tells of itself alone.
 */
export async function evaluateSample(ctx: Context, viewer: Viewer, id: number) {
  const row = await seenPiece(ctx, viewer, 'sample', id);
  const all = await store.readItems(ctx.write, id);
  const items = all.filter((i) => !all.some((other) => other.replaces === i.no));
  const digits = exponentOf(row.currency);
  const money = (amount: Minor): string => formatAmount(amount, digits);
  const confidence = Number(row.params.confidence);
  const tested = items.filter((i) => i.found !== null);
  const testedOf = (i: store.SampleItemRow): Tested => ({
    booked: i.amount,
    found: i.found as Minor,
    certain: i.certain,
  });
  const known = tested.reduce((sum, i) => sum + (i.amount - (i.found as Minor)), 0);
  const base = {
    size: items.length,
    tested: tested.length,
    currency: row.currency,
    confidence,
    known: money(known),
    ...rateOf(row, items, confidence),
    attributes: row.attributes.map((name) => {
      const looked = items.filter((i) => i.attributes[name] !== undefined);
      const deviations = looked.filter((i) => i.attributes[name] === false).length;
      const projects = row.method === 'random' || row.method === 'systematic';
      return {
        name,
        tested: looked.length,
        deviations,
        deviationRate: looked.length === 0 ? null : deviations / looked.length,
        upperDeviationRate:
          !projects || looked.length === 0 ? null : upperDeviationRate(deviations, looked.length, confidence),
        upperDeviationRatePoisson:
          !projects || looked.length === 0 ? null : upperDeviationRatePoisson(deviations, looked.length, confidence),
      };
    }),
  };
  const plainErrors = tested
    .filter((i) => i.found !== i.amount)
    .map((i) => ({
      ...{
        subject: i.subject,
        label: i.label,
        booked: money(i.amount),
        found: money(i.found as Minor),
        certain: i.certain,
      },
      tainting: i.amount === 0 ? null : (i.amount - (i.found as Minor)) / i.amount,
    }));
  if (row.method === 'monetary-unit' && row.interval !== null) {
    const { over, under } = evaluateMonetaryUnits(tested.map(testedOf), row.interval, confidence);
    return {
      ...{ ...base, errors: plainErrors, method: row.method },
      ...{ projected: money(over.projected - under.projected), upperLimit: money(over.upperLimit) },
      ...{ basicPrecision: money(over.basicPrecision), factors: over.factors },
      over: shownSide(over, money),
      under: shownSide(under, money),
      strata: null,
    };
  }
  const none = { basicPrecision: null, factors: [], over: null, under: null };
  if (row.method === 'largest' || row.method === 'chosen')
    return {
      ...base,
      ...none,
      errors: plainErrors,
      method: row.method,
      projected: null,
      upperLimit: null,
      strata: null,
    };
  const { strata: kept } = row.population;
  const strata = (kept ?? [{ from: 0, count: row.population.count, value: row.population.value }]).map((s, i) => ({
    items: s.count,
    value: s.value,
    tested: tested.filter((t) => (kept ? t.stratum === i : true)).map(testedOf),
  }));
  const found = evaluateDifferences(strata, confidence);
  return {
    ...{ ...base, ...none, errors: plainErrors, method: row.method },
    ...{ projected: money(found.projected), upperLimit: money(found.upperLimit) },
    strata: found.each.map((e, i) => ({
      ...{ items: strata[i]?.items ?? 0, tested: strata[i]?.tested.length ?? 0, projected: money(e.projected) },
      standardError: money(Math.round(e.standardError)),
    })),
  };
}

/** How many of those that were looked at are not as they should be, in amount or in anything that was looked for. */
function rateOf(row: SampleRow, items: readonly store.SampleItemRow[], confidence: number) {
  const looked = items.filter((i) => i.found !== null || Object.keys(i.attributes).length > 0);
  const deviating = looked.filter(
    (i) => (i.found !== null && i.found !== i.amount) || Object.values(i.attributes).includes(false),
  ).length;
  const projects = (row.method === 'random' || row.method === 'systematic') && looked.length > 0;
  return {
    deviationRate: looked.length === 0 ? null : deviating / looked.length,
    upperDeviationRate: projects ? upperDeviationRate(deviating, looked.length, confidence) : null,
  };
}

const shownSide = (side: ReturnType<typeof evaluateMonetaryUnits>['over'], money: (amount: Minor) => string) => ({
  projected: money(side.projected),
  known: money(side.known),
  basicPrecision: money(side.basicPrecision),
  incremental: money(side.incremental),
  upperLimit: money(side.upperLimit),
  factors: side.factors,
});

const TABLE = ['no', 'subject', 'day', 'label', 'booked', 'stratum', 'certain', 'found', 'note'];

/** The items as a table, to be worked at away from the screen and brought back. */
export async function sampleTable(ctx: Context, viewer: Viewer, id: number) {
  const sample = await showSample(ctx, viewer, id);
  const columns = [...TABLE, ...sample.attributes.map((name) => `attribute:${name}`)];
  const records = async function* (): AsyncGenerator<Written> {
    for (const i of sample.items)
      yield {
        ...{ no: String(i.no), subject: i.subject, day: i.day, label: i.label, booked: i.amount },
        ...{
          stratum: i.stratum === null ? '' : String(i.stratum + 1),
          certain: i.certain ? 'yes' : '',
          found: i.found ?? '',
        },
        note: i.note,
        ...Object.fromEntries(
          sample.attributes.map((name) => [
            `attribute:${name}`,
            i.attributes[name] === undefined ? '' : i.attributes[name] ? 'yes' : 'no',
          ]),
        ),
      };
  };
  const kind = { required: [], known: columns, prefixes: [], dates: ['day'], amounts: ['booked', 'found'] };
  return { stream: writeCsv({ columns, kind, records: records() }), fileName: `sample-${id}.csv` };
}

/** What was found, from a table that was worked at away from the screen: every row that says something. */
export async function testItems(
  ctx: Context,
  viewer: Viewer,
  id: number,
  rows: readonly z.infer<typeof testedItemSchema>[],
) {
  await worked(ctx, viewer, id);
  for (const row of rows) await testItem(ctx, viewer, id, row);
  return showSample(ctx, viewer, id);
}

/** Draws it again, from its own seed and as of its own load: whether the same comes. */
export async function redraw(ctx: Context, viewer: Viewer, id: number) {
  const row = await seenPiece(ctx, viewer, 'sample', id);
  const items = (await store.readItems(ctx.write, id)).filter((i) => i.replaces === null);
  const params = row.params as Partial<SampleWanted>;
  const drawn = await draw(
    ctx,
    viewer,
    {
      ...params,
      ...{ scope: row.subject, of: row.of, method: row.method, address: '', label: '' },
      subjects: row.method === 'chosen' ? items.map((i) => i.subject) : undefined,
    } as SampleWanted,
    row.seed,
    row.load,
  );
  const again = drawn.items.map((item) => `${subjectOfItem(drawn.asked, row.of, item)} ${item.amount}`);
  const then = items.map((i) => `${i.subject} ${i.amount}`);
  const same = again.length === then.length && again.every((item, i) => item === then[i]);
  return { same, items: again.length };
}
