import { notFound, wrong } from '@/contracts/problem';
import { refinement, type ScopeParams } from '@/contracts/scope';
import { readSplit } from '@/contracts/splits';
import type { Balance } from '@/core/balances';
import {
  type Column,
  ColumnError,
  columnHint,
  columnLabel,
  derived,
  isPercent,
  readColumn,
  withBases,
} from '@/core/columns';
import type { Figure } from '@/core/figure';
import { LINE_KINDS, languagesOf } from '@/core/ledger';
import { isNothing, type Value } from '@/core/sheet';
import { accountsOf, type Guard, guardsOf, measureOf, natural, type Outline, type OutlineRow } from '@/core/statement';
import { captionIn } from '@/core/statementWords';
import type { Context } from '../asking/context';
import { explainEmpty } from '../asking/explainEmpty';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import { spokenAmount } from '../asking/spokenNumbers';
import { grantedAccounts, requireWhole, type Viewer } from '../asking/viewer';
import { balancesByAccount } from '../balances/accountBalances';
import { UNCANCELLED } from '../balances/addedAccounts';
import { balancesAcross } from '../balances/balancesAcross';
import { type ColumnBalances, chartOf, columnBalances, columnsAsked } from '../balances/comparedColumns';
import { eliminatedOfCompany, partnerDimension, withOutsiders } from '../balances/elimination';
import { withoutRate } from '../balances/translation';
import { cashFlow } from './cashFlow';
import { position } from './position';
import { balancesIn, checkMembers, isOfUnseenMembers, ownIn, rowsOfMembers, withMembers } from './rowsOfMembers';
import { presentStatement, type StatementRow, type StatementSheet } from './sheet';
import { outlineOf, understood } from './shownOutline';
import { refineOf, resultOf, signOf, valuesIn } from './statementRows';
import { taxReturn } from './taxReturn';

export interface StatementParams extends ScopeParams {
  column?: string[] | undefined;
  open?: string[] | undefined;
  across?: string | undefined;
  scheme?: string | undefined;
  lang?: string | undefined;
  eliminated?: 'yes' | 'no' | undefined;
  by?: string | undefined;
}

/** A statement with values (method.md §6): every row in every column, and its guards. */
export async function readStatement(ctx: Context, viewer: Viewer, code: string, params: StatementParams) {
  const asked = await statementScope(ctx, viewer, params);
  return presentStatement(asked, await statementSheet(ctx, viewer, asked, code, params));
}

type HowStated = Omit<StatementParams, keyof ScopeParams> & Pick<ScopeParams, 'heavy'>;

/** The same before it is printed. */
export async function statementSheet(
  ctx: Context,
  viewer: Viewer,
  asked: ResolvedFigure,
  code: string,
  params: HowStated,
): Promise<StatementSheet> {
  const sheet = await sheetOf(ctx, viewer, asked, code, params);
  const { lang } = params;
  if (lang === undefined) return sheet;
  // A row that bears the name of an account or a heading is in the chart's own words, a caption in the application's.
  const named = new Map(asked.entities.flatMap((e) => e.chart.map((a) => [a.name, a.names[lang] ?? null])));
  const said = (text: string): string => named.get(text) ?? captionIn(lang, text);
  return {
    ...sheet,
    name: said(sheet.name),
    rows: sheet.rows.map((r) => ({ ...r, label: said(r.label) })),
    columns: sheet.columns.map((c) => ({ ...c, label: headIn(lang, c) })),
  };
}

/** A head that is made of what its column is; the name of a member or of a company is said by itself. */
function headIn(lang: string, { key, label }: { key: string; label: string }): string {
  try {
    const column = readColumn(key);
    return columnLabel(column) === label ? columnLabel(column, (head) => captionIn(lang, head)) : label;
  } catch (error) {
    if (error instanceof ColumnError) return label;
    throw error;
  }
}

