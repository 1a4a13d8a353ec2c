import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { type Outline, OutlineError, type OutlineRow, usualOutline } from '@/core/statement';
import type { CatalogueAccount, CatalogueEntity } from '@/store/catalogue';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { DIFFERENCE, UNCANCELLED } from '../balances/addedAccounts';
import { schemeOf } from '../balances/listedAccounts';
import { outlinesOf, schemeOutline } from './outlines';

export async function outlineOf(
  ctx: Context,
  asked: ResolvedFigure,
  code: string,
  { scheme, lang }: { scheme?: string | undefined; lang?: string | undefined },
  { chart, differs }: { chart: CatalogueAccount[]; differs: boolean },
): Promise<Outline> {
  if (scheme !== undefined) {
    if (code !== 'income' && code !== 'balance')
      throw wrong('scheme', 'only the income statement and the balance sheet are read by a scheme');
    return schemeOutline(code, await schemeOf(ctx, asked, chart, scheme), chart, lang);
  }
  const found = (await outlinesOf(ctx, asked.entities[0] as CatalogueEntity)).get(code);
  if (!found) throw notFound(`Statement ${code}`);
  const usual =
    found.version === 0 && asked.entities.length > 1 && (code === 'income' || code === 'balance')
      ? usualOutline(
          code,
          chart.filter((a) => !a.code.startsWith('~')),
        )
      : found.outline;
  const eliminated = asked.eliminates ? withUncancelled(usual) : usual;
  return differs ? withDifference(eliminated) : eliminated;
}

/** What does not cancel between the companies is in a row of its own, in the section where it is missing. */
function withUncancelled(outline: Outline): Outline {
  const kind = outline.kind === 'balance' ? 'balance' : 'result';
  const row: OutlineRow = {
    key: 'intercompany',
    label: 'Intercompany that does not cancel',
    is: 'accounts',
    depth: 1,
    accounts: UNCANCELLED[kind],
    sign: 'debit',
  };
  const total = outline.rows.findIndex(
    (r) => r.is === 'formula' && r.key === (kind === 'balance' ? 'total-asset' : 'total-expense'),
  );
  const at = total === -1 ? outline.rows.findIndex((r) => r.is === 'result') : total;
  const rows = outline.rows.map((r, i) =>
    i === total && r.is === 'formula' ? { ...r, terms: [...r.terms, { row: row.key, times: 1 as const }] } : r,
  );
  return { ...outline, rows: [...rows.slice(0, Math.max(0, at)), row, ...rows.slice(Math.max(0, at))] };
}

/** The translation difference is in a row of its own, before the total (IAS 21.39). */
function withDifference(outline: Outline): Outline {
  if (outline.kind !== 'balance') return outline;
  const row: OutlineRow = {
    key: 'translation',
    label: 'Translation difference',
    is: 'accounts',
    depth: 1,
    accounts: DIFFERENCE,
    sign: 'credit',
  };
  const at = outline.rows.findIndex((r) => r.is === 'result');
  const rows = outline.rows.map((r) =>
    r.is === 'formula' && r.terms.some((t) => t.row === 'result')
      ? { ...r, terms: [...r.terms, { row: row.key, times: 1 as const }] }
      : r,
  );
  return { ...outline, rows: [...rows.slice(0, at + 1), row, ...rows.slice(at + 1)] };
}

export function understood<T>(act: () => T): T {
  try {
    return act();
  } catch (error) {
    if (error instanceof OutlineError)
      throw new ProblemError(422, 'The outline does not fit the chart', [
        { path: `rows.${error.row}`, message: error.message },
      ]);
    throw error;
  }
}
