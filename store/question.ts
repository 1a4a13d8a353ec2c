import { type Calendar, calendar, yearOf } from '@/core/calendar';
import type { Clause, Figure, Split } from '@/core/figure';
import { isTemporary } from '@/core/ledger';
import { accountsIn, type Pick, type Selection } from '@/core/selection';
import type { Catalogue, CatalogueEntity } from './catalogue';
import type { Columns } from './columns/manifest';

/** The tables that can answer. */
export type Source = 'balance_period' | 'balance_day' | 'balance_member' | 'line' | 'columns';

/** What a figure asks, with every name turned into a key of the database. */
export interface Question {
  figure: Figure;
  catalogue: Catalogue;
  asOf: number;
  entities: EntityQuestion[];
  /** Copies of all its lines by columns, as new as the question; absent: the database reads lines itself. */
  columns?: Columns;
}

export interface EntityQuestion {
  entity: CatalogueEntity;
  /** Numbers under which its lines are kept: of its books, of what is entered besides on the cash basis, of what is proposed. */
  books: number[];
  calendar: Calendar;
  /** Selected posting accounts; null: all of them. */
  own: number[] | null;
  /** The figure selects this entity's retained earnings account. */
  retained: boolean;
  rolls: boolean;
  firstYear: number;
  lastYear: number;
}

/** @throws SelectionError, CalendarError when the figure does not fit the ledger */
export function questionOf(figure: Figure, catalogue: Catalogue, asOf: number): Question {
  const entities = figure.entities.map((code) => {
    const entity = catalogue.entities.get(code) as CatalogueEntity;
    const cal = calendar(entity.calendar);
    const { from, to } = figure.window;
    const firstYear = typeof from === 'number' ? yearOf(from) : cal.periodAt(from).year;
    const lastYear = typeof to === 'number' ? yearOf(to) : cal.periodAt(to).year;
    const codes = figure.accounts && selected(figure.accounts, entity);
    return {
      entity,
      books: booksAsked(figure, entity),
      calendar: cal,
      own: codes && [...codes].map((c) => entity.accounts.get(c)?.id as number),
      retained: !codes || codes.has(entity.retainedEarnings),
      rolls: lastYear > firstYear,
      firstYear,
      lastYear,
    };
  });
  return { figure, catalogue, asOf, entities };
}

/** A number under which no lines are kept: that of proposed entries where a company has none. */
const NO_BOOKS = -1;

function booksAsked({ accounting, basis, sets = [] }: Figure, entity: CatalogueEntity): number[] {
  const booked = [entity.id, ...(accounting === 'cash' && entity.cash ? [entity.cash.books] : [])];
  const proposed = basis === undefined ? [] : sets.flatMap((name) => entity.proposed.get(name) ?? []);
  if (basis === 'proposed') return proposed.length > 0 ? proposed : [NO_BOOKS];
  return [...booked, ...proposed];
}

/** Numbers under which all lines of a question are kept. */
export const booksOf = ({ entities }: { entities: readonly EntityQuestion[] }): number[] =>
  entities.flatMap((e) => e.books.map(Number));

/** Accounts of one entity that a selection takes; of a group, codes that only others have take nothing here. */
function selected(accounts: Selection, entity: CatalogueEntity): Set<string> {
  const there = (pick: Pick): boolean => pick.is !== 'code' || entity.accounts.has(pick.code);
  const groups = new Set(entity.chart.flatMap((a) => a.groups.map((g) => g.toLowerCase())));
  const known = (pick: Pick): boolean => pick.is !== 'group' || groups.has(pick.group.toLowerCase());
  const take = accounts.take.filter((p) => there(p) && known(p));
  if (accounts.take.length > 0 && take.length === 0) return new Set();
  return accountsIn({ take, except: accounts.except.filter((p) => there(p) && known(p)) }, entity.chart);
}

/** One table asked, and how its rows are placed in time. */
export interface Leg {
  table: Source;
  /** Whether rows are placed in time by period ordinal or by day. */
  axis: 'period' | 'day_period' | 'day';
  /** By date: rows of whole periods only, or of part periods only. */
  cut: 'all' | 'whole' | 'part';
}

/** Adjustment periods of the fiscal years that the window touches. */
export function adjustmentsOf(e: EntityQuestion): number[] {
  const found: number[] = [];
  for (let year = e.firstYear; year <= e.lastYear; year++) {
    for (const p of e.calendar.periodsOf(year)) if (p.adjustment) found.push(p.ordinal);
  }
  return found;
}

/** All accounts whose lines can matter, where the selection bounds them; null: any account. */
export function boundingAccounts(question: Question): number[] | null {
  const found: number[] = [];
  for (const e of question.entities) {
    if (e.own === null) return null;
    found.push(...e.own);
    if (!e.retained) continue;
    for (const a of e.entity.accounts.values()) if (isTemporary(a.type)) found.push(a.id);
  }
  return found;
}

/** The question of the lines themselves, whatever copies of them there are. */
export const asStored = ({ columns: _, ...question }: Question): Question => question;

/** Codes of the accounts of a question's companies, by the numbers that lines have them by. */
export const accountCodes = ({ entities }: Question): Map<number, string> =>
  new Map(entities.flatMap((e) => [...e.entity.accountOf].map(([id, a]) => [id, a.code] as const)));

/** What every table of sums knows of its lines. */
export const SUMMARISED: ReadonlySet<string> = new Set(['account', 'heading', 'type', 'entity', 'period', 'kind']);

/** Everything that is asked of lines by clauses and splits, each with the dimension that it is of. */
export const wordsAsked = (
  { figure }: Question,
  splits: readonly Split[],
): { word: Clause['on'] | Split['by']; dim: string | null }[] =>
  [...figure.where.map((c) => [c.on, c] as const), ...splits.map((s) => [s.by, s] as const)].map(([word, of]) => ({
    word,
    dim: 'dim' in of ? of.dim : null,
  }));
