/** What the columns of a table of lines are, by their heads, however whoever laid it out calls them. */

/** Fields of a line that a column can be, beside the dimensions. */
export const HEAD_FIELDS = [
  ...(['entry', 'date', 'period', 'account', 'debit', 'credit', 'amount', 'description'] as const),
  ...(['counterparty', 'document', 'tax_code', 'currency', 'currency_amount'] as const),
] as const;
export type HeadField = (typeof HEAD_FIELDS)[number];

const ALSO: Record<string, HeadField> = {
  ...{ entrynumber: 'entry', journal: 'entry', accountcode: 'account', code: 'account', dr: 'debit', cr: 'credit' },
  ...{ text: 'description', narrative: 'description', party: 'counterparty', tax: 'tax_code' },
};

const folded = (text: string): string => text.toLowerCase().replace(/[^a-z]/g, '');

/** The field that a head names, or the code of a dimension by its code or name; null: nothing that is known. */
export function fieldOfHead(
  head: string,
  dimensions: readonly { code: string; name: string }[],
): HeadField | `dim:${string}` | null {
  const own = HEAD_FIELDS.find((f) => folded(f) === folded(head)) ?? ALSO[folded(head)];
  if (own) return own;
  const dim = dimensions.find((d) => [d.code, d.name, `dim${d.code}`].some((name) => folded(name) === folded(head)));
  return dim ? `dim:${dim.code}` : null;
}
