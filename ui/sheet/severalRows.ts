import { summary } from '@/core/money';
import { allOf } from '../address/address';
import { amountText } from '../amounts';
import { cellAmount } from './cell';
import type { SheetModel, SheetRow } from './model';

/** Rows that are chosen together: what they ask for as one figure, if that can be said, and what they come to. */
export function severalRows(model: SheetModel, chosen: ReadonlySet<number>) {
  if (chosen.size < 2) return null;
  const rows = [...chosen].sort((a, b) => a - b).flatMap((i) => model.rowAt(i) ?? []);
  const [first] = rows;
  if (!first || rows.length < 2) return null;
  const puts = rows.flatMap((r) => (r.put ? [r.put] : []));
  const put = puts.length === rows.length ? allOf(puts) : null;
  const label = `${first.label} and ${rows.length - 1} more`;
  return {
    rows,
    together: put
      ? ({ ...first, label, put, subject: null, standsOut: undefined, count: undefined } satisfies SheetRow)
      : null,
    /** Sum, count, average, least and greatest of a column. */
    says: (column: string, name: string): string => {
      const amounts = rows.flatMap((r) => r.amounts?.[column] ?? cellAmount(r.cells[column]) ?? []);
      const found = summary(amounts);
      if (!found) return 'Choose a column of amounts to add them up.';
      const [sum, average, least, greatest] = [found.sum, found.average, found.least, found.greatest].map(amountText);
      return `${name}: ${sum} together, ${average} on average, from ${least} to ${greatest}.`;
    },
  };
}