async function sheetOf(
  ctx: Context,
  viewer: Viewer,
  asked: ResolvedFigure,
  code: string,
  params: HowStated,
): Promise<StatementSheet> {
  const [entity] = asked.entities;
  if (!entity) throw notFound(`Statement ${code}`);
  if (code === 'tax') return taxReturn(ctx, asked);
  if (code === 'position') return position(ctx, viewer, asked, params.by);
  const { lang } = params;
  const columns = columnsAsked(params.column ?? []);
  const { chart, differs } = chartOf(asked, columns);
  const outline = await outlineOf(ctx, asked, code, params, { chart, differs });
  if (outline.kind === 'cashflow') {
    requireWhole(viewer, 'The cash flow is');
    return cashFlow(ctx, asked, outline).catch((error: unknown) => {
      throw withoutRate(error);
    });
  }
  const taken = understood(() => accountsOf(outline, chart));
  understood(() => checkMembers(outline, asked.known.catalogue.trees));
  const columnsOf = async (of: ResolvedFigure): Promise<ColumnBalances[]> => [
    ...(await columnBalances(ctx, of, columns, measureOf(outline.kind), (figure) => forStatement(figure, of, outline))),
    ...(await across(ctx, of, params.across)),
  ];
  const beside = await columnsOf(asked);
  const ofMembers = await rowsOfMembers(asked, outline, columnsOf);
  const values = new Map<string, Map<string, Value>>();
  for (const { column, balances, knows } of beside)
    if (balances)
      values.set(column.key, valuesIn(outline, taken, balances, chart, knows, ownIn(ofMembers, column.key)));
  const shown = beside.filter(
    ({ column }) =>
      column.is === 'window' ||
      columns.some((c) => c.key === column.key) ||
      !withBases(columns).some((c) => c.key === column.key),
  );
  const opened = new Set(params.open ?? []);
  const cells = (of: (key: string) => Value | undefined): StatementRow['cells'] =>
    Object.fromEntries(
      shown.map(({ column }) => {
        const base = (key: string): Value | undefined =>
          outline.shareOf === undefined ? undefined : values.get(key)?.get(outline.shareOf);
        return [column.key, of(column.key) ?? derived(column, of, base) ?? null];
      }),
    );
  const granted = grantedAccounts(viewer, chart);
  const isOutside = (row: OutlineRow): boolean =>
    row.is === 'accounts' &&
    ((granted !== null && ![...(taken.get(row.key) ?? [])].some((code) => granted.has(code))) ||
      isOfUnseenMembers(viewer, row, asked));
  const rows = outline.rows.flatMap((row): StatementRow[] => {
    // Its label is the name of what the viewer may not know of.
    if (isOutside(row)) return [];
    const caption = row.is === 'caption';
    const mine = {
      key: row.key,
      label: (lang && row.names?.[lang]) || row.label,
      kind: row.is as string,
      depth: row.depth,
      emphasis: 'emphasis' in row ? row.emphasis : undefined,
      sign: signOf(row, outline),
      account: null as string | null,
      terms: row.is === 'formula' ? row.terms : undefined,
      cells: caption
        ? Object.fromEntries(shown.map(({ column }) => [column.key, null]))
        : cells((key) => values.get(key)?.get(row.key)),
      refine: withMembers(
        asked.eliminates ? refineEliminated(asked, row, outline) : refineOf(row, outline),
        ofMembers.get(row.key),
      ),
      opens: row.is === 'accounts' && (taken.get(row.key)?.size ?? 0) > 0,
      measure: row.is === 'ratio' ? null : measureOf(outline.kind),
    };
    if (row.is !== 'accounts' || !(opened.has('all') || opened.has(row.key))) return [mine];
    const accounts = chart.filter((a) => taken.get(row.key)?.has(a.code));
    const measure = measureOf(outline.kind);
    const inside = accounts.map((a) => ({
      key: `${row.key}/${a.code}`,
      label: a.name,
      kind: 'account',
      depth: row.depth + 1,
      emphasis: undefined,
      sign: row.sign,
      account: a.code,
      opens: false,
      measure,
      refine: withMembers({ accounts: a.code }, ofMembers.get(row.key)),
      cells: cells((key) => {
        const { balances, knows } = (ofMembers.get(row.key)?.beside ?? beside).find((r) => r.column.key === key) ?? {};
        return balances && knows?.([a.code])
          ? { is: 'amount', amount: natural(balances.get(a.code)?.[measure] ?? 0, row.sign) }
          : undefined;
      }),
    }));
    return [mine, ...inside.filter((r) => Object.values(r.cells).some((v) => !isNothing(v)))];
  });
  const window = beside.find((r) => r.column.key === 'window')?.balances ?? new Map<string, Balance>();
  const own = balancesIn(ownIn(ofMembers, 'window'));
  const guards = guardsOf(outline, taken, window, chart, resultOf(outline, window, chart), isWhole(asked), own);
  return {
    code,
    name: (lang && outline.names?.[lang]) || outline.name,
    kind: outline.kind,
    shareOf: outline.shareOf ?? null,
    languages: [
      ...new Set([...languagesOf(chart), ...[outline, ...outline.rows].flatMap((r) => Object.keys(r.names ?? {}))]),
    ].sort(),
    columns: shown.map(({ column, label, title, figure, digits }) => ({
      digits,
      key: column.key,
      label,
      title,
      hint: hintOf(column, outline),
      unit: isPercent(column) ? ('percent' as const) : ('amount' as const),
      scope: scopeOf(asked, figure),
      favourable: column.is === 'variance' ? ('income' as const) : null,
    })),
    rows,
    whole: null,
    proofs: guards.map((g) => ({
      guard: g.guard,
      ok: g.ok,
      off: g.amount,
      accounts: g.accounts,
      says: said(g, asked.digits),
    })),
    // A result is of the window alone; what stands at its end may have come before.
    empty: [...window.values()].every(
      (b) => b.count === 0 && (measureOf(outline.kind) === 'movement' || b.closing === 0),
    )
      ? explainEmpty(asked)
      : null,
  };
}

