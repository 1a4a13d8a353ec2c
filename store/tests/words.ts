import type { ParamsOf, TestCode } from '@/core/tests/list';
import type { Hit, ValuesOf } from '@/core/tests/test';
import { quoted } from '../duck';

/**
 * What the tests for what is unusual are asked in: SQL over the lines of a scope (population.ts has its tables). Each gives
 * rows of what core/tests calls a hit: entity, where it is, degree, amount, parts, and entries where it tells them.
 */
export interface Asks {
  /** Companies whose lines are looked at. */
  entities: readonly string[];
  rows<Row>(sql: string): Promise<Row[]>;
}

/** How a test finds its hits: by SQL alone, or out of few rows of it. */
export type Finding = string | { hits: Promise<Hit[]> };
export type TestSql<Code extends TestCode> = (values: ValuesOf<ParamsOf<Code>>, asks: Asks) => Finding;

/** An amount that each company has its own of. */
export const amountOf = (amount: (entity: string) => number, { entities }: Asks, column = 'entity'): string =>
  `(case ${column} ${entities.map((e) => `when ${quoted(e)} then ${Math.trunc(amount(e))}`).join(' ')} else 0 end)::bigint`;

/** A number that stands in SQL as it is. */
export const plainNumber = (n: number): string => {
  if (!Number.isFinite(n)) throw new RangeError(`${n} is no number`);
  return String(n);
};

export const texts = (values: readonly string[]): string =>
  values.length === 0 ? `('')` : `(${values.map(quoted).join(', ')})`;

/** Parts of a reason: names with what they are in SQL. */
export const partsOf = (parts: Readonly<Record<string, string>>): string =>
  Object.keys(parts).length === 0
    ? `'{}' as parts`
    : `to_json({${Object.entries(parts)
        .map(([name, sql]) => `'${name}': ${sql}`)
        .join(', ')}})::varchar as parts`;

/** How unusual it is to be one of `some` among `all`, in bits (core/tests, rarity). */
export const rarityOf = (some: string, all: string): string => `-log2((${some} + 1) / (${all} + 2))`;

/** Rows of entries of the window, by what is told of them: `e` is the entry. */
export const entryHits = (
  degree: string,
  parts: Readonly<Record<string, string>>,
  from: string,
  amount = 'e.total',
): string =>
  `select e.entity, e.entry as entry_id, e.number as entry, ${degree} as degree, (${amount})::bigint as amount, ${partsOf(parts)}
   from ${from} and e.within`;
