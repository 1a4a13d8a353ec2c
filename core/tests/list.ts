import { benford, large, round, underLimit } from './amounts';
import { inactive, suspense, wrongSide } from './balances';
import {
  changedLines,
  listedWords,
  missingDimension,
  noDescription,
  notReversed,
  reversedSoon,
  unbalanced,
} from './booked';
import { changed, dormant, missingMonth, outOfLine, season } from './history';
import { manual, ownApproval, rarePair, rarePerson, rarePoster, unusualAccount } from './people';
import { gaps } from './series';
import type { Facts, LedgerTest, Param, Params } from './test';
import { cutOff, datedAhead, enteredLate, holiday, outOfHours, outOfOrder, outsidePeriod, weekend } from './times';
import { partiesAlike, sameDocument, twice } from './twice';

/** Every test for what is unusual, in the order in which they are shown. */
export const TESTS = {
  'wrong-side': wrongSide,
  suspense,
  'inactive-account': inactive,
  changed,
  'out-of-line': outOfLine,
  season,
  dormant,
  twice,
  'same-document': sameDocument,
  gaps,
  'missing-month': missingMonth,
  'not-reversed': notReversed,
  'changed-lines': changedLines,
  'parties-alike': partiesAlike,
  large,
  round,
  'under-limit': underLimit,
  'first-digits': benford,
  weekend,
  holiday,
  'out-of-hours': outOfHours,
  'entered-late': enteredLate,
  'dated-ahead': datedAhead,
  'outside-period': outsidePeriod,
  'cut-off': cutOff,
  'out-of-order': outOfOrder,
  manual,
  'rare-person': rarePerson,
  'own-approval': ownApproval,
  'rare-poster': rarePoster,
  'rare-pair': rarePair,
  'unusual-account': unusualAccount,
  'no-description': noDescription,
  words: listedWords,
  unbalanced,
  'reversed-soon': reversedSoon,
  'missing-dimension': missingDimension,
} as const;

export type TestCode = keyof typeof TESTS;
export const TEST_CODES = Object.keys(TESTS) as TestCode[];
export const isTest = (code: string): code is TestCode => code in TESTS;
export const testOf = (code: TestCode): LedgerTest => TESTS[code] as unknown as LedgerTest;
/** The settings of a test, by their types. */
export type ParamsOf<Code extends TestCode> = (typeof TESTS)[Code]['params'];

/** Settings as they are kept: amounts by company, or one for all; numbers; words. */
export type Kept = number | string | readonly string[] | Readonly<Record<string, number>>;

/** What the settings of a test come to, from what was asked for and otherwise from the ledger itself. */
export function valuesOf(params: Params, kept: Readonly<Record<string, Kept>>, facts: Facts): Record<string, unknown> {
  return Object.fromEntries(Object.entries(params).map(([name, param]) => [name, settingOf(param, kept[name], facts)]));
}

function settingOf(param: Param, kept: Kept | undefined, facts: Facts): unknown {
  switch (param.is) {
    case 'amount':
      return (entity: string): number => {
        if (typeof kept === 'number') return kept;
        const own = typeof kept === 'object' ? (kept as Readonly<Record<string, number>>)[entity] : undefined;
        return own ?? param.value(facts, entity);
      };
    case 'number':
      return typeof kept === 'number' ? kept : param.value(facts);
    case 'words':
      return Array.isArray(kept) ? kept : param.value;
    case 'choice':
      return typeof kept === 'string' ? kept : param.value;
  }
}
