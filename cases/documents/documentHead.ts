import { exponentOf, formatAmount } from '@/core/money';
import type { DocumentRow } from '@/store/documents';

/** What every answer says of a document first. */
export const documentHead = (d: Omit<DocumentRow, 'entity' | 'account' | 'load'>) => ({
  number: d.number,
  type: d.type,
  date: d.date,
  dueDate: d.due_date,
  currency: d.currency,
  counterparty: d.counterparty_code,
  counterpartyName: d.counterparty_name,
  amount: formatAmount(d.amount, exponentOf(d.currency)),
  description: d.description,
});
