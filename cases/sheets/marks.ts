import type { z } from 'zod';
import type { markRulesSchema } from '@/contracts/bodies/all';
import { ProblemError, wrong } from '@/contracts/problem';
import { clausesOf, readQuery, type ScopeParams, scopeShape, selectionOf } from '@/contracts/scope';
import { emptyBalance } from '@/core/balances';
import { neighbour, type Ordinal } from '@/core/calendar';
import { readColumn } from '@/core/columns';
import type { Figure } from '@/core/figure';
import { isTemporary } from '@/core/ledger';
import { changedBeyond, fellSilent, type MarkRule, type MarkRules, meets, onWrongSide, outOfLine } from '@/core/marks';
import { add, type Minor, parseAmount } from '@/core/money';
import { accountsAmong, parseSelection } from '@/core/selection';
import type { Value } from '@/core/sheet';
import { type Piece, pieceTexts, sentence } from '@/core/spoken';
import { valueText } from '@/core/valueText';
import { keepSetting, readSetting } from '@/store/settings';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import { require, type Viewer } from '../asking/viewer';
import { mergedChart } from '../balances/accountBalances';
import { balancesAcross } from '../balances/balancesAcross';
import { columnBalances } from '../balances/comparedColumns';
import { materialAsked } from '../proposals/material';
import { statementSheet } from '../statements/readStatement';

type Rules = z.infer<typeof markRulesSchema>;

/** Amounts are in the currency of whatever sheet is marked. */
const USUAL: Rules = {
  change: { amount: '50000', percent: 25 },
  wrongSide: true,
  silent: { periods: 6 },
  material: 'said',
  share: { points: 2 },
  own: [],
};
const NAME = 'marks';

export const readMarkRules = async (ctx: Context): Promise<Rules> =>
  // What was kept before there were conditions of one's own has none.
  ({ ...USUAL, ...(await readSetting<Rules>(ctx.read, NAME)) });

/** The rules with their amounts in the currency of what is asked. */
export async function rulesOf(ctx: Context, asked: ResolvedFigure) {
  const rules = await readMarkRules(ctx);
  if (rules.material !== 'said') return inMinor({ ...rules, material: rules.material }, asked.digits);
  const said = await materialAsked(ctx, asked);
  return { ...inMinor({ ...rules, material: null }, asked.digits), material: said?.overall ?? null };
}

export async function setMarkRules(ctx: Context, viewer: Viewer, rules: Rules): Promise<Rules> {
  require(viewer, 'owner', 'set what is marked');
  for (const [i, condition] of rules.own.entries()) checkCondition(condition, i);
  await onRecord(ctx, viewer, async (trx, record) => {
    await keepSetting(trx, NAME, rules, viewer.name);
    await record('set what is marked', 'settings', rules);
  });
  return rules;
}

/** @throws ProblemError naming the condition that cannot be understood */
function checkCondition(condition: Rules['own'][number], at: number): void {
  const path = `own.${at}.${condition.on === 'lines' ? 'query' : 'accounts'}`;
  try {
    if (condition.on === 'accounts') selectionOf(condition);
    else {
      const params = readQuery(scopeShape, new URLSearchParams(condition.query));
      selectionOf(params);
      // Amounts are held against books of whatever currency; two decimals serve to read them.
      clausesOf(params, 2);
    }
  } catch (error) {
    if (error instanceof ProblemError) throw wrong(path, error.errors?.[0]?.message ?? error.message);
    throw error;
  }
  if (condition.on === 'accounts' && condition.least === null && condition.most === null)
    throw wrong(path, 'say at least or at most how much');
}

interface Mark {
  rule: MarkRule | 'own';
  says: Piece[];
}

/**
 * Rows of a sheet that stand out by the workspace’s rules, each with its reasons: accounts of a trial balance, or the
 * rows of a statement, a row also for the accounts that it takes.
 */
