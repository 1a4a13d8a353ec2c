import { emptyBalance } from '@/core/balances';
import type { Calendar } from '@/core/calendar';
import { comparedWindow } from '@/core/comparisons';
import type { Figure, Split, Window } from '@/core/figure';
import { beneath, isTemporary } from '@/core/ledger';
import { add, type Minor } from '@/core/money';
import { isOfAccount, isPlanned, type PlanReach, plannedRows } from '@/core/plans';
import type { Leaf, SplitQuestion } from '@/core/split';
import { type PlannedColumn, plannedSlots, plannedSums } from '@/store/budgets';
import type { CatalogueAccount } from '@/store/catalogue';
import type { Db } from '@/store/db';
import type { ResolvedFigure } from '../asking/resolvedFigure';

/** What is planned of a figure, broken down, and where nobody has said what is. */
export interface Plan {
  /** null where no part of it is known. */
  leaves: Leaf[] | null;
  /** All of it; null where not all of it is known. */
  whole: Minor | null;
  /** Whether it says something of a row, by its path. */
  knows(path: readonly string[]): boolean;
  /** Whether it says something of accounts together, by their codes. */
  knowsAccounts(codes: readonly string[]): boolean;
  /** Why it does not know all that was asked, for the reader; null where it does. */
  lacks: string | null;
}

/** A budget of a version over a figure's window. */
interface PlanAsked {
  figure: Figure;
  version: string;
}

export const unknown = (lacks: string): Plan => ({
  leaves: null,
  whole: null,
  knows: () => false,
  knowsAccounts: () => false,
  lacks,
});

/**
 * A budget by anything that it is set by: accounts, companies, dimensions, periods, and months where they are periods. It
 * is compared with its like (method.md §9): with a movement what is planned for the window, with a closing balance of
 * income and expense what is planned for the fiscal year so far. It says nothing of a row below the level at which it was
 * set, of a part of a period, of a clause that it does not know, nor of a balance that was not planned.
 */
export async function planOf(
  db: Db,
  asked: ResolvedFigure,
  { figure, version }: PlanAsked,
  { splits, trees }: Pick<SplitQuestion, 'splits' | 'trees'>,
  measure: 'closing' | 'movement',
): Promise<Plan> {
  if (asked.translates) return unknown('a plan is in the currency of its books');
  const narrowed = narrowedTo(figure, asked);
  const columns = splits.flatMap((split) => (isOfAccount(split) ? [] : [columnOf(split, asked)]));
  if (narrowed === null || !columns.every((column) => column !== null))
    return unknown('a plan is of companies, accounts, periods and dimensions');
  const { catalogue } = asked.known;
  const slotOf = (split: Split): number | undefined =>
    split.by === 'dim' ? catalogue.dimensions.get(split.dim)?.slot : undefined;
  /** By what, and which accounts are not planned by it. */
  const lacking = new Map<number, Set<string>>();
  const found = new Map<string, Leaf>();
  const accounts: { code: string; keys: (string | null)[]; kept: PlanReach }[] = [];
  let planned = 0;
  for (const e of asked.books) {
    const periods = periodsOf(e.calendar, measure === 'closing' ? yearSoFar(e.calendar, figure.window) : figure.window);
    if (periods === null) return unknown('a plan is of whole periods');
    const question = { entity: e.entity.id, version, asOf: asked.asOf, periods };
    const [slots, rows] = await Promise.all([
      plannedSlots(db, question),
      plannedSums(db, {
        ...question,
        members: narrowed,
        columns: [...new Set<PlannedColumn>(['account', ...columns])],
      }),
    ]);
    planned += slots.size;
    const keyOf = (split: Split, { code, type }: CatalogueAccount): string =>
      split.by === 'type' ? type : split.by === 'entity' ? e.entity.code : code;
    for (const id of e.own ?? e.entity.accountOf.keys()) {
      const account = e.entity.accountOf.get(id);
      const set = slots.get(id);
      // Nobody plans what stands in the bank by planning fares: where nothing is set for a balance, nothing is known.
      const unsaid = account !== undefined && !isTemporary(account.type) && (measure === 'closing' || !set);
      if (!account?.posting || !(set || unsaid)) continue;
      const isSet = (slot: number | undefined): boolean => {
        if (slot === undefined || unsaid || set?.has(slot)) return true;
        lacking.set(slot, (lacking.get(slot) ?? new Set()).add(account.code));
        return false;
      };
      accounts.push({
        code: account.code,
        keys: splits.map((split) => (isOfAccount(split) ? keyOf(split, account) : null)),
        kept: {
          by: splits.map((split) => isSet(slotOf(split))),
          inScope: [...narrowed.keys()].map(isSet).every(Boolean),
          unsaid,
        },
      });
    }
    for (const row of rows) {
      const account = e.entity.accountOf.get(row.account as number);
      if (!account || (e.own !== null && !e.own.includes(row.account as number))) continue;
      const keys = splits.map((split): string | null => {
        if (split.by === 'period') return String(row.period);
        if (split.by === 'month') return e.calendar.period(row.period as number).from.slice(0, 7);
        if (split.by !== 'dim') return keyOf(split, account);
        const dimension = catalogue.dimensions.get(split.dim);
        return dimension?.codeOf.get(row[`d${dimension.slot}`] as number) ?? null;
      });
      const key = keys.join('\n');
      const sum = add(found.get(key)?.balance.movement ?? 0, row.amount as number);
      found.set(key, { keys, balance: plannedBalance(sum) });
    }
  }
  if (planned === 0) return unknown('nothing is planned here');
  const leaves = [...found.values()];
  const knows = plannedRows(accounts, { splits, trees });
  const names = new Map([...catalogue.dimensions.values()].map((d) => [d.slot, d.name.toLowerCase()]));
  const [lacks] = [...lacking].map(
    ([slot, codes]) =>
      `${codes.size > NAMED_MAX ? `${codes.size} accounts` : [...codes].join(', ')} not planned by ${names.get(slot)}`,
  );
  return {
    leaves,
    whole: knows([]) ? leaves.reduce((sum, leaf) => add(sum, leaf.balance.movement), 0) : null,
    knows,
    knowsAccounts: (codes) => isPlanned(accounts.flatMap(({ code, kept }) => (codes.includes(code) ? [kept] : []))),
    lacks: lacks ?? null,
  };
}

