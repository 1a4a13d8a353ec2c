import { ProblemError } from '@/contracts/problem';
import type { Traced } from '@/contracts/traced';
import { add, furthestOff, type Minor } from '@/core/money';
import { parseSelection } from '@/core/selection';
import { amountOf } from '@/core/sheet';
import type { Outline, OutlineRow } from '@/core/statement';
import { total } from '@/store/balances';
import { ONE_BY_ONE_MAX, otherSideSums } from '@/store/otherSide';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { spokenAmount, spokenCount } from '../asking/spokenNumbers';
import { balancesByAccount, mergedChart } from '../balances/accountBalances';
import { ratesFor, translator } from '../balances/translation';
import type { StatementRow, StatementSheet } from './sheet';

/** An address names no more accounts than this. */
const OPPOSITE_MAX = 100;
/** What of the cash accounts other rows are. */
const OF_CASH: Record<string, Traced> = { opening: 'opening', change: 'movement', closing: 'closing' };
const CLASSES = ['operating', 'investing', 'financing', 'unclassified'] as const;

/**
 * Cash flow by classification, direct (method.md §6): the movement of the cash accounts by the flow class of the
 * accounts on the other side of their entries, tied to the change in cash. Of books in several currencies each flow is
 * translated at the average of its period, cash at closing rates, and what is left is what rates did (IAS 7.25 to 28).
 */
