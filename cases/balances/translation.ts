import { wrong } from '@/contracts/problem';
import { addBalance, type Balance, emptyBalance } from '@/core/balances';
import { type Calendar, numberOf, type Ordinal, ordinal, yearOf } from '@/core/calendar';
import { addDays } from '@/core/dates';
import type { Split } from '@/core/figure';
import { isTemporary } from '@/core/ledger';
import { add, exponentOf, type Minor } from '@/core/money';
import { MissingRateError, ratesOf, translated } from '@/core/translate';
import type { EntityQuestion } from '@/store/question';
import { type PeriodSum, ratesTo, sumsByDay, sumsByPeriod } from '@/store/rates';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { DIFFERENCE } from './addedAccounts';

/**
 * Balances of each company of a group in one currency (IAS 21.39), by entity and account: assets and liabilities at the
 * closing rate, income and expense at each period's average rate, equity at the rate of the day it came in, earlier
 * results at the averages of the periods in which they were earned; what is left over is the company's translation
 * difference, in a row of its own.
 */
export async function translatedByEntity(
  ctx: Context,
  asked: ResolvedFigure,
): Promise<Map<string, Map<string, Balance>>> {
  const { figure } = asked;
  const sized = figure.where.find((c) => c.on === 'min' || c.on === 'max');
  if (sized)
    throw wrong(
      sized.on,
      'lines are in the currency of their own books; ask for one company in it to limit them by size',
    );
  if (hasDifference(asked) && figure.accounts !== null) return withDifferenceOf(ctx, asked);
  const rates = await ratesFor(ctx, asked);
  const found = new Map<string, Map<string, Balance>>();
  try {
    for (const e of asked.books) {
      const [part] = await ofEntity(ctx, asked, e, rates, []);
      const balances = part?.balances ?? new Map<string, Balance>();
      if (hasDifference(asked)) balances.set(DIFFERENCE, remainder([...balances.values()]));
      found.set(e.entity.code, balances);
    }
  } catch (error) {
    throw withoutRate(error);
  }
  return found;
}

/** What of an entity falls under the same keys of splits: its translated balances, by account. */
export interface TranslatedPart {
  entity: string;
  keys: (string | null)[];
  balances: Map<string, Balance>;
  /** How many amounts were rounded for each account: so many units may its parts differ from it together. */
  rounded: Map<string, number>;
}

/**
 * The same of each combination of what lines have, every part translated by itself.
 * @param splits of what a line itself has: neither its company and account, nor time that has windows of its own
 */
export async function translatedParts(
  ctx: Context,
  asked: ResolvedFigure,
  splits: readonly Split[],
): Promise<TranslatedPart[]> {
  const rates = await ratesFor(ctx, asked);
  try {
    const found: TranslatedPart[] = [];
    for (const e of asked.books) found.push(...(await ofEntity(ctx, asked, e, rates, splits)));
    return found;
  } catch (error) {
    throw withoutRate(error);
  }
}

/** The same of all the companies together, by account. */
export async function translatedBalances(ctx: Context, asked: ResolvedFigure): Promise<Map<string, Balance>> {
  const group = new Map<string, Balance>();
  for (const balances of (await translatedByEntity(ctx, asked)).values()) {
    for (const [code, balance] of balances) {
      const held = group.get(code) ?? emptyBalance();
      addBalance(held, balance);
      group.set(code, held);
    }
  }
  const difference = group.get(DIFFERENCE);
  if (difference) withNetSides(difference);
  return group;
}

/** Some accounts with the difference, which only the whole books tell. */
async function withDifferenceOf(ctx: Context, asked: ResolvedFigure): Promise<Map<string, Map<string, Balance>>> {
  const whole = asked.withAllAccounts('The difference of a translation is');
  const own = new Map(
    asked.books.map((e) => [
      e.entity.code,
      new Set([DIFFERENCE, ...e.entity.chart.flatMap((a) => (e.own?.includes(a.id) ? [a.code] : []))]),
    ]),
  );
  return new Map(
    [...(await translatedByEntity(ctx, whole))].map(([entity, balances]) => [
      entity,
      new Map([...balances].filter(([code]) => own.get(entity)?.has(code))),
    ]),
  );
}

