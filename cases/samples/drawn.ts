import type { z } from 'zod';
import type { newSampleSchema } from '@/contracts/bodies/all';
import { ProblemError, wrong } from '@/contracts/problem';
import { readSubject, subjectText } from '@/contracts/subject';
import type { Method, Reckoned, SampledOf } from '@/contracts/work';
import { exponentOf, formatAmount, type Minor } from '@/core/money';
import {
  attributeSize,
  firstUnit,
  monetaryUnitSize,
  placesAt,
  placesOf,
  proposedBounds,
  type Size,
} from '@/core/sampling';
import type { Db } from '@/store/db';
import type { Question } from '@/store/question';
import * as store from '@/store/samples';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { figureAt } from '../asking/subjects';
import { typedAmount } from '../asking/typedAmount';
import type { Viewer } from '../asking/viewer';
import { requireWhole } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';

export type SampleWanted = z.infer<typeof newSampleSchema>;

const ITEMS_MAX = 5_000;
const CONFIDENCE = 0.95;
const STRATA = 5;
const LOOKED_AT = 5_000;

/** A sample as it is drawn, before it is kept. */
export interface Drawn {
  asked: ResolvedFigure;
  db: Db;
  question: Question;
  of: SampledOf;
  method: Method;
  seed: string;
  confidence: number;
  population: store.Population;
  strata: store.StratumOf[] | null;
  interval: Minor | null;
  reckoned: Reckoned;
  items: store.DrawnItem[];
}

/** The figure that is drawn from: `figure:…`, or the parameters of its address. @throws ProblemError */
export async function figureSampled(ctx: Context, viewer: Viewer, scope: string, load: number | null) {
  const address = scope.startsWith('figure:') ? scope.slice('figure:'.length) : scope.replace(/^\?/, '');
  const asked = await figureAt(ctx, viewer, address, load);
  if (asked.translates)
    throw wrong('scope', 'a sample is drawn of amounts in the currency of the books; leave the other currency out');
  return asked;
}

/**
 * Draws a sample: the same seed of the same figure at the same load gives the same items.
 * @param load the load as of which it is drawn; null: the newest
 * @throws ProblemError naming what does not fit
 */
export async function draw(
  ctx: Context,
  viewer: Viewer,
  wanted: SampleWanted,
  seed: string,
  load: number | null = null,
): Promise<Drawn> {
  const asked = await figureSampled(ctx, viewer, wanted.scope, load);
  if (wanted.of === 'documents') requireWhole(viewer, 'Documents are');
  // Everything is gone through once, however much it is: whoever draws a sample waits for that.
  const { question } = await asked.ask(ctx, []);
  const db = ctx.patient;
  const { of, method } = wanted;
  const population = await store.populationOf(db, question, of);
  const confidence = wanted.confidence ?? CONFIDENCE;
  const base = { asked, db, question, of, method, seed, confidence, population, strata: null, interval: null };
  if (population.count === 0) throw wrong('scope', `there are no ${of} to draw from`);
  switch (method) {
    case 'random': {
      const { size, reckoned } = plainSize(wanted, population.count, confidence);
      const items = await store.itemsAt(db, question, of, [
        { stratum: 0, places: placesOf(seed, size, population.count) },
      ]);
      return { ...base, reckoned, items: items.map((i) => ({ ...i, stratum: null })) };
    }
    case 'systematic': {
      const { size, reckoned } = plainSize(wanted, population.count, confidence);
      const { interval, places } = placesAt(seed, size, population.count);
      const items = await store.itemsAt(db, question, of, [{ stratum: 0, places }]);
      return {
        ...base,
        reckoned: { ...reckoned, step: interval },
        items: items.map((i) => ({ ...i, stratum: null })),
      };
    }
    case 'largest': {
      const { size, reckoned } = plainSize(wanted, population.count, confidence);
      return { ...base, reckoned, items: await store.largestItems(db, question, of, size) };
    }
    case 'stratified':
      return { ...base, ...(await stratified(base, wanted)) };
    case 'monetary-unit':
      return { ...base, ...(await monetaryUnit(base, wanted)) };
    case 'chosen':
      return { ...base, reckoned: { is: 'chosen' }, items: await chosen(base, wanted) };
  }
}

