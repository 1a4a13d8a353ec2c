import type { CatalogueAccount } from '@/store/catalogue';

/** What the remainder of a translation is on; a code that no chart can have. */
export const DIFFERENCE = '~translation';

/** What of the dealings within a group does not cancel: results and balances each in a row of their own. */
export const UNCANCELLED = { result: '~intercompany-result', balance: '~intercompany-balance' } as const;

const added = (id: number, code: string, name: string, type: CatalogueAccount['type']): CatalogueAccount => ({
  id,
  code,
  name,
  names: {},
  type,
  parent: null,
  posting: true,
  groups: [],
  status: 'active',
  normal: 'debit',
  flow: null,
  codes: {},
  dimRules: {},
});

export const differenceAccount = added(-1, DIFFERENCE, 'Translation difference', 'equity');

const UNCANCELLED_NAME = 'Intercompany that does not cancel';

export const uncancelledAccounts: readonly CatalogueAccount[] = [
  added(-2, UNCANCELLED.result, UNCANCELLED_NAME, 'expense'),
  added(-2, UNCANCELLED.balance, UNCANCELLED_NAME, 'asset'),
];
