import type { Entities } from '@/contracts/answers/charts';
import type { SheetHead } from '@/contracts/answers/head';
import type { LineRow } from '@/contracts/answers/lines';
import type { SplitSheet, TrialBalance } from '@/contracts/answers/sheets';
import type { Statement } from '@/contracts/answers/statements';
import { calendar } from '@/core/calendar';
import { type Due, ORDERS } from '@/core/columns';
import { isDate } from '@/core/dates';
import type { SplitPhrase } from '@/core/typedClause';
import { asPut, optionsAt, type Screen, type Step, scopeAt, traced } from '../address/address';

/** What the trial balance is asked, from the address. */
export function trialBalanceParams(screen: Screen): URLSearchParams {
  const params = scopeAt(screen, 0);
  params.set('tree', screen.options.tree ?? 'yes');
  if (screen.options.scheme && screen.options.tree !== 'no') params.set('scheme', screen.options.scheme);
  params.set('zero', screen.options.zero ?? 'hide');
  params.set('yearToDate', 'yes');
  if (screen.options.retained === 'parts') params.set('retained', 'parts');
  for (const column of (screen.options.columns ?? '').split(',').filter(Boolean)) params.append('column', column);
  if (screen.options.lang) params.set('lang', screen.options.lang);
  if (screen.options.compare === 'movement') params.set('compare', 'movement');
  return params;
}

type Compared = NonNullable<TrialBalance['columns']>[number];
type BalanceRow = TrialBalance['rows'][number];

/** The remainder of a translation, which whole books have and no line. */
const DIFFERENCE = '~translation';

/**
 * Books in several currencies are broken down by company first, then by account in the currency of the sheet; the lines
 * of a single account have their worth in it beside (method.md §7). Of the translation difference all accounts of the company
 * are shown, of which it is the rest.
 */
function throughBooks(
  step: Step,
  { translated, currency, address }: Pick<SheetHead, 'translated' | 'currency' | 'address'>,
  oneAccount: boolean,
): Step {
  if (!translated) return step;
  const { by: _by, ...bare } = step;
  const companies = step.put.entity ?? new URLSearchParams(address).getAll('entity');
  if (companies.length > 1) return { ...bare, view: 'split', by: 'entity', put: { ...step.put, in: [currency] } };
  const accounts = step.put.accounts ?? new URLSearchParams(address).getAll('accounts');
  if (accounts[0] === DIFFERENCE)
    return { ...bare, view: 'split', by: 'account', put: { ...step.put, accounts: [''], in: [currency] } };
  return oneAccount
    ? { ...bare, view: 'lines', put: { ...step.put, in: [currency] } }
    : { ...bare, view: 'split', by: 'account', put: { ...step.put, in: [currency] } };
}

/** A column in another currency is translated, whatever the sheet is. */
const headOf = <Head extends SheetHead>(
  head: Head,
  column: string,
): Pick<SheetHead, 'translated' | 'currency' | 'address'> =>
  column.startsWith('in:') ? { translated: true, currency: column.slice('in:'.length), address: head.address } : head;

/** Tracing an account leads to its lines; the year-to-date column leads to the lines of the year so far. */
export function trialBalanceStep(
  row: BalanceRow,
  column: string,
  sheet: TrialBalance,
  comparing: 'closing' | 'movement' = 'closing',
): Step {
  const scope = new URLSearchParams(sheet.address);
  const yearStart = yearStartOf(scope.get('to'));
  const due = DUE_OF[column];
  if (due)
    return ordersStep(
      due,
      row.heading ? row.name : `${row.account} ${row.name}`,
      { accounts: [row.selection ?? row.account] },
      { row: row.account, column },
    );
  const compared: Compared | undefined = sheet.columns?.find((c) => c.key === column);
  const put: Record<string, string[]> = { accounts: [row.selection ?? row.account], ...asPut(compared?.scope ?? {}) };
  const to = scope.get('to');
  if (['yearToDate', 'yearDebit', 'yearCredit'].includes(column) && yearStart && to)
    Object.assign(put, { from: [yearStart], to: [to] });
  const step: Step = {
    view: 'lines',
    label: row.heading ? row.name : `${row.account} ${row.name}`,
    row: row.account,
    column,
    ...(compared ? { measure: comparing } : {}),
    put,
  };
  return throughBooks(step, headOf(sheet, column), !row.heading);
}

