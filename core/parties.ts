import { similarNames } from './similarNames';

export const PARTY_KINDS = ['customer', 'supplier', 'both', 'employee', 'other'] as const;

/** What tells two parties apart, or does not. */
export interface Identity {
  code: string;
  name: string;
  bankAccount: string;
  taxNumber: string;
}

/** Letters of a number that only set it out for the eye. */
const plain = (number: string): string => number.replace(/[\s.\-/]/g, '').toUpperCase();

/**
 * For each party the others that may be the same one under another code, or somebody else who is paid into the same
 * account: by bank account, by tax number, by a name that is nearly theirs. (Common practice in reviewing master files.)
 */
export function doubledParties(
  parties: readonly Identity[],
): Map<string, { sameBank: string[]; sameTax: string[]; nearName: string[] }> {
  const sharing = (of: (party: Identity) => string): Map<string, string[]> => {
    const groups = new Map<string, string[]>();
    for (const party of parties) {
      const key = plain(of(party));
      if (key !== '') groups.set(key, [...(groups.get(key) ?? []), party.code]);
    }
    return groups;
  };
  const banks = sharing((p) => p.bankAccount);
  const taxes = sharing((p) => p.taxNumber);
  const names = new Map<string, string[]>();
  for (const group of similarNames(parties.map((p) => ({ code: p.code, name: p.name, type: '' }))))
    for (const code of group) names.set(code, group);
  const others = (group: string[] | undefined, code: string): string[] => group?.filter((c) => c !== code) ?? [];
  return new Map(
    parties.map((p) => [
      p.code,
      {
        sameBank: others(banks.get(plain(p.bankAccount)), p.code),
        sameTax: others(taxes.get(plain(p.taxNumber)), p.code),
        nearName: others(names.get(p.code), p.code),
      },
    ]),
  );
}