/** What makes balances of whole books come to nothing. */
function remainder(balances: readonly Balance[]): Balance {
  const rest = emptyBalance();
  for (const b of balances) {
    for (const measure of ['opening', 'movement', 'roll'] as const) rest[measure] = add(rest[measure], 0 - b[measure]);
  }
  return withNetSides(rest);
}

/** A rate that is not there is for whoever asked, with what to load. */
export const withoutRate = (error: unknown): unknown =>
  error instanceof MissingRateError ? wrong('in', error.message) : error;

/** Only whole books balance, and so have a difference of their own; a figure has it that is of all accounts, or names it. */
export const hasDifference = ({ figure, translates }: ResolvedFigure): boolean =>
  translates &&
  figure.where.length === 0 &&
  (figure.accounts === null || figure.accounts.take.some((p) => p.is === 'code' && p.code === DIFFERENCE));

/** What amounts of an entity are worth in another currency, at the rate of a day and at the average of a period. */
export function translator(
  rates: ReturnType<typeof ratesOf>,
  { entity, calendar: cal }: EntityQuestion,
  currency: string,
) {
  const digits = { from: exponentOf(entity.currency), to: exponentOf(currency) };
  const at = (amount: Minor, day: string): Minor =>
    amount === 0 ? 0 : translated(amount, rates.closing(entity.currency, currency, day), digits);
  const averaged = (amount: Minor, period: Ordinal): Minor => {
    if (amount === 0) return 0;
    // An adjustment period has the average of the last normal one.
    const p = cal.period(period);
    const { from, to } = p.adjustment ? cal.periodAt(p.to) : p;
    return translated(amount, rates.average(entity.currency, currency, from, to), digits);
  };
  return { at, averaged };
}

/** The rates between the books' currencies and that of the answer; none are read where they are the same. */
export const ratesFor = async (ctx: Context, { currency, asOf, translates }: ResolvedFigure) =>
  ratesOf(translates ? await ratesTo(ctx.read, currency, asOf) : []);

async function ofEntity(
  ctx: Context,
  asked: ResolvedFigure,
  asking: EntityQuestion,
  rates: ReturnType<typeof ratesOf>,
  splits: readonly Split[],
): Promise<TranslatedPart[]> {
  const { figure } = asked;
  // Each account by its periods, equity by its days.
  const { db, question } = await asked.ask(ctx, [{ by: 'account' }, { by: 'period' }, ...splits]);
  const { entity, calendar: cal, firstYear } = asking;
  const own = asking.own === null ? null : new Set(asking.own);
  const takes = (id: number): boolean => own === null || own.has(id);
  const counts = ({ booked }: PeriodSum): boolean =>
    figure.adjustments === 'with' ||
    yearOf(booked) < firstYear ||
    !cal.periodsOf(yearOf(booked)).some((p) => p.ordinal === booked && p.adjustment);
  const equity = entity.chart.filter((a) => a.posting && a.type === 'equity' && takes(a.id)).map((a) => a.id);
  const groups = new Map<
    string,
    { keys: (string | null)[]; sums: PeriodSum[]; days: (PeriodSum & { day: string })[] }
  >();
  const groupOf = ({ keys }: PeriodSum) => {
    const key = JSON.stringify(keys);
    const held = groups.get(key) ?? { keys, sums: [], days: [] };
    groups.set(key, held);
    return held;
  };
  for (const sum of await sumsByPeriod(db, question, asking, splits)) if (counts(sum)) groupOf(sum).sums.push(sum);
  for (const sum of await sumsByDay(db, question, asking, equity, splits)) if (counts(sum)) groupOf(sum).days.push(sum);
  const worth = translator(rates, asking, asked.currency);
  return [...groups.values()].map(({ keys, sums, days }) => ({
    entity: entity.code,
    keys,
    ...balancesOf(sums, days, asked, asking, takes, worth),
  }));
}

