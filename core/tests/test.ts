import type { Calendar, Ordinal } from '../calendar';
import type { DateText } from '../dates';
import type { Account, Line } from '../ledger';
import type { Minor } from '../money';

/**
 * A test for what is unusual in a ledger (method.md §11; ISA 240.33, ISA 520): what it looks for, with which settings, and
 * how it finds it among plain lines. The store asks the same of the database (store/tests), and is held against this.
 */

/** What the tests know of one company. */
export interface BooksTested {
  calendar: Calendar;
  chart: readonly AccountTested[];
  /** Where results of earlier years are added to this account without being booked, nothing is told of its balance. */
  retainedEarnings: string;
}
export interface AccountTested extends Account {
  status: string;
  /** The side on which its balance usually is: debit or credit. */
  normal: string;
  dimRules: Readonly<Record<string, 'required' | 'optional' | 'forbidden'>>;
}

/** A line that tests look at. */
export interface LineTested extends Line {
  /** In the window of the scope; others are what was before. */
  within: boolean;
}

/** A ledger up to the end of a scope's window. */
export interface LedgerTested {
  books: ReadonlyMap<string, BooksTested>;
  lines: readonly LineTested[];
  /** Lines of the window that another load has taken away or replaced since, as they were. */
  gone: readonly Line[];
  parties: readonly PartyTested[];
  /** The period of a company in which the window ends. */
  end(entity: string): Ordinal;
  /** Whether a period lies in the window as a whole, which none does of a window of days. */
  whole(period: Ordinal): boolean;
}
export interface PartyTested {
  code: string;
  name: string;
  kind: string | null;
  bankAccount: string;
}

/** Where something odd was found: what of the ledger it is about. */
export interface At {
  entry?: string;
  line?: number;
  account?: string;
  /** A second account, party or kind of number. */
  other?: string;
  period?: Ordinal;
  document?: string;
  party?: string;
  person?: string;
  day?: DateText;
  /** The beginning that the numbers of a series have in common, and the first that is missing. */
  series?: string;
}
export type AtField = keyof At;
export const AT_FIELDS = [
  'entry',
  'line',
  'account',
  'other',
  'period',
  'document',
  'party',
  'person',
  'day',
  'series',
] as const satisfies readonly AtField[];

export type Part = number | string | null;

/** Something that a test found. */
export interface Hit {
  entity: string;
  at: At;
  /** How far it is from what is usual, in bits: one more for each time that it is twice as far. */
  degree: number;
  amount: Minor;
  /** What its reason says, by the names of the test's own. */
  parts: Readonly<Record<string, Part>>;
  /** Numbers of the entries behind it, of a test that tells them. */
  entries?: readonly string[];
}

/** What the ledger itself says of what is usual in it, from which settings begin. */
export interface Facts {
  /** Of one company. */
  of(entity: string): {
    /** The amount, without sign, that half of the lines are below. */
    typical: Minor;
    /** The total that one entry in a thousand is above. */
    large: Minor;
    /** Σ of income and expense without signs, whichever is greater, over twelve months. */
    turnover: Minor;
    /** What somebody said is material of its year; null: nothing was said. */
    material: Minor | null;
    /** The smallest power of ten that hardly any line is a multiple of. */
    round: Minor;
    /** The limit under which most more entries are than above it; 0: there is none. */
    limit: Minor;
  };
  /** Days after its posting that nineteen of twenty entries are entered within. */
  entered: number;
  /** Hours of the day between which nineteen of twenty entries are entered; null where the hour is not kept. */
  hours: { from: number; to: number } | null;
}

export interface AmountParam {
  is: 'amount';
  label: string;
  value: (facts: Facts, entity: string) => Minor;
}
export interface NumberParam {
  is: 'number';
  label: string;
  value: (facts: Facts) => number;
  least: number;
  most: number;
}
export interface WordsParam {
  is: 'words';
  label: string;
  value: readonly string[];
}
export interface ChoiceParam {
  is: 'choice';
  label: string;
  value: string;
  options: readonly string[];
}
export type Param = AmountParam | NumberParam | WordsParam | ChoiceParam;
export type Params = Readonly<Record<string, Param>>;

/** What a setting comes to: amounts by company, in minor units of its books. */
export type ValueOf<P extends Param> = P extends AmountParam
  ? (entity: string) => Minor
  : P extends NumberParam
    ? number
    : P extends WordsParam
      ? readonly string[]
      : string;
export type ValuesOf<P extends Params> = { readonly [Name in keyof P]: ValueOf<P[Name]> };

export const money = (label: string, value: AmountParam['value']): AmountParam => ({ is: 'amount', label, value });
export const number = (
  label: string,
  value: number | NumberParam['value'],
  { least = 0, most = 10_000 }: { least?: number; most?: number } = {},
): NumberParam => ({ is: 'number', label, value: typeof value === 'number' ? () => value : value, least, most });
export const words = (label: string, value: readonly string[]): WordsParam => ({ is: 'words', label, value });
export const choice = <const Options extends readonly string[]>(
  label: string,
  options: Options,
  value: Options[number],
): ChoiceParam => ({ is: 'choice', label, options, value });

/** What a hit is said in. */
export interface Saying {
  money(amount: Minor): string;
  account(code: string): string;
  party(code: string): string;
  day(day: DateText): string;
  period(period: Ordinal): string;
  dimension(code: string): string;
}

/** Of how many there are, a hit is one. */
export type LookedAt = 'entries' | 'accounts' | 'account-months' | 'parties' | 'people' | 'numbers' | 'lines';

export const GROUPS = [
  'Balances',
  'Changes over time',
  'Booked twice or missing',
  'Amounts',
  'Dates',
  'People',
  'How it is booked',
] as const;
export type TestGroup = (typeof GROUPS)[number];

export interface LedgerTest<P extends Params = Params> {
  code: string;
  name: string;
  group: TestGroup;
  /** What it looks for, and why. */
  looksFor: string;
  source: string;
  looksAt: LookedAt;
  params: P;
  /** What tells one hit from another. */
  at: readonly AtField[];
  /** Which lines are behind a hit: those that have this in common with it, or those of entries that it names. */
  behind: readonly AtField[] | 'entries';
  /** It tells only of whole entries, or needs whole periods: what else a scope leaves in is not looked at. */
  needs?: readonly ('whole entries' | 'periods')[];
  plain(ledger: LedgerTested, values: ValuesOf<P>): Hit[];
  reason(hit: Pick<Hit, 'at' | 'amount' | 'parts'>, say: Saying): string;
}

export const ledgerTest = <const P extends Params>(test: LedgerTest<P>): LedgerTest<P> => test;

export const ISA_240 = 'ISA 240.33(a), journal entries and other adjustments';
export const ISA_520 = 'ISA 520.5 to 7, analytical procedures';
export const COMMON = 'Common practice';

export const bits = (times: number): number => Math.log2(times);
/** How unusual it is to be one of `some` among `all`, in bits, as far as so few of them tell. */
export const rarity = (some: number, all: number): number => -Math.log2((some + 1) / (all + 2));

/** A part of a reason that is a number. */
export const num = (part: Part | undefined): number => Number(part ?? 0);
export const told = (part: Part | undefined): string => String(part ?? '');
/** The same in words, with thousands apart. */
export const said = (part: Part | undefined): string => num(part).toLocaleString('en-GB');
export const times = (n: number, one: string, many = `${one}s`): string => `${said(n)} ${n === 1 ? one : many}`;
