import type { DemoEntry } from './entry';
import { Random } from './random';

const TOWNS: readonly [town: string, code: string][] = [
  ['Harrowick', 'HW1 2'],
  ['Brenna', 'BR4 6'],
  ['Tolsey', 'TL2 1'],
  ['Lindra', 'LN3 8'],
  ['Skarvoy', 'SK7 5'],
];
const STREETS = ['Quay Street', 'Net Lane', 'Harbour Road', 'Chapel Wynd', 'Rope Walk', 'Saltern Way'];
/** What somebody is, by the beginning of the code. */
const KINDS: [code: RegExp, kind: string][] = [
  [/^[CY]-|^V-\d/, 'customer'],
  [/^[SV]-/, 'supplier'],
];

/** Story 16: a supplier with nearly the name of another, who is paid into the other's account. */
const DOUBLED = { code: 'S-418', name: 'Sound Hydraulic Services', as: 'S-404' };

/** Customers and suppliers with their addresses and bank accounts, made up; every one that the entries name. */
export function demoParties(entries: Iterable<DemoEntry>): string[][] {
  const names = new Map<string, string>();
  for (const { counterparty } of entries) if (counterparty) names.set(...counterparty);
  names.set(DOUBLED.code, DOUBLED.name);
  const random = new Random(41);
  const rows = [...names]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([code, name]) => {
      const [town, postal] = TOWNS[random.whole(0, TOWNS.length - 1)] as (typeof TOWNS)[number];
      const street = `${random.whole(1, 90)} ${STREETS[random.whole(0, STREETS.length - 1)]}`;
      const digits = (count: number): string =>
        Array.from({ length: count }, () => String(random.whole(0, 9))).join('');
      const kind = KINDS.find(([begins]) => begins.test(code))?.[1] ?? 'other';
      return [
        ...[code, name, kind, kind === 'supplier' ? 'Works and stores' : ''],
        ...[street, `${postal}AB`, town, 'GB'],
        ...[`GB00 KSND ${digits(4)} ${digits(4)}`, `GB ${digits(9)}`],
      ];
    });
  const [bank] = rows.filter(([code]) => code === DOUBLED.as).map((row) => row[8]);
  for (const row of rows) if (row[0] === DOUBLED.code) row[8] = bank ?? '';
  return rows;
}

export const PARTY_HEADER = [
  ...['code', 'name', 'kind', 'group', 'address', 'postal_code', 'city', 'country'],
  ...['bank_account', 'tax_number'],
];
