import type { TestCode } from '@/core/tests/list';
import { firstDigits, large, round, underLimit } from './amounts';
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
import { cutOff, datedAhead, enteredLate, holiday, outOfHours, outOfOrder, outsidePeriod, weekend } from './times';
import { gaps, partiesAlike, sameDocument, twice } from './twice';
import type { TestSql } from './words';

/** How each test asks the lines of a scope. */
export const TEST_SQL: { [Code in TestCode]: TestSql<Code> } = {
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
  'first-digits': firstDigits,
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
};