type Base = Omit<Drawn, 'items' | 'reckoned'>;

/** How many are drawn: as many as are wanted, or as tolerable and expected rates of deviation ask for. */
function plainSize(
  wanted: SampleWanted,
  count: number,
  confidence: number,
): { size: number; reckoned: Reckoned & { is: 'size' } } {
  const { size, tolerableRate, expectedRate = 0 } = wanted;
  if (size !== undefined)
    return { size: within(Math.min(size, count)), reckoned: { is: 'size', size: Math.min(size, count) } };
  if (tolerableRate === undefined) throw wrong('size', 'say how many, or which rate of deviations is tolerable');
  if (expectedRate >= tolerableRate)
    throw wrong('expectedRate', 'fewer are expected than are tolerable, or nothing could be concluded');
  const found = reckonedSize(() => attributeSize(tolerableRate, expectedRate, confidence), 'tolerableRate');
  return {
    size: within(Math.min(found, count)),
    reckoned: { is: 'size', size: Math.min(found, count), tolerableRate, expectedRate },
  };
}

function within(size: number): number {
  if (size > ITEMS_MAX) throw wrong('size', `${size} items would be drawn; a sample has at most ${ITEMS_MAX}`);
  return size;
}

function reckonedSize<Of>(reckon: () => Of, path: string): Of {
  try {
    return reckon();
  } catch (error) {
    if (error instanceof RangeError) throw wrong(path, error.message);
    throw error;
  }
}

/** Strata by amount, from their bounds or as proposed; items shared out by value, one of each at the least. */
async function stratified(base: Base, wanted: SampleWanted) {
  const { db, question, of, seed, asked, population, confidence } = base;
  const { digits } = asked;
  const bounds = wanted.strata
    ? wanted.strata.map((s, i) => typedAmount(s, digits, `strata.${i}`))
    : proposedBounds(await store.amountsAcross(db, question, of, LOOKED_AT), STRATA);
  for (const [i, bound] of bounds.entries())
    if (bound <= (bounds[i - 1] ?? 0))
      throw wrong(`strata.${i}`, 'bounds rise from one to the next, and begin above nothing');
  const strata = await store.strataOf(db, question, of, bounds);
  const { size, reckoned } = plainSize(wanted, population.count, confidence);
  const shares = sharedOut(strata, size);
  const places = strata.map((s, stratum) => ({
    stratum,
    places: placesOf(`${seed}/${stratum}`, shares[stratum] as number, s.count),
  }));
  return {
    strata,
    reckoned: { ...reckoned, shares },
    items: await store.itemsAt(db, question, of, places, bounds),
  };
}

/** So many items for each stratum, by its value, one at the least and no more than it has. */
function sharedOut(strata: readonly store.StratumOf[], size: number): number[] {
  const value = strata.reduce((all, s) => all + s.value, 0);
  return strata.map((s) =>
    s.count === 0
      ? 0
      : Math.min(s.count, Math.max(1, Math.round(value === 0 ? size / strata.length : (size * s.value) / value))),
  );
}

async function monetaryUnit(base: Base, wanted: SampleWanted) {
  const { db, question, of, seed, asked, population, confidence } = base;
  const { digits } = asked;
  // Items of the other sign and of nothing are shown apart: no unit of the value falls on them.
  const sign = population.net < 0 ? -1 : 1;
  const value = sign === 1 ? population.debit : -population.credit;
  const { interval, reckoned } = intervalOf(wanted, value, digits, confidence);
  const items = await store.unitsDrawn(db, question, of, {
    ...{ interval, sign, first: firstUnit(interval, seed) },
    withCertain: wanted.certain ?? true,
  });
  within(items.length);
  return { interval, reckoned, items };
}