export async function readMarks(
  ctx: Context,
  viewer: Viewer,
  { statement, ...scope }: ScopeParams & { statement?: string | undefined },
) {
  const asked = await resolveFigure(ctx, viewer, scope, { translates: true });
  const rules = await rulesOf(ctx, asked);
  const accounts = await accountMarks(ctx, asked, rules);
  const marked =
    statement === undefined ? accounts : await statementMarks(ctx, viewer, asked, rules, accounts, statement, scope);
  return {
    rows: [...marked].map(([row, marks]) => ({
      row,
      marks: marks.map(({ rule, says }) => ({ rule, says: pieceTexts(says, asked.digits) })),
    })),
  };
}

function inMinor(rules: Rules & { material: string | null }, digits: number): MarkRules & Pick<Rules, 'own'> {
  const minor = (text: string): number => parseAmount(text, digits);
  return {
    ...rules,
    change: rules.change && { ...rules.change, amount: minor(rules.change.amount) },
    material: rules.material === null ? null : minor(rules.material),
  };
}

async function accountMarks(
  ctx: Context,
  asked: ResolvedFigure,
  rules: MarkRules & Pick<Rules, 'own'>,
): Promise<Map<string, Mark[]>> {
  const chart = mergedChart(asked);
  const [columns, history] = await Promise.all([
    columnBalances(ctx, asked, [readColumn('year-before')], 'closing'),
    rules.silent && !asked.translates ? historyOf(ctx, asked, rules.silent.periods) : [],
  ]);
  const of = (key: string) => columns.find((c) => c.column.key === key)?.balances;
  const [window, yearBefore] = [of('window'), of('year-before')];
  const conditions = rules.own.flatMap((own) =>
    own.on === 'accounts' ? [{ ...own, accounts: accountsAmong(parseSelection(own.accounts), chart) }] : [],
  );
  const found = new Map<string, Mark[]>();
  for (const account of chart) {
    if (!account.posting) continue;
    const now = window?.get(account.code) ?? emptyBalance();
    const before = yearBefore?.get(account.code) ?? emptyBalance();
    const measure = isTemporary(account.type) ? 'movement' : 'closing';
    const marks: Mark[] = [];
    if (rules.wrongSide && onWrongSide(now.closing, account.normal === 'credit' ? 'credit' : 'debit')) {
      marks.push({
        rule: 'wrongSide',
        says: sentence`${account.code} ${account.name} closes ${now.closing < 0 ? 'in credit' : 'in debit'} with ${{ amount: Math.abs(now.closing) }}; it is usually the other side`,
      });
    }
    if (rules.change && yearBefore && changedBeyond(now[measure], before[measure], rules.change)) {
      marks.push({
        rule: 'change',
        says: changeText(`${account.code} ${account.name}`, now[measure], before[measure]),
      });
    }
    if (rules.silent && isTemporary(account.type)) {
      const counts = history.map((balances) => balances.get(account.code)?.count ?? 0);
      if (fellSilent(now.count, counts, rules.silent.periods)) {
        marks.push({
          rule: 'silent',
          says: sentence`${account.code} ${account.name} has no line in the window; each of the ${rules.silent.periods} periods before had some`,
        });
      }
    }
    if (rules.material !== null && Math.abs(now[measure]) >= rules.material) {
      marks.push({
        rule: 'material',
        says: sentence`${account.code} ${account.name} is above ${{ amount: rules.material }}`,
      });
    }
    for (const { name, measure: of, accounts, ...limits } of conditions)
      if (accounts.has(account.code) && meets(limits, now[of], asked.digits))
        marks.push({
          rule: 'own',
          says: sentence`${account.code} ${account.name}: ${name} (${{ amount: now[of] }})`,
        });
    if (marks.length > 0) found.set(account.code, marks);
  }
  return found;
}