/** Tracing a row of a split leads to its lines. @param cell what narrows the row to one of its cells */
export function splitStep(
  row: SplitSheet['rows'][number],
  column: string,
  sheet: SplitSheet,
  cell: { put: Record<string, string[]>; oneAccount: boolean; comparing?: 'closing' | 'movement' },
): Step {
  const due = DUE_OF[column];
  if (due) return ordersStep(due, row.name, asPut(row.refine), { row: row.member, column });
  const compared = sheet.compared?.find((c) => c.key === column);
  const put = compared ? asPut(row.scopes?.[column] ?? { ...row.refine, ...compared.scope }) : cell.put;
  const label = compared && compared.key !== 'window' ? `${row.name}, ${compared.label.toLowerCase()}` : row.name;
  const measure = compared ? (cell.comparing ?? 'movement') : null;
  const step: Step = { view: 'lines', label, row: row.member, column, ...(measure ? { measure } : {}), put };
  return throughBooks(step, headOf(sheet, column), cell.oneAccount || row.oneAccount === true);
}

/** The sheet split as was typed: what it is split by already stays where nothing was said of it. */
export function splitSheet(screen: Screen, { by, across }: SplitPhrase): Screen {
  const last = screen.steps[screen.steps.length - 1];
  if (last?.view !== 'split') {
    return traced(screen, {
      view: 'split',
      by: (by ?? ['account']).join('|'),
      ...(across ? { across } : {}),
      label: 'All of it',
      row: '',
      column: '',
      put: {},
    });
  }
  const { open: _open, across: former, ...bare } = last;
  const columns = across ?? former;
  // What is on the columns cannot are in the rows as well.
  const rows = (by ?? (last.by ?? 'account').split('|')).filter((level) => level !== columns);
  const next: Step = {
    ...bare,
    by: (rows.length > 0 ? rows : ['account']).join('|'),
    ...(columns ? { across: columns } : {}),
  };
  return { ...screen, steps: [...screen.steps.slice(0, -1), next] };
}

/** From a line to its entry. */
export const entryStep = (line: LineRow): Step => ({
  view: 'entry',
  entry: line.entryId,
  label: `${line.entry} ${line.description}`,
  row: line.id,
  column: 'entry',
  put: {},
});

/** What the split of a step is asked, from the address. */
export function splitParams(screen: Screen, step: Step): URLSearchParams {
  const { across = '', open = '', compare, by = 'account' } = step;
  const params = scopeAt(screen, screen.steps.length);
  for (const level of by.split('|')) params.append('by', level);
  if (across) params.set('across', across);
  if (across && open) params.set('open', open);
  const compared = comparedOf(step);
  for (const column of compared) params.append('column', column);
  if (compared.length > 0 && compare) params.set('compare', compare);
  for (const [name, value] of Object.entries(pageOf(step))) params.set(name, value);
  return params;
}

/** The columns that a split is compared with; one that has something on its columns is compared with nothing. */
export const comparedOf = ({ across, columns = '' }: Step): string[] =>
  across ? [] : columns.split(',').filter(Boolean);

/** Which page of a very long split a step shows. */
export function pageOf({ options: { first, after } = {} }: Step): { first?: string; after?: string } {
  return { ...(first ? { first } : {}), ...(after ? { after } : {}) };
}

/** What a statement is asked, from the address. */
export function statementParams(screen: Screen, depth: number): URLSearchParams {
  const params = scopeAt(screen, depth);
  const options = optionsAt(screen, depth);
  for (const column of (options.columns ?? '').split(',').filter(Boolean)) params.append('column', column);
  for (const key of (options.open ?? '').split(',').filter(Boolean)) params.append('open', key);
  for (const name of ['across', 'scheme', 'eliminated', 'by', 'lang'] as const)
    if (options[name]) params.set(name, options[name]);
  return params;
}

/** "2027.06" → "2027.01"; undefined for what is no period: by date the server's own answer is left as it is. */
export const yearStartOf = (to: string | null): string | undefined =>
  to && /^\d{4}\.\d\d$/.test(to) ? `${to.slice(0, 4)}.01` : undefined;

