import type { LedgerProposal } from '@/contracts/answers/loads';
import type { AccountType } from '@/core/ledger';
import { MONTHS } from '@/core/sentence';

/** From what the type of an account was taken. */
export const WHY: Record<LedgerProposal['accounts'][number]['why'], string> = {
  file: 'the file says so',
  name: 'words of its name',
  class: 'the others with the same leading digits',
  sides: 'the side of most of its lines; look at it',
};

/** What of a proposal was only guessed and left as it was, as sentences to be confirmed later. */
export function guessesOf(
  proposal: LedgerProposal,
  chosen: {
    currency: string;
    month: number;
    retained: string | null;
    types: ReadonlyMap<string, AccountType>;
  },
): { key: string; says: string }[] {
  const guesses: { key: string; says: string }[] = [];
  if (proposal.currency.why !== 'the file says so' && chosen.currency === proposal.currency.code)
    guesses.push({ key: 'currency', says: `The books are in ${chosen.currency}: ${proposal.currency.why}.` });
  if (chosen.month === proposal.yearStart.month)
    guesses.push({
      key: 'year',
      says: `The fiscal year begins in ${MONTHS[chosen.month - 1]}: ${proposal.yearStart.why}.`,
    });
  guesses.push({
    key: 'retained',
    says:
      chosen.retained === null
        ? 'Results of earlier years are kept on an account that was added for them.'
        : `Results of earlier years are kept on ${chosen.retained}.`,
  });
  for (const { code, name, type, why } of proposal.accounts)
    if (why !== 'file' && why !== 'name' && !chosen.types.has(code) && guesses.length < GUESSES_MAX)
      guesses.push({
        key: `account ${code}`,
        says: `${code} ${name === code ? '' : `${name} `}is ${type}: ${WHY[why]}.`,
      });
  return guesses;
}

const GUESSES_MAX = 400;
