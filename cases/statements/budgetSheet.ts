import type { z } from 'zod';
import type { budgetCopySchema, budgetEditSchema } from '@/contracts/bodies/all';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { calendar, type Period, parsePeriod, periodText } from '@/core/calendar';
import { isTemporary } from '@/core/ledger';
import { add, exponentOf, formatAmount, type Minor, parseAmount } from '@/core/money';
import { amountIn, amountOf, type Sheet, type SheetRow } from '@/core/sheet';
import { accountsOf, natural, type Sign } from '@/core/statement';
import { BUDGET_COLUMNS } from '@/exchange/tables';
import { type Written, writeCsv } from '@/exchange/writers';
import { type BudgetLine, budgetChanged, budgetLines, budgetsOf } from '@/store/budgets';
import type { Catalogue, CatalogueAccount, CatalogueEntity } from '@/store/catalogue';
import { type Context, known } from '../asking/context';
import { require, requireBooks, type Viewer } from '../asking/viewer';
import { keepFile } from '../loads/keptFiles';
import { queueLoad } from '../loads/loads';
import { outlinesOf } from './outlines';

/** For whom a budget is set: a member in each of some dimensions, and nobody below it; empty: the whole company. */
type Unit = Record<string, string>;

/** The versions of budgets of some entities, by fiscal year. */
export async function showBudgets(ctx: Context, viewer: Viewer, params: { entity: string[] }) {
  const found = await Promise.all(params.entity.map(async (code) => (await entityOf(ctx, viewer, code)).entity));
  const rows = (
    await Promise.all(
      found.map(async ({ id, code }) => (await budgetsOf(ctx.read, id)).map((r) => ({ ...r, entity: code }))),
    )
  ).flat();
  const cal = calendar((found[0] as (typeof found)[number]).calendar);
  const years = [cal.periodAt(ctx.today()).year, ...rows.map((r) => r.year)];
  return {
    rows: rows.map((r) => ({
      entity: r.entity,
      version: r.version,
      year: r.year,
      lines: r.lines,
      load: r.load,
      by: r.person_name,
      at: r.changed_at.toISOString(),
    })),
    /** Fiscal years that a budget can be written for. */
    years: [...new Set([...years, Math.max(...years) + 1])].sort((a, b) => a - b),
  };
}

interface Row extends SheetRow {
  kind: 'caption' | 'account';
  account: string | null;
  sign: Sign;
  /** Of a caption: how many of the accounts that follow it adds up; 0 for a mere heading. */
  takes: number;
  /** What is set for other units, over the year. */
  elsewhere: Minor;
}

/** A version of a budget before it is printed: a column for each period. */
interface BudgetVersion extends Sheet<Row> {
  entity: CatalogueEntity;
  version: string;
  year: number;
  unit: Unit;
  periods: Period[];
  units: { unit: string[]; name: string; total: Minor }[];
  asOf: number;
}

/** A version as it is written: the rows of the income statement, a column for each period, as far as it is set for one unit. */
export const readBudget = async (
  ctx: Context,
  viewer: Viewer,
  version: string,
  params: { entity: string; year: number; unit?: string[] | undefined },
) => presentBudget(await budgetVersion(ctx, viewer, version, params));

