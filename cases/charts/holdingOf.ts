import { isCurrency } from '@/core/money';
import type { HoldingRow } from '@/store/deliveries';
import { type Fault, text, type Values } from '../loads/loading/values';

/** Kind, use and numbers of a bank account or cash box. A bank account has the bank's own number; a cash box has none. */
export function holdingOf(
  values: Values,
  currency: string,
  fault: Fault,
): Pick<HoldingRow, 'kind' | 'takes' | 'currency' | 'bank_account'> | null {
  const kind = text(values, 'kind').toLowerCase();
  const takes = text(values, 'takes').toLowerCase() || 'both';
  const bankAccount = text(values, 'bank_account') || null;
  if (kind !== 'cash' && kind !== 'bank') fault('kind', `a holding is cash or bank, not “${kind}”`);
  if (takes !== 'receipts' && takes !== 'payments' && takes !== 'both')
    fault('takes', `a holding takes receipts, payments or both, not “${takes}”`);
  if (kind === 'bank' && !bankAccount) fault('bank_account', 'a bank account needs the bank’s own account number');
  if (kind === 'cash' && bankAccount) fault('bank_account', 'a cash box has no bank account number');
  const own = text(values, 'currency') || currency;
  if (!isCurrency(own)) fault('currency', `“${own}” is no ISO 4217 currency`);
  if ((kind !== 'cash' && kind !== 'bank') || (takes !== 'receipts' && takes !== 'payments' && takes !== 'both'))
    return null;
  return { kind, takes, currency: own, bank_account: bankAccount };
}
