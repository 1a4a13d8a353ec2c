import { z } from 'zod';
import { type Ordinal, parsePeriod, periodText } from '@/core/calendar';
import { isDate } from '@/core/dates';
import { ENTERED_WHEN } from '@/core/enteredWhen';
import {
  ATTRIBUTES,
  type Clause,
  FIRST_SET,
  type Figure,
  LINE_NUMBERS,
  type LineNumber,
  type MemberPick,
  NONE,
  type Window,
} from '@/core/figure';
import { LINE_KINDS, type LineKind } from '@/core/ledger';
import { AmountFormatError, AmountRangeError, formatAmount, parseAmount } from '@/core/money';
import { PATTERN_MAX } from '@/core/pattern';
import { parseSelection, SelectionError, selectionText } from '@/core/selection';
import { compareDecimals, isPattern, type Range, rangeOf } from '@/core/values';
import { wrong } from './problem';

/** What a value begins with that lines are not to have. */
const NOT = '~not:';
/** As long as a text of a line may be that is asked for by its whole. */
const VALUE_MAX = 1_000;
const value = z
  .string()
  .min(1)
  .max(VALUE_MAX)
  .refine(
    (v) => v.length <= PATTERN_MAX || !isPattern(v.replace(/^~not:/, '')),
    `a pattern has at most ${PATTERN_MAX} characters`,
  );
const many = z.array(value).max(200);
const periodWritten = z.string().refine((v) => parsePeriod(v) !== null, 'write a period as 2027.06');
const dateWritten = z.string().refine(isDate, 'write a date as 2026-04-30');

export const WINDOWS = [
  'latest-period',
  'current-period',
  'last-period',
  'previous-month',
  'year-to-date',
  'last-year',
  'last-year-end',
  'trailing-12',
  'everything',
] as const;

/** The scope parameters of api.md: the same on every route that answers a figure. */
export const scopeShape = {
  entity: many.optional().describe('Entity code; repeat for a group'),
  accounts: z
    .string()
    .min(1)
    .max(4_000)
    .optional()
    .describe('Account selection, such as `4000 to 4999, 52*, except 5210`'),
  from: z.union([periodWritten, dateWritten]).optional().describe('First period (2027.01) or date (2026-04-01)'),
  to: z.union([periodWritten, dateWritten]).optional().describe('Last period or date; alone: everything up to it'),
  window: z.enum(WINDOWS).optional().describe('A named window, instead of from and to'),
  goesOn: z
    .enum(['yes'])
    .optional()
    .describe(
      'yes: a named window up to today has its period in it, lines or not; else it ends with the last that has',
    ),
  adjustments: z.enum(['with', 'without']).optional().describe('Adjustment periods of the years touched; default with'),
  status: z.enum(['posted', 'all', 'unposted']).optional().describe('Which lines count; default posted'),
  accounting: z
    .enum(['accrual', 'cash'])
    .optional()
    .describe('cash: what documents bear counts when they are settled, in proportion; default accrual, as booked'),
  basis: z
    .enum(['booked', 'with-proposed', 'proposed'])
    .optional()
    .describe('Whether proposed entries count with what is booked, or alone; default booked'),
  set: many.optional().describe('Sets of proposed entries that count; repeat for several; default corrections'),
  journal: many.optional(),
  counterparty: many.optional(),
  postedBy: many.optional(),
  document: many.optional(),
  currency: many
    .optional()
    .describe(
      'Transaction currency. As all of its kind: * stands for any run of characters, a..b for all between two values, a.. and ..b for one open end, ~none for no value, ~is: before a value that is meant letter by letter, ~not: before any of these for all but it',
    ),
  entry: many.optional().describe('Entry number'),
  documentType: many.optional(),
  taxCode: many.optional(),
  unit: many.optional().describe('Unit of the quantity'),
  dueDate: many.optional().describe('As it came, such as 2026-07-31; 2026-07-* for a month'),
  documentDate: many.optional(),
  approvedBy: many.optional(),
  enteredAt: many.optional(),
  source: many.optional().describe('The unit or system that raised the entry'),
  description: many.optional().describe('The text of the line'),
  entryDescription: many.optional().describe('The text of the entry'),
  partnerEntity: many.optional(),
  reversalOf: many.optional().describe('Number of the entry that is taken back'),
  attachment: many.optional().describe('Name of the file that came with the line'),
  reconciled: many.optional().describe('What the line was ticked off with; ~none for lines that are still open'),
  line: many
    .optional()
    .describe('Number of the line in its entry: 3, 1..9, 10.. or ..9; ~none and ~not: as with values'),
  quantity: many.optional().describe('As it stands, written as line numbers are'),
  unitPrice: many.optional().describe('Amount over quantity, whichever side'),
  currencyAmount: many.optional().describe('Amount in the transaction currency, whichever side'),
  taxAmount: many.optional().describe('Tax of the line, whichever side'),
  min: z.string().optional().describe('Least absolute line amount'),
  max: z.string().optional().describe('Greatest absolute line amount'),
  begins: z
    .array(z.string().regex(/^[1-9]\d?$/, 'write the first digit of amounts, or the first two, such as 4 or 41'))
    .min(1)
    .max(99)
    .optional()
    .describe('First digit of amounts, or first two, whatever their sign'),
  enteredWhen: z
    .array(
      z
        .string()
        .regex(ENTERED_WHEN, 'write a day of the week as sat, an hour of it as sat.14, or an hour of any day as .14'),
    )
    .min(1)
    .max(200)
    .optional()
    .describe('When the entry was entered: sat, sat.14 (from 14:00 to 15:00), .14, or sat.-- (with no hour told)'),
  text: z.string().min(1).max(200).optional().describe('Contained in the line or entry description, any case'),
  opposite: many.optional().describe('Accounts on the other side of the entry'),
  ticked: z.enum(['yes', 'no']).optional().describe('Lines that bear a tick mark, or those that bear none'),
  period: z.array(periodWritten).max(200).optional().describe('Lines of those periods only'),
  month: z
    .array(z.string().regex(/^\d{4}-\d\d$/, 'write a month as 2026-04'))
    .max(200)
    .optional(),
  week: z
    .array(z.string().regex(/^\d{4}-W(0[1-9]|[1-4]\d|5[0-3])$/, 'write a week as 2026-W31'))
    .max(200)
    .optional()
    .describe('ISO 8601 week'),
  day: z.array(dateWritten).max(400).optional(),
  kind: z
    .array(z.enum([...LINE_KINDS, ...LINE_KINDS.map((k) => `${NOT}${k}` as const)]))
    .optional()
    .describe('Kinds of lines; ~not: before any of these for all but it'),
  load: z.coerce.number().int().min(0).max(2_147_483_646).optional().describe('As of a past load'),
  explain: z
    .enum(['yes'])
    .optional()
    .describe('yes: an owner is told in Server-Timing which sums, lines or copies answered, in which time, and why'),
  heavy: z
    .enum(['run'])
    .optional()
    .describe('run: answer although it takes long; otherwise such a question is refused with what would help'),
  in: z
    .string()
    .regex(/^[A-Z]{3}$/, 'write a currency as GBP')
    .optional()
    .describe('Currency to show in'),
} as const;

