import { notFound, wrong } from '@/contracts/problem';
import { clausesOf, type ScopeParams, selectionOf, windowEnds } from '@/contracts/scope';
import { CalendarError, calendar, type Ordinal, parsePeriod, periodText, yearOf } from '@/core/calendar';
import { type Clause, FIRST_SET, type Figure, type MemberPick, type Window } from '@/core/figure';
import { exponentOf } from '@/core/money';
import { PATTERN_MAX, patternOf } from '@/core/pattern';
import { accountsIn, didYouMean, nearest, type Selection, SelectionError } from '@/core/selection';
import { NAMED_WINDOWS } from '@/core/windows';
import { booksKept, type CatalogueEntity } from '@/store/catalogue';
import { tickedLines } from '@/store/evidence';
import { storedTicks } from '@/store/ticked';
import { differenceAccount } from '../balances/addedAccounts';
import { type Context, type Known, known } from './context';
import { everyAccount, hasPeriod, ResolvedFigure } from './resolvedFigure';
import { maySee, requireWhole, type Viewer } from './viewer';

/**
 * URL → figure: the one path of a question (architecture.md).
 * @param options.eliminates whether dealings between the companies are taken out
 * @param options.translates whether the answer can be in another currency than the books
 * @throws ProblemError naming the parameter, and what would mend it
 */
export async function resolveFigure(
  ctx: Context,
  viewer: Viewer,
  params: ScopeParams,
  options: { translates?: boolean; eliminates?: boolean } = {},
): Promise<ResolvedFigure> {
  const names = await known(ctx.read);
  const { catalogue, newest } = names;
  const codes = params.entity ?? [...catalogue.entities.keys()].filter((code) => maySee(viewer, code));
  const entities = [...new Set(codes)].map((code) => {
    const entity = catalogue.entities.get(code);
    if (!entity || !maySee(viewer, code)) throw notFound(`Entity ${code}`);
    return entity;
  });
  if (entities.length === 0) throw wrong('entity', 'there is no entity to ask about yet; load a ledger first');
  const currency = currencyOf(entities, params.in, options.translates ?? false);
  const digits = exponentOf(currency);
  if (params.load !== undefined && params.load > newest)
    throw wrong('load', `there is no load ${params.load}; the newest is ${newest}`);
  const where = await withTicks(ctx, checkedClauses(clausesOf(params, digits), names), entities, params.load ?? newest);
  const accounts = selectionOf(params);
  if (accounts) checkAccounts(accounts, entities);
  if (options.eliminates) requireWhole(viewer, 'An elimination is');
  const asked = ResolvedFigure.seenBy(
    viewer,
    {
      entities: entities.map((e) => e.code),
      accounts,
      window: windowOf(params, entities, names, ctx.today()),
      adjustments: params.adjustments ?? 'with',
      status: params.status ?? 'posted',
      where,
      load: params.load ?? null,
      ...(params.accounting === 'cash' ? { accounting: cashBasisOf(entities, params.load ?? newest) } : {}),
      ...basisOf(params, catalogue.proposedSets),
    },
    names,
    currency,
    { eliminates: options.eliminates ?? false, heavy: params.heavy },
  );
  for (const clause of where)
    if (clause.on === 'opposite') for (const code of clause.any) checkOpposite(code, entities);
  return asked;
}

/** @throws ProblemError for a company whose books were not on the cash basis yet */
function cashBasisOf(entities: CatalogueEntity[], load: number): 'cash' {
  for (const { code, cash } of entities) {
    if (!cash)
      throw wrong(
        'accounting',
        `${code} keeps no cash basis yet; have it kept where the sentence says which lines count`,
      );
    if (load < cash.since)
      throw wrong(
        'accounting',
        `${code} keeps a cash basis since load ${cash.since}; ask as of that load or a later one`,
      );
  }
  return 'cash';
}

/** What is proposed counts by the sets that are named, which are there. @throws ProblemError */
function basisOf({ basis, set }: ScopeParams, there: readonly string[]): Pick<Figure, 'basis' | 'sets'> {
  if (basis === undefined || basis === 'booked') {
    if (set !== undefined)
      throw wrong('set', 'sets of proposed entries count where basis is with-proposed or proposed; add one of them');
    return {};
  }
  const sets = [...new Set(set ?? [FIRST_SET])].sort();
  for (const name of sets) {
    if (there.includes(name)) continue;
    const near = nearest(name, [...there]);
    throw wrong('set', `there is no set “${name}” of proposed entries${didYouMean(near)}`);
  }
  return { basis, sets };
}

function currencyOf(entities: CatalogueEntity[], wanted: string | undefined, translates: boolean): string {
  const kept = new Map(entities.map((e) => [e.currency, e.code]));
  const [[currency] = ['']] = [...kept];
  if (translates) return wanted ?? currency;
  if (kept.size > 1) {
    const list = entities.map((e) => `${e.code} in ${e.currency}`).join(', ');
    throw wrong(
      'entity',
      `these entities keep their books in different currencies (${list}): split the figure by entity first, then ask of one of them`,
    );
  }
  if (wanted !== undefined && wanted !== currency) {
    throw wrong('in', `this is told in ${currency}, the currency of the books; leave out the currency to show in`);
  }
  return currency;
}