/** So many accounts are named in a column's head. */
const NAMED_MAX = 3;

/** What is planned, as a balance. */
export const plannedBalance = (amount: Minor): Leaf['balance'] => ({
  ...emptyBalance(),
  movement: amount,
  closing: amount,
});

const yearSoFar = (cal: Calendar, window: Window): Window => comparedWindow(cal, window, 'ytd') ?? window;

/** The periods of a window; null where one of its ends is within a period. */
function periodsOf(cal: Calendar, window: Window): { from: number; to: number } | null {
  if (window.by === 'period') return { from: window.from, to: window.to };
  const [first, last] = [cal.periodAt(window.from), cal.periodAt(window.to)];
  return first.from === window.from && last.to === window.to ? { from: first.ordinal, to: last.ordinal } : null;
}

/** The members that a figure is narrowed to, by the slot of their dimension; null for a clause that no budget knows. */
export function narrowedTo(figure: Figure, asked: ResolvedFigure): Map<number, number[]> | null {
  const members = new Map<number, number[]>();
  for (const clause of figure.where) {
    if (clause.on !== 'dim' || clause.not) return null;
    const dimension = asked.known.catalogue.dimensions.get(clause.dim);
    if (!dimension) return null;
    const ids = clause.any.flatMap((pick) => {
      if (pick.is === 'none') return [0];
      const codes = pick.is === 'direct' ? [pick.code] : [...beneath(dimension.tree, pick.code)];
      return codes.map((code) => dimension.members.get(code) ?? -1);
    });
    const held = members.get(dimension.slot);
    members.set(dimension.slot, held ? held.filter((id) => ids.includes(id)) : ids);
  }
  return members;
}

/** What a budget is grouped by for a split that no account is in by itself; null where no budget knows. */
export function columnOf(split: Split, asked: ResolvedFigure): PlannedColumn | null {
  switch (split.by) {
    case 'period':
      return 'period';
    case 'month':
      // A period of weeks is in two months.
      return asked.entities.every((e) => e.calendar.kind === 'monthly') ? 'period' : null;
    case 'dim': {
      const slot = asked.known.catalogue.dimensions.get(split.dim)?.slot;
      return slot === undefined ? null : (`d${slot}` as PlannedColumn);
    }
    default:
      return null;
  }
}