async function budgetVersion(
  ctx: Context,
  viewer: Viewer,
  version: string,
  params: { entity: string; year: number; unit?: string[] | undefined },
): Promise<BudgetVersion> {
  const { entity, catalogue } = await entityOf(ctx, viewer, params.entity);
  const periods = periodsOf(entity, params.year);
  const unit = unitOf(catalogue, params.unit ?? []);
  const lines = await budgetLines(ctx.read, entity.id, version, ...span(periods));
  const here = new Map<string, Minor>();
  const elsewhere = new Map<number, Minor>();
  const units = new Map<string, Minor>();
  const wanted = slotsOf(catalogue, unit).join();
  for (const line of lines) {
    const key = `${line.account}/${line.period}`;
    const own = line.dims.join() === wanted;
    if (own) here.set(key, add(here.get(key) ?? 0, line.amount));
    else elsewhere.set(line.account, add(elsewhere.get(line.account) ?? 0, line.amount));
    units.set(line.dims.join(), add(units.get(line.dims.join()) ?? 0, line.amount));
  }
  const rowOf = (account: CatalogueAccount, depth: number, sign: Sign): Row => ({
    key: account.code,
    kind: 'account',
    label: account.name,
    account: account.code,
    depth,
    sign,
    takes: 0,
    cells: Object.fromEntries(
      periods.map((p) => [periodText(p.ordinal), amountOf(natural(here.get(`${account.id}/${p.ordinal}`) ?? 0, sign))]),
    ),
    refine: { accounts: account.code },
    elsewhere: natural(elsewhere.get(account.id) ?? 0, sign),
  });
  return {
    entity,
    version,
    year: params.year,
    unit,
    periods,
    columns: periods.map((p) => ({
      key: periodText(p.ordinal),
      label: periodText(p.ordinal),
      title: '',
      hint: '',
      unit: 'amount',
      scope: { from: periodText(p.ordinal), to: periodText(p.ordinal) },
    })),
    rows: await rowsInShape(ctx, entity, new Set(lines.map((l) => l.account)), rowOf),
    // What is planned for other units is no part of it, and what is typed into it changes it at once.
    whole: null,
    proofs: [],
    units: [...units].map(([slots, total]) => ({ ...namedUnit(catalogue, slots.split(',').map(Number)), total })),
    asOf: await budgetChanged(ctx.read, entity.id, version, ...span(periods)),
  };
}

/** A version as it is answered: an amount for each period, nothing where nothing is planned. */
function presentBudget({ entity, version, year, unit, periods, columns, rows, units, asOf }: BudgetVersion) {
  const digits = exponentOf(entity.currency);
  return {
    entity: entity.code,
    version,
    year,
    currency: entity.currency,
    digits,
    unit: unitText(unit),
    periods: periods.map((p) => ({ period: periodText(p.ordinal), from: p.from, to: p.to })),
    rows: rows.map(({ kind, label, account, depth, sign, takes, cells, elsewhere }) => ({
      kind,
      label,
      account,
      depth,
      sign,
      takes,
      values:
        kind === 'caption'
          ? []
          : columns.map(({ key }) => {
              const amount = amountIn(cells, key);
              return amount === 0 ? '' : formatAmount(amount, digits);
            }),
      elsewhere: kind === 'caption' ? '' : formatAmount(elsewhere, digits),
    })),
    units: units.map(({ total, ...named }) => ({ ...named, total: formatAmount(total, digits) })),
    asOf,
  };
}

/** Captions of the income statement with the accounts that each takes, then what is planned for accounts that it does not. */
async function rowsInShape(
  ctx: Context,
  entity: CatalogueEntity,
  planned: ReadonlySet<number>,
  rowOf: (account: CatalogueAccount, depth: number, sign: Sign) => Row,
): Promise<Row[]> {
  const outline = (await outlinesOf(ctx, entity)).get('income')?.outline;
  const open = (a: CatalogueAccount): boolean =>
    a.posting && (planned.has(a.id) || (isTemporary(a.type) && a.status !== 'inactive'));
  const caption = (label: string, depth: number, takes: number): Row => ({
    key: `~${label}`,
    kind: 'caption',
    label,
    account: null,
    depth,
    sign: 'debit',
    takes,
    cells: {},
    refine: null,
    elsewhere: 0,
  });
  const taken = outline ? accountsOf(outline, entity.chart) : new Map<string, Set<string>>();
  const laid = (outline?.rows ?? []).flatMap((row): Row[] => {
    if (row.is === 'caption') return [caption(row.label, row.depth, 0)];
    if (row.is !== 'accounts') return [];
    const accounts = entity.chart.filter((a) => open(a) && taken.get(row.key)?.has(a.code));
    if (accounts.length === 1 && accounts[0]?.name === row.label) return [rowOf(accounts[0], row.depth, row.sign)];
    return accounts.length === 0
      ? []
      : [caption(row.label, row.depth, accounts.length), ...accounts.map((a) => rowOf(a, row.depth + 1, row.sign))];
  });
  // A heading under which nothing is is left out.
  const rows = laid.filter((r, i) => r.kind === 'account' || r.takes > 0 || (laid[i + 1]?.depth ?? -1) > r.depth);
  const shown = new Set(rows.map((r) => r.account));
  const rest = entity.chart.filter((a) => open(a) && !shown.has(a.code));
  return rest.length === 0
    ? rows
    : [
        ...rows,
        caption('Not on the income statement', 0, rest.length),
        ...rest.map((a) => rowOf(a, 1, a.normal === 'credit' ? 'credit' : 'debit')),
      ];
}

