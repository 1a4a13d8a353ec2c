import { KIND, SIDE, STATUS } from '@/store/codes';
import type { StagedLine } from '@/store/staging';

/** A line of an opening entry that is made of stated balances; its moment is the caller's. */
export const openingLine = (
  entity: number,
  entryNumber: string,
  line: number,
  account: number,
  amount: number,
): Omit<StagedLine, 'postingDate' | 'day' | 'period' | 'dayPeriod'> => ({
  row: line,
  entity,
  entryNumber,
  line,
  account,
  amount,
  status: STATUS.posted,
  kind: KIND.opening,
  side: amount < 0 ? SIDE.credit : SIDE.debit,
  journal: 0,
  counterparty: 0,
  postedBy: 0,
  dims: [0, 0, 0, 0, 0, 0, 0, 0],
  currency: null,
  currencyAmount: null,
  quantity: null,
  unit: null,
  document: null,
  enteredAt: null,
  approvedBy: null,
  reversalOf: null,
  source: null,
  extra: null,
  description: 'Opening balance',
  entryDescription: 'Opening balances as stated',
});