/** By size, whichever side: a cost and an income that rise both rise. */
function changeText(what: string, now: Minor, before: Minor): Piece[] {
  const change = { amount: Math.abs(add(now, -before)) };
  if (before === 0) return sentence`${what} is ${change}; a year before there was nothing`;
  if (now === 0) return sentence`${what} is nothing; a year before it was ${change}`;
  if (now > 0 !== before > 0) return sentence`${what} changed sides, by ${change} against a year before`;
  const percent = Math.round((100 * Math.abs(Math.abs(now) - Math.abs(before))) / Math.abs(before));
  const rose = Math.abs(now) > Math.abs(before) ? 'rose' : 'fell';
  return sentence`${what} ${rose} by ${change} against a year before, ${percent} %`;
}

/** Balances by account of each of the periods right before the window, as many as there are. */
async function historyOf(ctx: Context, asked: ResolvedFigure, periods: number) {
  const cal = asked.calendar;
  const { window } = asked.figure;
  const first: Ordinal = window.by === 'period' ? window.from : cal.periodAt(window.from).ordinal;
  const to = neighbour(cal, first, -1);
  let from = to;
  for (let i = 1; i < periods && from !== null; i++) from = neighbour(cal, from, -1);
  if (to === null || from === null) return [];
  const figure: Figure = { ...asked.figure, window: { by: 'period', from, to }, adjustments: 'without' };
  const before = asked.narrowed(figure);
  return (await balancesAcross(ctx, before, { by: 'period' })).map((c) => c.balances);
}

async function statementMarks(
  ctx: Context,
  viewer: Viewer,
  asked: ResolvedFigure,
  rules: MarkRules,
  accounts: ReadonlyMap<string, Mark[]>,
  code: string,
  scope: ScopeParams,
): Promise<Map<string, Mark[]>> {
  const columns = ['year-before', 'share', 'share:ytd'];
  const sheet = await statementSheet(ctx, viewer, asked, code, { heavy: scope.heavy, column: columns, open: ['all'] });
  const base = sheet.rows.find((r) => r.key === sheet.shareOf)?.label ?? 'the base row';
  const amount = (value: Value | null | undefined): number | null => (value?.is === 'amount' ? value.amount : null);
  const millionths = (value: Value | null | undefined): number | null =>
    value?.is === 'share' ? value.millionths : null;
  const percent = (value: Value | null | undefined): string | null => (value ? valueText(value, asked.digits) : null);
  const found = new Map<string, Mark[]>();
  const put = (row: string, marks: Mark[]): void => void found.set(row, [...(found.get(row) ?? []), ...marks]);
  for (const row of sheet.rows) {
    if (row.account !== null) {
      const marks = (accounts.get(row.account) ?? []).filter((m) => m.rule !== 'material');
      if (marks.length > 0) {
        put(row.key, marks);
        put(row.key.slice(0, row.key.lastIndexOf('/')), marks);
      }
      continue;
    }
    const marks: Mark[] = [];
    const [now, before] = [amount(row.cells.window), amount(row.cells['year-before'])];
    if (
      rules.change &&
      row.kind !== 'ratio' &&
      now !== null &&
      before !== null &&
      changedBeyond(now, before, rules.change)
    ) {
      marks.push({ rule: 'change', says: changeText(row.label, now, before) });
    }
    const [share, usual] = [row.cells.share, row.cells['share:ytd']];
    if (rules.share && sheet.kind === 'income' && outOfLine(millionths(share), millionths(usual), rules.share.points)) {
      marks.push({
        rule: 'share',
        says: sentence`${row.label} is ${percent(share) ?? ''} % of ${base}, over the year to date it is ${percent(usual) ?? ''} %`,
      });
    }
    if (rules.material !== null && now !== null && Math.abs(now) >= rules.material)
      marks.push({ rule: 'material', says: sentence`${row.label} is above ${{ amount: rules.material }}` });
    if (marks.length > 0) put(row.key, marks);
  }
  return found;
}