/**
 * Keeps what was written: a delivery of budget lines like any other, so that it is on record, can be compared with the
 * one before, and earlier answers can be had again. Whatever the version holds for other units stays.
 * @returns the number of the load
 * @throws ProblemError if somebody changed the version since it was read
 */
export async function keepBudget(
  ctx: Context,
  viewer: Viewer,
  version: string,
  body: z.infer<typeof budgetEditSchema>,
): Promise<{ id: number }> {
  const { entity, catalogue } = await entityOf(ctx, viewer, body.entity);
  const periods = periodsOf(entity, body.year);
  const digits = exponentOf(entity.currency);
  const since = await budgetChanged(ctx.write, entity.id, version, ...span(periods));
  if (since > body.asOf) {
    throw new ProblemError(
      409,
      `Load ${since} changed ${version} since you opened it. Your figures are still here: copy them, open the sheet again and paste`,
    );
  }
  const slots = slotsOf(catalogue, unitOf(catalogue, body.unit));
  const edited = new Map<number, { account: CatalogueAccount; amount: Minor }[]>();
  const keys = new Set<string>();
  for (const cell of body.cells) {
    const account = entity.accounts.get(cell.account);
    const period = periods.find((p) => p.ordinal === parsePeriod(cell.period));
    if (!account?.posting) throw wrong('cells', `${cell.account} is no account of ${entity.code} that takes amounts`);
    if (!period) throw wrong('cells', `period ${cell.period} is not in fiscal year ${body.year}`);
    const key = `${account.id}/${period.ordinal}`;
    if (keys.has(key)) throw wrong('cells', `${cell.account} in ${cell.period} stands twice`);
    keys.add(key);
    edited.set(period.ordinal, [
      ...(edited.get(period.ordinal) ?? []),
      { account, amount: cell.amount === '' ? 0 : parseAmount(cell.amount, digits) },
    ]);
  }
  const touched = new Set(edited.keys());
  const stays = (await budgetLines(ctx.write, entity.id, version, ...span(periods))).filter(
    (l) => touched.has(l.period) && !(keys.has(`${l.account}/${l.period}`) && l.dims.join() === slots.join()),
  );
  // A period in which nothing is left is kept with a line of nothing, else what was there would stay.
  const filled = new Set(stays.map((l) => l.period));
  const fresh = [...edited].flatMap(([period, cells]) => {
    const worth = cells.filter((c) => c.amount !== 0);
    const kept = worth.length > 0 || filled.has(period) ? worth : cells.slice(0, 1);
    return kept.map(
      ({ account, amount }): BudgetLine => ({ account: account.id, period, amount, description: 'typed', dims: slots }),
    );
  });
  return deliver(ctx, viewer, entity, catalogue, version, [...stays, ...fresh]);
}

/** A new version with the lines of another, of the same or another fiscal year, period by period. */
export async function copyBudget(
  ctx: Context,
  viewer: Viewer,
  body: z.infer<typeof budgetCopySchema>,
): Promise<{ id: number }> {
  const { entity, catalogue } = await entityOf(ctx, viewer, body.entity);
  const [from, to] = [periodsOf(entity, body.from.year), periodsOf(entity, body.year)];
  if ((await budgetChanged(ctx.write, entity.id, body.version, ...span(to))) > 0) {
    throw new ProblemError(409, `${body.version} of ${body.year} is there already; give the copy another name`);
  }
  const lines = await budgetLines(ctx.write, entity.id, body.from.version, ...span(from));
  if (lines.length === 0) throw notFound(`Budget ${body.from.version} of ${body.from.year}`);
  const target = (period: number): number => {
    const at = from.findIndex((p) => p.ordinal === period);
    const found = to[at];
    if (!found) throw wrong('year', `fiscal year ${body.year} has no period like ${periodText(period)}`);
    return found.ordinal;
  };
  return deliver(
    ctx,
    viewer,
    entity,
    catalogue,
    body.version,
    lines.map((l) => ({ ...l, period: target(l.period) })),
  );
}