export const statementScope = async (
  ctx: Context,
  viewer: Viewer,
  params: StatementParams,
): Promise<ResolvedFigure> => {
  const { column: _c, open: _o, across: _a, scheme: _s, lang: _l, by: _b, eliminated, ...scope } = params;
  return resolveFigure(ctx, viewer, scope, { translates: true, eliminates: eliminated === 'yes' });
};

/** Members of a split side by side, each a column that traces. */
async function across(ctx: Context, asked: ResolvedFigure, text: string | undefined): Promise<ColumnBalances[]> {
  if (text === undefined) return [];
  const split = readSplit(text, 'across');
  if (asked.eliminates && split.by !== 'entity')
    throw wrong('across', 'with the dealings between companies taken out, companies stand side by side, nothing else');
  const order = new Map(asked.entities.map((e, i) => [e.code, i]));
  const found = await balancesAcross(ctx, asked, split);
  // Companies are in the order in which they were asked about.
  if (split.by === 'entity') found.sort((a, b) => (order.get(a.key) ?? 0) - (order.get(b.key) ?? 0));
  return Promise.all(
    found.map(async ({ key, name, figure, balances }) => {
      // Of books in several currencies each member is translated for itself; of a group each company without the others.
      const own = asked.translates && !asked.eliminates ? asked.narrowed(figure) : null;
      return {
        column: { key: `${text}=${key}`, is: 'window' as const },
        label: split.by === 'entity' && asked.translates ? key : name,
        title: name,
        figure,
        balances: asked.eliminates
          ? await eliminatedOfCompany(asked, key, (part) => balancesByAccount(ctx, part))
          : own
            ? await balancesByAccount(ctx, own)
            : balances,
        knows: () => true,
      };
    }),
  );
}

/** Closing entries that the ledger books are no income and no expense of the window. */
function forStatement(figure: Figure, asked: ResolvedFigure, outline: Outline): Figure {
  if (
    outline.kind === 'balance' ||
    asked.entities.every((e) => e.yearEnd === 'derived') ||
    figure.where.some((c) => c.on === 'kind')
  )
    return figure;
  return { ...figure, where: [...figure.where, { on: 'kind', any: LINE_KINDS.filter((k) => k !== 'closing') }] };
}

/** Whether the figure is a whole ledger, of which alone assets equal liabilities and equity. */
const isWhole = ({ figure }: ResolvedFigure): boolean =>
  figure.accounts === null && figure.where.every((c) => c.on === 'period' || c.on === 'kind');

const scopeOf = (asked: ResolvedFigure, figure: Figure | null): Record<string, string | string[]> =>
  figure
    ? { ...refinement(asked.figure, figure, asked.digits), ...(asked.eliminates ? withOutsiders(asked) : {}) }
    : {};

/** What asks for a row where dealings within the group are taken out, and columns leave out their lines. */
function refineEliminated(asked: ResolvedFigure, row: OutlineRow, outline: Outline): StatementRow['refine'] {
  if (row.key === 'intercompany') return pairsOf(asked, outline);
  const refine = refineOf(row, outline);
  // The result has what did not cancel, and with that every line again.
  if (row.is === 'result') return { ...refine, [`dim.${partnerDimension(asked)}`]: [''] };
  // Lines with others and lines within the group together are no one question.
  return isOfBoth(row, outline) ? null : refine;
}

/** Whether what does not cancel is in a row, by itself or in the result. */
function isOfBoth(row: OutlineRow, outline: Outline): boolean {
  if (row.key === 'intercompany' || row.is === 'result') return true;
  if (row.is === 'accounts') return Object.values(UNCANCELLED).some((code) => row.accounts.includes(code));
  return (
    row.is === 'formula' &&
    row.terms.some((term) => outline.rows.some((other) => other.key === term.row && isOfBoth(other, outline)))
  );
}

/** Both sides of what does not cancel: the lines of every company with another one of the question. */
const pairsOf = (asked: ResolvedFigure, outline: Outline): Record<string, string | string[]> => ({
  accounts: outline.kind === 'balance' ? 'type asset, type liability, type equity' : 'type income, type expense',
  [`dim.${partnerDimension(asked)}`]: asked.entities.map((e) => e.code),
});

const hintOf = (column: Column, outline: Outline): string =>
  columnHint(column, outline.rows.find((r) => r.key === outline.shareOf)?.label ?? null);

function said(g: Guard, digits: number): string {
  const amount = spokenAmount(g.amount, digits);
  const listed = `${g.accounts.slice(0, 6).join(', ')}${g.accounts.length > 6 ? ` and ${g.accounts.length - 6} more` : ''}`;
  switch (g.guard) {
    case 'missing':
      return g.ok ? 'every account with a balance is in a row' : `no row takes ${listed}: ${amount} in all`;
    case 'twice':
      return g.ok ? 'no account is in two rows' : `two rows take ${listed}: ${amount} counted twice`;
    case 'balances':
      return g.ok
        ? 'assets equal liabilities and equity with the result'
        : `assets and liabilities with equity are off by ${amount}`;
    case 'result':
      return g.ok
        ? 'the result is that of the trial balance'
        : `the rows come to another result than the trial balance, by ${amount}`;
  }
}