function intervalOf(
  wanted: SampleWanted,
  value: Minor,
  digits: number,
  confidence: number,
): { interval: Minor; reckoned: Reckoned } {
  const said = (amount: Minor): string => formatAmount(amount, digits);
  if (wanted.interval !== undefined) {
    const interval = typedAmount(wanted.interval, digits, 'interval');
    if (interval <= 0) throw wrong('interval', 'an interval is more than nothing');
    return { interval, reckoned: { is: 'units', interval: said(interval) } };
  }
  if (wanted.tolerable === undefined) throw wrong('tolerable', 'say which misstatement is tolerable, or the interval');
  const tolerable = typedAmount(wanted.tolerable, digits, 'tolerable');
  const expected = wanted.expected === undefined ? 0 : typedAmount(wanted.expected, digits, 'expected');
  if (tolerable <= 0) throw wrong('tolerable', 'what is tolerable is more than nothing');
  const size: Size = reckonedSize(() => monetaryUnitSize({ value, tolerable, expected, confidence }), 'expected');
  return {
    interval: size.interval,
    reckoned: {
      ...{ is: 'units' as const, interval: said(size.interval), tolerable: said(tolerable), factor: size.factor },
      ...(expected === 0 ? {} : { expected: said(expected) }),
      ...{ size: size.size, value: said(value) },
    },
  };
}

/** Items by their subjects, each of which the figure holds. @throws ProblemError naming the first that it does not */
async function chosen(base: Base, { subjects = [] }: SampleWanted): Promise<store.DrawnItem[]> {
  if (subjects.length === 0) throw wrong('subjects', 'choose what is drawn');
  const items: store.DrawnItem[] = [];
  for (const [i, subject] of subjects.entries()) items.push(await itemOf(base, subject, `subjects.${i}`));
  return items;
}

/** One item of what is drawn from, by its subject. @throws ProblemError where it is none */
export async function itemOf(
  { asked, db, question, of }: Pick<Drawn, 'asked' | 'db' | 'question' | 'of'>,
  text: string,
  path: string,
): Promise<store.DrawnItem> {
  const subject = readSubject(text);
  const parts =
    subject.is === 'line' && of === 'lines'
      ? { entity: subject.entity, number: subject.entry, line: subject.line }
      : subject.is === 'entry' && of === 'entries'
        ? { entity: subject.entity, number: subject.entry, line: null }
        : subject.is === 'document' && of === 'documents'
          ? { entity: subject.entity, number: subject.number, line: null }
          : null;
  if (parts === null) throw wrong(path, `“${text}” is none of the ${of} that are drawn from`);
  for (const books of asked.books.flatMap((e) => (e.entity.code === parts.entity ? e.books : []))) {
    const found = await store.itemNamed(db, question, of, { books, number: parts.number, line: parts.line });
    if (found) return found;
  }
  throw wrong(path, `“${text}” is not among what is drawn from`);
}

/** How evidence names an item. */
export function subjectOfItem(asked: ResolvedFigure, of: SampledOf, item: store.DrawnItem): string {
  const entity = asked.books.find((e) => e.books.includes(item.books))?.entity.code ?? '';
  switch (of) {
    case 'lines':
      return subjectText({ is: 'line', entity, entry: item.number, line: item.line ?? 0 });
    case 'entries':
      return subjectText({ is: 'entry', entity, entry: item.number });
    case 'documents':
      return subjectText({ is: 'document', entity, number: item.number });
  }
}

/**
 * What is drawn from against the movement of the figure as the trial balance knows it: the completeness of what could be
 * drawn (ISA 500.9). Documents leave out what names none, which is said.
 */
export async function tieOf(ctx: Context, { asked, population, of }: Pick<Drawn, 'asked' | 'population' | 'of'>) {
  const { movement, count } = await figureTotal(ctx, asked);
  const digits = exponentOf(asked.currency);
  return {
    holds: population.net === movement && (of !== 'lines' || population.count === count),
    items: formatAmount(population.net, digits),
    ledger: formatAmount(movement, digits),
    lines: count,
  };
}

export const mustBeDrawn = (drawn: Drawn): void => {
  if (drawn.items.length === 0)
    throw new ProblemError(422, 'Nothing was drawn; take a shorter interval, or more items');
};