async function deliver(
  ctx: Context,
  viewer: Viewer,
  entity: CatalogueEntity,
  catalogue: Catalogue,
  version: string,
  lines: readonly BudgetLine[],
): Promise<{ id: number }> {
  const digits = exponentOf(entity.currency);
  const dimensions = [...catalogue.dimensions.values()].filter((d) => lines.some((l) => l.dims[d.slot - 1] !== 0));
  const records = async function* (): AsyncGenerator<Written> {
    for (const line of lines) {
      yield {
        entity: entity.code,
        version,
        account: entity.accountOf.get(line.account)?.code ?? '',
        period: periodText(line.period),
        amount: formatAmount(line.amount, digits),
        description: line.description,
        ...Object.fromEntries(dimensions.map((d) => [`dim:${d.code}`, d.codeOf.get(line.dims[d.slot - 1] ?? 0) ?? ''])),
      };
    }
  };
  const columns = [
    'entity',
    'version',
    'account',
    'period',
    'amount',
    'description',
    ...dimensions.map((d) => `dim:${d.code}`),
  ];
  const file = await keepFile(
    ctx,
    `${version.replace(/[^\w-]+/g, '-')}-${entity.code}.csv`,
    writeCsv({ columns, kind: BUDGET_COLUMNS, records: records() }),
  );
  return { id: await queueLoad(ctx, viewer, file, { kind: 'budgets', format: 'csv', entity: entity.code }) };
}

async function entityOf(
  ctx: Context,
  viewer: Viewer,
  code: string,
): Promise<{ entity: CatalogueEntity; catalogue: Catalogue }> {
  require(viewer, 'preparer', 'write budgets');
  const { catalogue } = await known(ctx.write);
  const entity = catalogue.entities.get(code);
  if (!entity) throw notFound(`Entity ${code}`);
  requireBooks(viewer, code, 'write budgets');
  return { entity, catalogue };
}

/** Periods of a year that a budget is written for: those that are not for adjustments. */
function periodsOf(entity: CatalogueEntity, year: number): Period[] {
  const periods = calendar(entity.calendar)
    .periodsOf(year)
    .filter((p) => !p.adjustment);
  if (periods.length === 0) throw wrong('year', `the calendar of ${entity.code} has no fiscal year ${year}`);
  return periods;
}

const span = (periods: readonly Period[]): [from: number, to: number] => [
  periods[0]?.ordinal ?? 0,
  periods[periods.length - 1]?.ordinal ?? 0,
];

/** "costcentre:DECK" and the like, one for each dimension. */
function unitOf(catalogue: Catalogue, words: readonly string[]): Unit {
  const unit: Unit = {};
  for (const word of words) {
    const at = word.indexOf(':');
    const [dim, code] = [word.slice(0, at), word.slice(at + 1)];
    if (!catalogue.dimensions.get(dim)?.members.has(code))
      throw wrong('unit', `“${word}” is no unit; write it as dimension:member`);
    if (unit[dim] !== undefined) throw wrong('unit', `a unit has one member of ${dim}`);
    unit[dim] = code;
  }
  return unit;
}

const unitText = (unit: Unit): string[] => Object.entries(unit).map(([dim, code]) => `${dim}:${code}`);

function slotsOf(catalogue: Catalogue, unit: Unit): number[] {
  const slots = Array.from({ length: 8 }, () => 0);
  for (const [dim, code] of Object.entries(unit)) {
    const dimension = catalogue.dimensions.get(dim);
    if (dimension) slots[dimension.slot - 1] = dimension.members.get(code) ?? 0;
  }
  return slots;
}

function namedUnit(catalogue: Catalogue, slots: readonly number[]): { unit: string[]; name: string } {
  const found = [...catalogue.dimensions.values()].flatMap((d) => {
    const code = d.codeOf.get(slots[d.slot - 1] ?? 0);
    return code === undefined ? [] : [{ word: `${d.code}:${code}`, name: d.tree.get(code)?.name ?? code }];
  });
  return { unit: found.map((f) => f.word), name: found.map((f) => f.name).join(', ') || 'Whole company' };
}
