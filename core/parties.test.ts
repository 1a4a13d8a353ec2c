import { expect, test } from 'vitest';
import { doubledParties } from './parties';

const party = (code: string, name: string, bankAccount = '', taxNumber = '') => ({
  code,
  name,
  bankAccount,
  taxNumber,
});

test('parties are held against each other by bank account, tax number and name', () => {
  const found = doubledParties([
    party('S-1', 'Sound Hydraulics Ltd', 'GB00 1234 5678', 'GB 12'),
    party('S-2', 'Sound Hydraulic Limited', 'NO11 0000'),
    party('S-3', 'Brenna Boatyard', 'gb0012345678'),
    party('S-4', 'Kvarn Provisions', '', 'GB-12'),
    party('S-5', 'Ltd'),
    party('S-6', 'Limited'),
  ]);
  expect(found.get('S-1')).toEqual({ sameBank: ['S-3'], sameTax: ['S-4'], nearName: ['S-2'] });
  expect(found.get('S-3')).toEqual({ sameBank: ['S-1'], sameTax: [], nearName: [] });
  // What only says what kind of company it is makes no two names alike.
  expect(found.get('S-5')?.nearName).toEqual([]);
});

test('ten thousand parties are held against each other at once', () => {
  const many = Array.from({ length: 10_000 }, (_, i) => party(`P${i}`, `Firm ${(i * 7919).toString(36)} ${i}`));
  const twins = [...many, party('Q1', 'Fjord Laundry Service'), party('Q2', 'Fjord Laundry Services')];
  expect(doubledParties(twins).get('Q1')?.nearName).toEqual(['Q2']);
});