/** Balances by account of the sums of an entity, each at the rate that its account has. */
function balancesOf(
  sums: readonly PeriodSum[],
  days: readonly (PeriodSum & { day: string })[],
  { figure: { window } }: ResolvedFigure,
  { entity, calendar: cal, firstYear, lastYear }: EntityQuestion,
  takes: (account: number) => boolean,
  { at, averaged }: ReturnType<typeof translator>,
): Pick<TranslatedPart, 'balances' | 'rounded'> {
  const [first, last] =
    window.by === 'date'
      ? [window.from, window.to]
      : [cal.period(existing(cal, window.from)).from, cal.period(existing(cal, window.to)).to];
  const [atStart, atEnd] = [addDays(first, -1), last];
  const balances = new Map<string, Balance>();
  const rounded = new Map<string, number>();
  const of = (code: string): Balance => {
    const balance = balances.get(code) ?? emptyBalance();
    balances.set(code, balance);
    rounded.set(code, (rounded.get(code) ?? 0) + 1);
    return balance;
  };
  // Loaded openings of the window's first year are before it, as they are in the entity's own currency.
  const isWithin = (s: PeriodSum): boolean => s.within && !(s.opening && yearOf(s.period) === firstYear);
  const monetary = new Map<string, { before: Minor; upTo: Minor }>();
  const retained = entity.accounts.get(entity.retainedEarnings);
  const keepsRetained = retained !== undefined && takes(retained.id);
  for (const s of sums) {
    const account = entity.accountOf.get(s.account);
    if (!account) continue;
    const within = isWithin(s);
    if (isTemporary(account.type)) {
      const amount = averaged(s.amount, s.period);
      const ended = yearOf(s.period) < lastYear;
      if (takes(account.id)) {
        const b = of(account.code);
        if (within) [b.movement, b.count] = [add(b.movement, amount), b.count + s.count];
        else if (yearOf(s.period) === firstYear) b.opening = add(b.opening, amount);
        if (ended && yearOf(s.period) >= firstYear) b.roll = add(b.roll, 0 - amount);
      }
      if (keepsRetained && ended) {
        const b = of(entity.retainedEarnings);
        if (yearOf(s.period) < firstYear) b.opening = add(b.opening, amount);
        else b.roll = add(b.roll, amount);
      }
    } else if (account.type !== 'equity' && takes(account.id)) {
      const held = monetary.get(account.code) ?? { before: 0, upTo: 0 };
      monetary.set(account.code, held);
      if (!within) held.before = add(held.before, s.amount);
      else of(account.code).count += s.count;
      held.upTo = add(held.upTo, s.amount);
    }
  }
  for (const [code, { before, upTo }] of monetary) {
    const b = of(code);
    b.opening = at(before, atStart);
    b.movement = add(at(upTo, atEnd), 0 - b.opening);
  }
  for (const s of days) {
    const b = of(entity.accountOf.get(s.account)?.code ?? '');
    const amount = at(s.amount, s.day);
    if (isWithin(s)) [b.movement, b.count] = [add(b.movement, amount), b.count + s.count];
    else b.opening = add(b.opening, amount);
  }
  for (const b of balances.values()) withNetSides(b);
  return { balances, rounded };
}

/** A period that an entity's calendar has, for its dates: a group is asked by the first company's periods. */
function existing(cal: Calendar, of: Ordinal): Ordinal {
  const periods = cal.periodsOf(yearOf(of));
  return periods.some((p) => p.ordinal === of)
    ? of
    : ordinal(yearOf(of), Math.min(numberOf(of), periods[periods.length - 1]?.number ?? 1));
}

/** Debits and credits of a translated movement are its net sides; what moves a balance by its rate is no posting. */
export function withNetSides(b: Balance): Balance {
  b.debit = b.movement > 0 ? b.movement : 0;
  b.credit = b.movement < 0 ? 0 - b.movement : 0;
  b.closing = add(add(b.opening, b.movement), b.roll);
  return b;
}