export async function cashFlow(ctx: Context, asked: ResolvedFigure, outline: Outline): Promise<StatementSheet> {
  const { digits } = asked;
  const chart = mergedChart(asked);
  const cash = chart.filter((a) => a.posting && a.flow === 'cash');
  const text = (amount: Minor): string => spokenAmount(amount, digits);
  const flows = new Map<string, Minor>();
  const byAccount = new Map<string, Minor>();
  const narrowed =
    cash.length === 0 ? null : asked.narrowed({ accounts: parseSelection(cash.map((a) => a.code).join(', ')) });
  const weighed = narrowed && (await narrowed.ask(ctx, []));
  const counted = weighed && (await total(weighed.db, weighed.question));
  const whole = counted?.total;
  if (whole && weighed && !weighed.question.columns && whole.count > ONE_BY_ONE_MAX) {
    throw new ProblemError(422, 'These are too many lines on cash accounts to be analysed at once', [
      {
        path: 'from',
        message: `there are ${spokenCount(whole.count)} lines, the most is ${spokenCount(ONE_BY_ONE_MAX)}; choose a shorter window`,
      },
    ]);
  }
  const flowOf = new Map(chart.map((a) => [a.code, a.flow]));
  let sum: Minor = 0;
  /** What came in less what went out of each company, in its own currency. */
  const own = new Map<string, Minor>();
  const rates = await ratesFor(ctx, asked);
  const translators = new Map(
    asked.books.flatMap((e) =>
      e.entity.currency === asked.currency ? [] : [[e.entity.code, translator(rates, e, asked.currency)] as const],
    ),
  );
  const shares = weighed ? await otherSideSums(weighed.db, weighed.question) : [];
  for (const { account, amount, entity, period } of shares) {
    const flow = flowOf.get(account);
    // Between own cash accounts nothing comes in and nothing goes out.
    if (flow === 'cash') continue;
    const key = CLASSES.find((c) => c === flow) ?? 'unclassified';
    own.set(entity, add(own.get(entity) ?? 0, 0 - amount));
    const came = 0 - (translators.get(entity)?.averaged(amount, period) ?? amount);
    flows.set(key, add(flows.get(key) ?? 0, came));
    byAccount.set(`${key}/${account}`, add(byAccount.get(`${key}/${account}`) ?? 0, came));
    sum = add(sum, came);
  }
  const held = narrowed && asked.translates ? [...(await balancesByAccount(ctx, narrowed)).values()] : null;
  const at = (end: 'opening' | 'closing'): Minor =>
    held ? held.reduce((all, b) => add(all, b[end]), 0) : (whole?.[end] ?? 0);
  const values: Record<string, Minor> = {
    ...Object.fromEntries(CLASSES.map((c) => [c, flows.get(c) ?? 0])),
    change: sum,
    exchange: held ? add(at('closing'), add(0 - at('opening'), 0 - sum)) : 0,
    opening: at('opening'),
    closing: held ? at('closing') : add(at('opening'), sum),
  };
  const cashAccounts = cash.length > 0 ? { accounts: cash.map((a) => a.code).join(', ') } : null;
  /** The cash lines of entries that have one of the accounts on the other side. */
  const opposite = (accounts: string[]): StatementRow['refine'] =>
    cashAccounts && accounts.length > 0 && accounts.length <= OPPOSITE_MAX
      ? { ...cashAccounts, opposite: accounts }
      : null;
  const accountsIn = (flow: string): string[] =>
    [...byAccount.keys()].filter((key) => key.startsWith(`${flow}/`)).map((key) => key.slice(flow.length + 1));
  const nameOf = new Map(chart.map((a) => [a.code, a.name]));
  const rows = (held ? withExchange(outline.rows) : outline.rows).flatMap((row): StatementRow[] => {
    const isClass = (CLASSES as readonly string[]).includes(row.key);
    const mine = {
      key: row.key,
      label: row.label,
      kind: isClass ? 'flow' : row.is,
      depth: row.depth,
      emphasis: 'emphasis' in row ? row.emphasis : undefined,
      sign: 'debit' as const,
      account: null as string | null,
      opens: false,
      cells: { window: amountOf(values[row.key] ?? 0) },
      refine: isClass ? opposite(accountsIn(row.key)) : row.key === 'exchange' ? null : cashAccounts,
      measure: isClass ? ('allotted' as const) : (OF_CASH[row.key] ?? null),
    };
    if (row.key === 'unclassified' && (values.unclassified ?? 0) === 0) return [];
    if (!isClass) return [mine];
    const inside = [...byAccount]
      .filter(([key, amount]) => key.startsWith(`${row.key}/`) && amount !== 0)
      .sort(([, a], [, b]) => Math.abs(b) - Math.abs(a))
      .map(([key, amount]) => {
        const account = key.slice(row.key.length + 1);
        return {
          key,
          label: nameOf.get(account) ?? account,
          kind: 'account',
          depth: row.depth + 1,
          emphasis: undefined,
          sign: 'debit' as const,
          account,
          opens: false,
          cells: { window: amountOf(amount) },
          refine: opposite([account]),
          measure: 'allotted' as const,
        };
      });
    return [mine, ...inside];
  });
  // Each company's flows must come to the change of its own cash, in its own currency.
  const offs = [...(counted?.byEntity ?? [])].map(([entity, b]) =>
    add(own.get(entity) ?? 0, 0 - add(b.movement, b.roll)),
  );
  const off = furthestOff(offs);
  return {
    code: outline.code,
    name: outline.name,
    kind: outline.kind,
    shareOf: null,
    columns: [
      {
        key: 'window',
        label: 'This window',
        title: '',
        hint: 'Cash that came in, less cash that went out.',
        unit: 'amount',
        scope: {},
        favourable: null,
      },
    ],
    rows,
    whole: null,
    proofs: [
      {
        guard: 'cash',
        ok: off === 0,
        off,
        accounts: [],
        says:
          cash.length === 0
            ? 'no account of the chart has the flow class cash; give the cash and bank accounts that class'
            : off === 0
              ? 'the flows come to the change in cash'
              : `the flows differ from the change in cash by ${text(off)}`,
      },
    ],
    empty: null,
  };
}

/** What rates did to cash is after the change in it (IAS 7.28). */
function withExchange(rows: readonly OutlineRow[]): OutlineRow[] {
  const row: OutlineRow = { key: 'exchange', label: 'What exchange rates did', is: 'caption', depth: 1 };
  const at = rows.findIndex((r) => r.key === 'change');
  return [...rows.slice(0, at + 1), row, ...rows.slice(at + 1)];
}
