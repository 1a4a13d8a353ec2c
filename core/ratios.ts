import type { Balance } from './balances';
import type { Account } from './ledger';
import { add, type Minor, sum } from './money';
import { accountsIn } from './selection';
import { shareOf } from './statement';

/** What ratios are made of: closings of a company in debits less credits, and what its accounts of the result come to in the year so far. */
export interface Standing {
  assets: Minor;
  liabilities: Minor;
  /** Without the result of the year, which is not closed into it yet. */
  equity: Minor;
  income: Minor;
  expense: Minor;
  /** What falls due within a year, where the chart tells it apart. */
  current: { assets: Minor; liabilities: Minor } | null;
}

interface Ratio {
  key: string;
  label: string;
  /** In millionths; null over nothing. */
  millionths: number | null;
}

/**
 * Ratios by which a company is usually read (common practice, no source): what is left of income, what its owners and its
 * lenders bear, and what they have of it. Equity is with the result of the year so far.
 */
export function ratiosOf({ assets, liabilities, equity, income, expense, current }: Standing): Ratio[] {
  const result = -add(income, expense);
  const own = add(-equity, result);
  const ratio = (key: string, label: string, over: Minor, under: Minor): Ratio => ({
    ...{ key, label, millionths: shareOf(over, under) },
  });
  return [
    ratio('margin', 'Result over income', result, -income),
    ratio('equity', 'Equity over assets', own, assets),
    ratio('gearing', 'Liabilities over equity', -liabilities, own),
    ratio('on-equity', 'Result over equity', result, own),
    ratio('on-assets', 'Result over assets', result, assets),
    ...(current
      ? [ratio('current', 'Current assets over current liabilities', current.assets, -current.liabilities)]
      : []),
  ];
}

/** Where a company stands, from the balances of its accounts over a fiscal year so far. */
export function standingOf(chart: readonly Account[], balances: ReadonlyMap<string, Balance>): Standing {
  const posting = chart.filter((a) => a.posting);
  const of = (type: Account['type'], measure: 'closing' | 'movement'): Minor =>
    sum(posting.flatMap((a) => (a.type === type ? (balances.get(a.code)?.[measure] ?? []) : [])));
  const under = (heading: RegExp): Minor | null => {
    const head = chart.find((a) => !a.posting && heading.test(a.name));
    if (!head) return null;
    const codes = accountsIn({ take: [{ is: 'code', code: head.code }], except: [] }, chart);
    return sum([...codes].map((code) => balances.get(code)?.closing ?? 0));
  };
  const [currentAssets, currentLiabilities] = [under(/^current assets$/i), under(/^current liabilities$/i)];
  return {
    assets: of('asset', 'closing'),
    liabilities: of('liability', 'closing'),
    equity: of('equity', 'closing'),
    income: of('income', 'movement'),
    expense: of('expense', 'movement'),
    current:
      currentAssets === null || currentLiabilities === null
        ? null
        : { assets: currentAssets, liabilities: currentLiabilities },
  };
}
