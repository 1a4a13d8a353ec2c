import { ProblemError } from '@/contracts/problem';
import { add, formatAmount, type Minor } from '@/core/money';
import { otherSide } from '@/core/otherSide';
import { parseSelection } from '@/core/selection';
import type { Outline } from '@/core/statement';
import { total } from '@/store/balances';
import { otherSideLines } from '@/store/otherSide';
import { mergedChart } from '../accountBalances';
import type { Context } from '../context';
import { type Asked, askedOf } from '../resolveFigure';
import type { StatementRow } from './row';

/** More cash lines than this must be narrowed before their other side can be told at once. */
const LINES_MAX = 200_000;
/** An address names no more accounts than this. */
const OPPOSITE_MAX = 100;
const CLASSES = ['operating', 'investing', 'financing', 'unclassified'] as const;

/**
 * Cash flow by classification, direct (method.md §6): the movement of the cash accounts by the flow class of the
 * accounts on the other side of their entries, tied to the change in cash.
 */
export async function cashFlow(ctx: Context, asked: Asked, outline: Outline) {
  const { digits } = asked;
  const chart = mergedChart(asked);
  const cash = chart.filter((a) => a.posting && a.flow === 'cash');
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const flows = new Map<string, Minor>();
  const byAccount = new Map<string, Minor>();
  const narrowed =
    cash.length === 0 ? null : askedOf({ ...asked.figure, accounts: parseSelection(cash.map((a) => a.code).join(', ')) }, asked.known, asked.currency);
  const whole = narrowed ? (await total(ctx.read, narrowed.question)).total : null;
  if (whole && whole.count > LINES_MAX) {
    throw new ProblemError(422, 'These are too many lines on cash accounts to be analysed at once', [
      { path: 'from', message: `there are ${whole.count} lines, the most is ${LINES_MAX}; choose a shorter window` },
    ]);
  }
  const flowOf = new Map(chart.map((a) => [a.code, a.flow]));
  let sum: Minor = 0;
  for (const { lines, chosen } of narrowed ? await otherSideLines(ctx.read, narrowed.question) : []) {
    for (const share of otherSide(lines, chosen)) {
      const flow = flowOf.get(share.account);
      // Between own cash accounts nothing comes in and nothing goes out.
      if (flow === 'cash') continue;
      const key = CLASSES.find((c) => c === flow) ?? 'unclassified';
      flows.set(key, add(flows.get(key) ?? 0, 0 - share.amount));
      byAccount.set(`${key}/${share.account}`, add(byAccount.get(`${key}/${share.account}`) ?? 0, 0 - share.amount));
      sum = add(sum, 0 - share.amount);
    }
  }
  const change = whole ? add(whole.movement, whole.roll) : 0;
  const values: Record<string, Minor> = {
    ...Object.fromEntries(CLASSES.map((c) => [c, flows.get(c) ?? 0])),
    change: sum,
    opening: whole?.opening ?? 0,
    closing: add(whole?.opening ?? 0, sum),
  };
  const cashAccounts = cash.length > 0 ? { accounts: cash.map((a) => a.code).join(', ') } : null;
  /** The cash lines of entries that have one of the accounts on the other side. */
  const opposite = (accounts: string[]): StatementRow['refine'] =>
    cashAccounts && accounts.length > 0 && accounts.length <= OPPOSITE_MAX ? { ...cashAccounts, opposite: accounts } : null;
  const accountsIn = (flow: string): string[] => [...byAccount.keys()].filter((key) => key.startsWith(`${flow}/`)).map((key) => key.slice(flow.length + 1));
  const nameOf = new Map(chart.map((a) => [a.code, a.name]));
  const rows = outline.rows.flatMap((row): StatementRow[] => {
    const isClass = (CLASSES as readonly string[]).includes(row.key);
    const mine = {
      ...{ key: row.key, label: row.label, kind: isClass ? 'flow' : row.is, depth: row.depth, emphasis: 'emphasis' in row ? row.emphasis : undefined },
      ...{
        sign: 'debit' as const,
        account: null as string | null,
        opens: false,
        values: { window: text(values[row.key] ?? 0) },
        refine: isClass ? opposite(accountsIn(row.key)) : cashAccounts,
      },
    };
    if (row.key === 'unclassified' && (values.unclassified ?? 0) === 0) return [];
    if (!isClass) return [mine];
    const inside = [...byAccount]
      .filter(([key, amount]) => key.startsWith(`${row.key}/`) && amount !== 0)
      .sort(([, a], [, b]) => Math.abs(b) - Math.abs(a))
      .map(([key, amount]) => {
        const account = key.slice(row.key.length + 1);
        return {
          ...{
            key,
            label: nameOf.get(account) ?? account,
            kind: 'account',
            depth: row.depth + 1,
            emphasis: undefined,
            sign: 'debit' as const,
            account,
            opens: false,
          },
          ...{ values: { window: text(amount) }, refine: opposite([account]) },
        };
      });
    return [mine, ...inside];
  });
  const off = add(sum, 0 - change);
  return {
    ...{
      code: outline.code,
      name: outline.name,
      kind: outline.kind,
      sentence: asked.sentence,
      parts: asked.parts,
      address: asked.address,
      currency: asked.currency,
    },
    ...{ load: asked.question.asOf, shareOf: null, budgets: [] as string[] },
    columns: [
      {
        key: 'window',
        label: 'This window',
        title: '',
        hint: 'Cash that came in, less cash that went out.',
        unit: 'amount' as const,
        scope: {},
        favourable: null,
      },
    ],
    rows,
    guards: [
      {
        ...{ guard: 'cash', ok: off === 0, amount: text(off), accounts: [] as string[] },
        says:
          cash.length === 0
            ? 'no account of the chart has the flow class cash; give the cash and bank accounts that class'
            : off === 0
              ? 'the flows come to the change in cash'
              : `the flows differ from the change in cash by ${text(off)}`,
      },
    ],
  };
}