const scopeSchema = z.object(scopeShape);
/** Scope parameters as read, dimension clauses apart: `dim.costcentre=DECK` → dims.costcentre = ["DECK"]. */
export type ScopeParams = z.infer<typeof scopeSchema> & { dims: Record<string, string[]> };

/** The scope among the parameters of a page or a sheet, whatever else they say. @throws ProblemError as `readQuery` does */
export const scopeAmong = (params: URLSearchParams) =>
  readQuery(
    scopeShape,
    new URLSearchParams([...params].filter(([name]) => name.startsWith('dim.') || Object.hasOwn(scopeShape, name))),
  );

/**
 * Reads query parameters strictly: unknown ones, and repeated ones that may not repeat, are refused.
 * @throws ProblemError naming every parameter that is wrong
 */
export function readQuery<Shape extends z.ZodRawShape>(
  shape: Shape,
  params: URLSearchParams,
): z.infer<z.ZodObject<Shape>> & { dims: Record<string, string[]> } {
  // Without a prototype: “__proto__” is a name like any other, and unknown.
  const raw: Record<string, string | string[]> = Object.create(null);
  const dims: Record<string, string[]> = Object.create(null);
  for (const name of new Set(params.keys())) {
    const values = params.getAll(name);
    if (`${name}${values.join('')}`.includes('\0'))
      throw wrong(name.replaceAll('\0', ''), 'a value holds no NUL character');
    if (name.startsWith('dim.') && Object.hasOwn(shape, 'entity')) {
      const members = many.safeParse(values);
      if (!members.success) throw wrong(name, `${name}: ${members.error.issues[0]?.message ?? 'cannot be used'}`);
      dims[name.slice(4)] = values;
      continue;
    }
    const field = Object.hasOwn(shape, name) ? (shape[name] as unknown as z.ZodType) : undefined;
    if (!field) throw wrong(name, `there is no parameter “${name}”`);
    if (isList(field)) raw[name] = values;
    else if (values.length > 1) throw wrong(name, `“${name}” can be given once only`);
    else raw[name] = values[0] as string;
  }
  const parsed = z.object(shape).safeParse(raw);
  if (!parsed.success) {
    const [first] = parsed.error.issues;
    const path = first?.path.join('.') ?? '';
    throw wrong(path, `${path}: ${first?.message ?? 'cannot be used'}`);
  }
  return { ...parsed.data, dims };
}