function windowOf(params: ScopeParams, entities: CatalogueEntity[], { extents }: Known, today: string): Window {
  const mine = entities.map((e) => extents.get(e.code)).filter((e) => e !== undefined);
  const first = Math.min(...mine.map((e) => e.firstPeriod));
  const last = Math.max(...mine.map((e) => e.lastPosted));
  const cal = calendar((entities[0] as CatalogueEntity).calendar);
  const ends = windowEnds(params);
  try {
    if (ends === null) {
      if (mine.length === 0 && params.window !== 'current-period') {
        const now = cal.periodAt(today).ordinal;
        return { by: 'period', from: now, to: now };
      }
      const named = NAMED_WINDOWS[params.window ?? 'latest-period'] as (typeof NAMED_WINDOWS)[string];
      const everyLast = Math.max(...mine.map((e) => e.lastPeriod));
      const extent = { first, last: params.window === 'everything' ? everyLast : last };
      return { by: 'period', ...named(cal, today, extent, params.goesOn === 'yes') };
    }
    if (ends.by === 'period') {
      const from = ends.from === null ? first : (parsePeriod(ends.from) as Ordinal);
      const to = ends.to === null ? Math.max(...mine.map((e) => e.lastPeriod)) : (parsePeriod(ends.to) as Ordinal);
      for (const [path, at] of [
        ['from', ends.from && from],
        ['to', ends.to && to],
      ] as const) {
        if (at) checkPeriod(path, at, entities);
      }
      return ordered({
        by: 'period',
        from: Math.min(from, ends.from === null ? to : from),
        to,
        ...(ends.from === null ? { fromFirst: true } : {}),
      });
    }
    const days = mine.flatMap((e) => [e.firstDay, e.lastDay]).sort();
    const to = ends.to ?? (days[days.length - 1] as string);
    const start = ends.from ?? (days[0] as string);
    const from = ends.from === null && start > to ? to : start;
    for (const e of entities) for (const at of [from, to]) calendar(e.calendar).periodAt(at);
    return ordered({ by: 'date', from, to, ...(ends.from === null ? { fromFirst: true } : {}) });
  } catch (error) {
    if (error instanceof CalendarError) throw wrong(params.from ? 'from' : 'to', error.message);
    throw error;
  }
}

function ordered(window: Window): Window {
  if (window.from > window.to) throw wrong('to', 'the window ends before it begins; change from or to');
  return window;
}

/** Of a group at least one company must have the period; in the books of the others nothing is in it. */
function checkPeriod(path: string, at: Ordinal, entities: CatalogueEntity[]): void {
  if (entities.some((e) => hasPeriod(e, at))) return;
  for (const e of entities) {
    const cal = calendar(e.calendar);
    const year = yearOf(at);
    const periods = cal.periodsOf(year).map((p) => periodText(p.ordinal));
    const offer = periods.length > 0 ? `; that year has ${periods[0]} to ${periods[periods.length - 1]}` : '';
    throw wrong(path, `${e.code} has no period ${periodText(at)}${offer}`);
  }
}

/** Which lines bear a tick is looked for now: the question is of those, whatever is ticked later. */
async function withTicks(
  ctx: Context,
  where: Clause[],
  entities: readonly CatalogueEntity[],
  asOf: number,
): Promise<Clause[]> {
  if (!where.some((clause) => clause.on === 'ticked')) return where;
  const ticked = await tickedLines(
    ctx.write,
    entities.map((e) => e.code),
  );
  const books = entities.flatMap((e) => booksKept(e).map((number) => ({ code: e.code, books: number })));
  const lines = await storedTicks(ctx.read, books, ticked, asOf);
  return where.map((clause) => (clause.on === 'ticked' ? { ...clause, lines } : clause));
}

/** Members are known ones; a pattern stands for all that it fits. */
function checkedClauses(where: Clause[], { catalogue }: Known): Clause[] {
  return where.map((clause) => {
    if (clause.on !== 'dim') return clause;
    const dimension = catalogue.dimensions.get(clause.dim);
    if (!dimension) {
      const near = nearest(clause.dim, [...catalogue.dimensions.keys()]);
      throw wrong(`dim.${clause.dim}`, `there is no dimension “${clause.dim}”${didYouMean(near)}`);
    }
    const any = clause.any.flatMap((pick): MemberPick[] => {
      if (pick.is === 'none' || pick.code === '~nothing' || dimension.tree.has(pick.code)) return [pick];
      const named = dimension.name.toLowerCase();
      if (/[*?]/.test(pick.code) && pick.code.length > PATTERN_MAX)
        throw wrong(`dim.${clause.dim}`, `a pattern has at most ${PATTERN_MAX} characters`);
      const pattern = /[*?]/.test(pick.code) ? patternOf(pick.code) : null;
      const fitting = pattern ? [...dimension.tree.keys()].filter((code) => pattern.test(code)) : [];
      if (fitting.length > 0) return fitting.map((code) => ({ ...pick, code }));
      const near = nearest(pick.code, [...dimension.tree.keys()]);
      throw wrong(`dim.${clause.dim}`, `there is no ${named} “${pick.code}”${didYouMean(near)}`);
    });
    return { ...clause, any };
  });
}

function checkOpposite(code: string, entities: CatalogueEntity[]): void {
  if (entities.some((e) => e.accounts.has(code))) return;
  const near = nearest(code, [...new Set(entities.flatMap((e) => [...e.accounts.keys()]))]);
  throw wrong('opposite', `there is no account “${code}”${didYouMean(near)}`);
}

/** A selection may name accounts that only some of the entities have, but not ones that none has. */
function checkAccounts(accounts: Selection, entities: CatalogueEntity[]): void {
  try {
    // Where nothing is translated the difference is an account that takes nothing.
    accountsIn(accounts, [...everyAccount(entities), differenceAccount]);
  } catch (error) {
    if (error instanceof SelectionError) throw wrong('accounts', error.message);
    throw error;
  }
}
