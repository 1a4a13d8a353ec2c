import type { CalendarSpec } from '@/core/calendar';
import type { Account, AccountType, Tree } from '@/core/ledger';
import { cashBooks } from './cashBasis';
import { type Db, rowsOf } from './db';

/** Charts, calendars and dimension trees: the names that questions are asked in. */
export interface Catalogue {
  entities: ReadonlyMap<string, CatalogueEntity>;
  dimensions: ReadonlyMap<string, CatalogueDimension>;
  /** dimension code → its tree */
  trees: ReadonlyMap<string, Tree>;
  /** Names of the sets of proposed entries. */
  proposedSets: readonly string[];
}

export interface CatalogueEntity {
  id: number;
  code: string;
  name: string;
  names: Record<string, string>;
  currency: string;
  calendar: CalendarSpec;
  yearEnd: 'derived' | 'booked';
  retainedEarnings: string;
  /** The further entries by which its books are on the cash basis; null where it keeps none. */
  cash: { books: number; since: number } | null;
  /** Where lines that are proposed are kept, by the names of their sets. */
  proposed: ReadonlyMap<string, number>;
  chart: CatalogueAccount[];
  accounts: ReadonlyMap<string, CatalogueAccount>;
  accountOf: ReadonlyMap<number, CatalogueAccount>;
}

export interface CatalogueAccount extends Account {
  id: number;
  names: Record<string, string>;
  status: string;
  /** The side on which its balance usually is: debit or credit. */
  normal: string;
  flow: string | null;
  codes: Record<string, string>;
  dimRules: Record<string, 'required' | 'optional' | 'forbidden'>;
}

export interface CatalogueDimension {
  id: number;
  code: string;
  name: string;
  slot: number;
  tree: Tree;
  /** member code → id, and back */
  members: ReadonlyMap<string, number>;
  codeOf: ReadonlyMap<number, string>;
}

/** Reads the catalogue as it is now. */
export async function readCatalogue(db: Db): Promise<Catalogue> {
  // One after the other: a transaction has one connection.
  const entities = await rowsOf<EntityRow>(db, 'select * from entity order by code');
  const accounts = await rowsOf<AccountRow>(
    db,
    `select id, entity, code, name, names, type, parent, posting, groups, classification, status, normal, flow, codes, dim_rules from account
     order by entity, code collate "C"`,
  );
  const dimensions = await rowsOf<{ id: number; code: string; name: string; slot: number }>(
    db,
    'select * from dimension order by slot',
  );
  const members = await rowsOf<{ id: number; dimension: number; code: string; name: string; parent: string | null }>(
    db,
    'select id, dimension, code, name, parent from member order by code collate "C"',
  );
  const cash = new Map((await cashBooks(db)).map(({ entity, ...kept }) => [entity, kept]));
  const sets = await rowsOf<{ name: string; entity: number | null; books: number | null }>(
    db,
    'select s.name, b.entity, b.books from proposed_set s left join proposed_books b on b.set = s.id order by s.name, b.entity',
  );
  const charts = new Map<number, CatalogueAccount[]>();
  for (const { dim_rules, entity, ...row } of accounts) {
    const account = { ...row, dimRules: dim_rules };
    const chart = charts.get(entity);
    if (chart) chart.push(account);
    else charts.set(entity, [account]);
  }
  const dimensionMap = new Map(
    dimensions.map((d) => {
      const mine = members.filter((m) => m.dimension === d.id);
      const tree = new Map(mine.map((m) => [m.code, { code: m.code, name: m.name, parent: m.parent }]));
      const ids = new Map(mine.map((m) => [m.code, m.id]));
      return [d.code, { ...d, tree, members: ids, codeOf: new Map(mine.map((m) => [m.id, m.code])) }];
    }),
  );
  return {
    entities: new Map(
      entities.map((e) => {
        const chart = charts.get(e.id) ?? [];
        return [
          e.code,
          {
            id: e.id,
            code: e.code,
            name: e.name,
            names: e.names,
            currency: e.currency,
            calendar: e.calendar,
            yearEnd: e.year_end,
            retainedEarnings: e.retained_earnings,
            cash: cash.get(e.id) ?? null,
            proposed: new Map(
              sets.flatMap((s) => (s.entity === e.id && s.books !== null ? [[s.name, s.books] as const] : [])),
            ),
            chart,
            accounts: new Map(chart.map((a) => [a.code, a])),
            accountOf: new Map(chart.map((a) => [a.id, a])),
          },
        ];
      }),
    ),
    dimensions: dimensionMap,
    trees: new Map([...dimensionMap].map(([code, d]) => [code, d.tree])),
    proposedSets: [...new Set(sets.map((s) => s.name))],
  };
}

/** All numbers under which lines of a company are kept: its books, its entries on the cash basis, what is proposed. */
export const booksKept = (e: CatalogueEntity): number[] => [
  e.id,
  ...(e.cash ? [e.cash.books] : []),
  ...e.proposed.values(),
];

/** Companies by the numbers under which their lines are kept. */
export const byBooks = ({ entities }: Catalogue): Map<number, CatalogueEntity> =>
  new Map([...entities.values()].flatMap((e) => booksKept(e).map((books) => [books, e] as const)));

/**
 * The number of the newest load that counts, a stamp that changes whenever the catalogue may have, and one that changes
 * only where loads have come.
 */
export async function newestLoad(db: Db): Promise<{ load: number; stamp: string; lines: string }> {
  const [row] = await rowsOf<{ load: number; loads: number; entities: number; names: number; copies: string }>(
    db,
    `select coalesce(max(id), 0) as load, count(*)::integer as loads,
       (select coalesce(max(id), 0) from entity)::integer as entities, (select times from catalogue_change)::integer as names,
       (select concat_ws(' ', max(id), count(*), sum(times)) from column_part) as copies
     from load where status = 'loaded'`,
  );
  const lines = `${row?.load}/${row?.loads}/${row?.entities}`;
  return { load: row?.load ?? 0, stamp: `${lines}/${row?.names}/${row?.copies}`, lines };
}

interface EntityRow {
  id: number;
  code: string;
  name: string;
  names: Record<string, string>;
  currency: string;
  calendar: CalendarSpec;
  year_end: 'derived' | 'booked';
  retained_earnings: string;
}

interface AccountRow {
  id: number;
  entity: number;
  code: string;
  name: string;
  names: Record<string, string>;
  type: AccountType;
  parent: string | null;
  posting: boolean;
  groups: string[];
  classification: string | null;
  status: string;
  normal: string;
  flow: string | null;
  codes: Record<string, string>;
  dim_rules: Record<string, 'required' | 'optional' | 'forbidden'>;
}

/** Tells every process that names have changed without a load, once the transaction in which they did is through. */
export const touchCatalogue = async (db: Db): Promise<void> =>
  void (await db.raw('update catalogue_change set times = times + 1'));