/** From the result on the balance sheet to the income statement of the same year so far; null where the year is not known. */
export function incomeStatementStep(
  address: URLSearchParams,
  yearStart: string | undefined,
): Omit<Step, 'row' | 'column'> | null {
  const to = address.get('to');
  if (!to || !yearStart) return null;
  return {
    view: 'statement',
    label: 'Income statement of the year so far',
    measure: 'movement',
    put: { from: [yearStart], to: [to] },
    options: { statement: 'income' },
  };
}

/** From a line to the positions of the kind of a member that it names, such as a fund or a project, in its year. */
export function positionStep(
  { entity, period }: Pick<LineRow, 'entity' | 'period'>,
  { dimension, dimensionName }: LineRow['dims'][number],
): Omit<Step, 'row' | 'column'> {
  return {
    view: 'statement',
    label: `Position by ${dimensionName.toLowerCase()}`,
    measure: 'movement',
    put: { entity: [entity], from: [yearStartOf(period) ?? period], to: [period] },
    options: { statement: 'position', by: `dim:${dimension}` },
  };
}

/** From a line to the document that it was booked from. */
export const documentStep = (entity: string, number: string): Omit<Step, 'row' | 'column'> => ({
  view: 'document',
  entry: number,
  label: number,
  put: { entity: [entity] },
});

/** To the open orders behind a committed amount. */
const ordersStep = (
  due: Due,
  label: string,
  put: Record<string, string[]>,
  at: { row: string; column: string },
): Step => ({ view: 'orders', by: due, label, put, ...at });

/** When the orders of a column fall due; a position has them too. */
const DUE_OF: Readonly<Record<string, Due>> = { ...ORDERS, committedLater: 'later' };

/** Where the fiscal year begins that a window ends in, by period or by date, in the books of a company. */
export function yearStartIn(entities: Entities | undefined, entity: string, to: string | null): string | undefined {
  const own = entities?.entities.find((e) => e.code === entity);
  if (to === null || !isDate(to) || !own) return yearStartOf(to);
  const periods = calendar(own.calendar);
  return periods.periodsOf(periods.periodAt(to).year)[0]?.from;
}

/** Which statement the address is of. */
export const statementOf = (screen: Screen, depth: number): string => optionsAt(screen, depth).statement ?? 'income';

/** Tracing a row leads to its accounts, an account to its lines, under the window of the column. */
export function statementStep(row: Statement['rows'][number], column: string, statement: Statement): Step | null {
  if (!row.refine) return null;
  const due = DUE_OF[column];
  if (due)
    return ordersStep(due, row.account ? `${row.account} ${row.label}` : row.label, asPut(row.refine), {
      row: row.key,
      column,
    });
  const shown = statement.columns.find((c) => c.key === column) ?? statement.columns[0];
  // A column that is made of others, or that was planned, has no lines of its own.
  if (
    !shown ||
    (shown.key !== 'window' &&
      !shown.key.startsWith('in:') &&
      statement.kind !== 'position' &&
      Object.keys(shown.scope).length === 0)
  )
    return null;
  if (statement.kind === 'position' && shown.measure === undefined && Object.keys(shown.scope).length === 0)
    return null;
  const put = asPut({ ...shown.scope, ...row.refine });
  const named = row.account ? `${row.account} ${row.label}` : row.label;
  const label = shown.key === 'window' ? named : `${named}, ${shown.label.toLowerCase()}`;
  const single = row.account !== null && row.kind === 'account';
  const traced = shown.measure ?? row.measure;
  const measure = traced ? { measure: traced } : {};
  const step: Step =
    single || row.refine.opposite || row.refine.taxCode
      ? { view: 'lines', label, row: row.key, column, ...measure, put }
      : {
          view: 'split',
          by: row.key === 'intercompany' ? 'entity' : 'account',
          label,
          row: row.key,
          column,
          ...measure,
          put,
          ...(statement.kind === 'balance' ? { compare: 'closing' } : {}),
        };
  return throughBooks(step, headOf(statement, shown.key), single);
}