function isList(field: z.ZodType): boolean {
  const inner = field instanceof z.ZodOptional || field instanceof z.ZodDefault ? (field.unwrap() as z.ZodType) : field;
  return inner instanceof z.ZodArray;
}

/** Every clause of the parameters. @param digits decimals of the currency that min and max are in */
export function clausesOf(params: ScopeParams, digits: number): Clause[] {
  const clauses: Clause[] = [];
  for (const [dim, values] of Object.entries(params.dims)) {
    const [any, none] = sided(values);
    if (any.length > 0) clauses.push({ on: 'dim', dim, any: any.map(memberPick) });
    if (none.length > 0) clauses.push({ on: 'dim', dim, any: none.map(memberPick), not: true });
  }
  for (const on of ATTRIBUTES) {
    const [any, none] = sided(params[on] ?? []);
    const values = (list: string[]): (string | null)[] => list.map((v) => (v === NONE ? null : v));
    if (any.length > 0) clauses.push({ on, any: values(any) });
    if (none.length > 0) clauses.push({ on, any: values(none), not: true });
  }
  for (const on of LINE_NUMBERS) {
    const [any, none] = sided(params[on] ?? []);
    const ranges = (list: string[]): (Range | null)[] =>
      list.map((v) => (v === NONE ? null : rangeRead(on, v, digits)));
    if (any.length > 0) clauses.push({ on, any: ranges(any) });
    if (none.length > 0) clauses.push({ on, any: ranges(none), not: true });
  }
  if (params.kind) {
    const [any, none] = sided(params.kind);
    const kinds = (any.length > 0 ? any : LINE_KINDS).filter((k) => !none.includes(k)) as LineKind[];
    clauses.push({ on: 'kind', any: kinds });
  }
  if (params.period) clauses.push({ on: 'period', any: params.period.map((p) => parsePeriod(p) as Ordinal) });
  if (params.month) clauses.push({ on: 'month', any: params.month });
  if (params.week) clauses.push({ on: 'week', any: params.week });
  if (params.day) clauses.push({ on: 'day', any: params.day });
  for (const on of ['min', 'max'] as const) {
    const value = params[on];
    if (value !== undefined) clauses.push({ on, amount: amountOf(on, value, digits) });
  }
  if (params.begins) clauses.push({ on: 'begins', any: params.begins });
  if (params.enteredWhen) clauses.push({ on: 'enteredWhen', any: params.enteredWhen });
  // Which lines bear one is looked for when the figure is resolved.
  if (params.ticked)
    clauses.push({ on: 'ticked', lines: [], ...(params.ticked === 'no' ? { not: true as const } : {}) });
  if (params.opposite) clauses.push({ on: 'opposite', any: params.opposite });
  if (params.text) clauses.push({ on: 'text', contains: params.text });
  return clauses;
}

/** Values that lines must have one of, and those that they may have none of. */
const sided = (values: readonly string[]): [any: string[], none: string[]] => [
  values.filter((v) => !v.startsWith(NOT)),
  values.filter((v) => v.startsWith(NOT)).map((v) => v.slice(NOT.length)),
];

/** `5`, `1..9`, `10..` and `..9` as ranges of numbers; prices in minor units of the books. */
function rangeRead(on: LineNumber, text: string, digits: number): Range {
  const { from, to } = rangeOf(text) ?? { from: text, to: text };
  const end = (number: string | null): string | null => {
    if (number === null) return null;
    const plain = number.trim();
    if (!/^[+-]?\d+(\.\d+)?$/.test(plain)) throw wrong(on, `“${text}” is no number; write 5, 1..9, 10.. or ..9`);
    return on === 'unitPrice' ? String(amountOf(on, plain, digits)) : plain;
  };
  const range = { from: end(from), to: end(to) };
  if (range.from !== null && range.to !== null && compareDecimals(range.from, range.to) > 0)
    throw wrong(on, `“${text}” runs backwards; write ${to}..${from}`);
  return range;
}

function rangeWritten({ from, to }: Range, text: (end: string) => string): string {
  if (from !== null && from === to) return text(from);
  return `${from === null ? '' : text(from)}..${to === null ? '' : text(to)}`;
}

/** The account selection, understood. @throws ProblemError with the word that was not */
export function selectionOf(params: Pick<ScopeParams, 'accounts'>) {
  if (params.accounts === undefined) return null;
  try {
    return parseSelection(params.accounts);
  } catch (error) {
    if (error instanceof SelectionError) throw wrong('accounts', error.message);
    throw error;
  }
}

/** The window that from and to say, null where neither is given; a missing end is null. */
export function windowEnds(
  params: Pick<ScopeParams, 'from' | 'to'>,
): { by: Window['by']; from: string | null; to: string | null } | null {
  const { from = null, to = null } = params;
  if (from === null && to === null) return null;
  const kinds = [from, to].filter((v) => v !== null).map((v) => (parsePeriod(v) === null ? 'date' : 'period'));
  if (kinds.length === 2 && kinds[0] !== kinds[1])
    throw wrong('to', 'from and to must both be periods or both be dates');
  return { by: kinds[0] as Window['by'], from, to };
}

/** A figure as query parameters, the inverse of reading them. */
export function paramsOf(figure: Figure, digits: number): URLSearchParams {
  const params = new URLSearchParams();
  const set = (name: string, values: readonly string[]): void => {
    for (const value of values) params.append(name, value);
  };
  set('entity', figure.entities);
  if (figure.accounts) set('accounts', [selectionText(figure.accounts)]);
  const { window } = figure;
  const end = (at: Ordinal | string): string => (typeof at === 'number' ? periodText(at) : at);
  if (!window.fromFirst) set('from', [end(window.from)]);
  set('to', [end(window.to)]);
  if (figure.adjustments === 'without') set('adjustments', ['without']);
  if (figure.status !== 'posted') set('status', [figure.status]);
  if (figure.accounting) set('accounting', [figure.accounting]);
  if (figure.basis) set('basis', [figure.basis]);
  if (figure.sets && !(figure.sets.length === 1 && figure.sets[0] === FIRST_SET)) set('set', figure.sets);
  for (const clause of [...figure.where].sort(byName)) {
    switch (clause.on) {
      case 'dim':
        set(`dim.${clause.dim}`, asked(clause, clause.any.map(memberText)));
        break;
      case 'min':
      case 'max':
        set(clause.on, [formatAmount(clause.amount, digits)]);
        break;
      case 'text':
        set('text', [clause.contains]);
        break;
      case 'ticked':
        set('ticked', [clause.not ? 'no' : 'yes']);
        break;
      case 'period':
        set('period', clause.any.map(periodText));
        break;
      case 'line':
      case 'quantity':
      case 'unitPrice':
      case 'currencyAmount':
      case 'taxAmount': {
        const end = (number: string): string =>
          clause.on === 'unitPrice' ? formatAmount(Number(number), digits) : number;
        set(
          clause.on,
          asked(
            clause,
            clause.any.map((range) => (range === null ? NONE : rangeWritten(range, end))),
          ),
        );
        break;
      }
      default:
        set(
          clause.on,
          asked(
            clause,
            clause.any.map((v) => v ?? NONE),
          ),
        );
    }
  }
  if (figure.load !== null) set('load', [String(figure.load)]);
  return params;
}

/** Values of a clause as they are written. */
function asked(clause: Clause, values: readonly string[]): string[] {
  if ('not' in clause && clause.not) return values.map((v) => NOT + v);
  return values.length > 0 ? [...values] : ['~nothing'];
}

/** Clauses in one fixed order, so that the same figure always has the same address. */
const byName = (a: Clause, b: Clause): number => (nameOf(a) < nameOf(b) ? -1 : 1);
const nameOf = (clause: Clause): string =>
  `${clause.on === 'dim' ? `dim.${clause.dim}` : clause.on}${'not' in clause && clause.not ? ' not' : ''}`;

/** The parameters that must be put in place of those of the same name to get from one figure to another. */
export function refinement(from: Figure, to: Figure, digits: number): Record<string, string | string[]> {
  const before = paramsOf(from, digits);
  const after = paramsOf(to, digits);
  const found: Record<string, string | string[]> = {};
  for (const name of new Set(after.keys())) {
    const values = after.getAll(name);
    if (values.join('\n') === before.getAll(name).join('\n')) continue;
    found[name] = values.length === 1 ? (values[0] as string) : values;
  }
  // What is proposed is left out by saying so: a parameter that is not there changes nothing.
  if (from.basis && !to.basis) Object.assign(found, { basis: 'booked', set: [] });
  // A window is replaced whole: if one end is given, both are.
  if ('from' in found || 'to' in found) for (const end of ['from', 'to']) found[end] = after.get(end) ?? '';
  return found;
}

/** A member of a dimension as it is written in a scope. */
export function memberPick(value: string): MemberPick {
  if (value === NONE) return { is: 'none' };
  if (value.startsWith('~direct:')) return { is: 'direct', code: value.slice('~direct:'.length) };
  return { is: 'tree', code: value };
}

const memberText = (pick: MemberPick): string =>
  pick.is === 'none' ? NONE : pick.is === 'direct' ? `~direct:${pick.code}` : pick.code;

function amountOf(path: string, value: string, digits: number): number {
  try {
    return Math.abs(parseAmount(value, digits));
  } catch (error) {
    if (error instanceof AmountFormatError || error instanceof AmountRangeError) throw wrong(path, error.message);
    throw error;
  }
}
