import type { Format, LoadKind, Mapping, Reading } from '@/contracts/mapping';
import type { ColumnHead } from '@/core/columns';

/** Shapes of the API's answers that the screens read. */
export interface SentencePart {
  text: string;
  control?: string;
  removable?: boolean;
  granted?: boolean;
}

export interface Amounts {
  opening: string;
  debit: string;
  credit: string;
  movement: string;
  roll: string;
  closing: string;
  count: number;
  yearToDate?: string;
  yearDebit?: string;
  yearCredit?: string;
}

export interface Tie {
  ok: boolean;
  offBy: string;
  sinceLoad?: number | null;
}

export interface Empty {
  reason: string;
  instead: Record<string, string> | null;
  label: string | null;
}

export interface SheetHead {
  sentence: string;
  parts: SentencePart[];
  address: string;
  currency: string;
  /** Some of the books are in another currency than the answer. */
  translated?: boolean;
  load: number;
  empty?: Empty;
}

/** Values by column. */
export type ColumnValues = Record<string, string | null>;

export interface TrialBalance extends SheetHead {
  languages: string[];
  schemes: string[];
  rows: (Amounts & {
    account: string;
    name: string;
    type: string;
    heading: boolean;
    depth: number;
    /** Codes of schemes beside the house's own, by scheme. */
    codes?: Record<string, string>;
    selection?: string;
    parts?: { label: string; opening: string; year: number | null; refine: Record<string, string> | null }[];
    values?: ColumnValues;
  })[];
  columns?: ColumnHead[];
  columnTotals?: ColumnValues;
  sides: { openingDebit: string; openingCredit: string; closingDebit: string; closingCredit: string };
  totals: Amounts;
  tie: Tie & { means: 'balances' | 'parts' };
}

export interface SplitSheet extends SheetHead {
  /** Measures in which the rows add up to the total. */
  additive: string[];
  columns: {
    member: string;
    name: string;
    within: string | null;
    refine: Record<string, string | string[]>;
    total: Amounts;
  }[];
  rows: (Amounts & {
    member: string;
    name: string;
    depth: number;
    refine: Record<string, string | string[]>;
    address: string;
    /** Of a row with rows below it: whether they add up to it. */
    tie?: Tie;
    /** Of a translated sheet: whether the row is of a single account. */
    oneAccount?: boolean;
    /** With the accounts of the cell where both splits are of accounts. */
    cells?: (Amounts & { accounts?: string })[];
    inCurrency?: string | null;
    /** Under the columns to compare with. */
    values?: ColumnValues;
    /** By column, what asks for the row over its window, where rows are of time. */
    scopes?: Record<string, Record<string, string | string[]>>;
  })[];
  /** Columns to compare with; a variance of income and expense is favourable where it is a credit. */
  compared?: (ColumnHead & { favourable: 'credit' | null })[];
  values?: ColumnValues;
  total: Amounts;
  tie: Tie;
}

export interface Totals extends SheetHead {
  values?: ColumnValues;
  total: Amounts;
  tie: Tie;
}

export interface LineRow {
  id: string;
  entity: string;
  entry: string;
  entryId: string;
  line: number;
  date: string;
  period: string;
  account: string;
  accountName: string;
  debit: string;
  credit: string;
  amount: string;
  running: string | null;
  description: string;
  entryDescription: string;
  journal: string | null;
  document: string | null;
  counterparty: string | null;
  postedBy: string | null;
  enteredAt: string | null;
  status: string;
  kind: string;
  currency: string | null;
  currencyAmount: string | null;
  quantity: string | null;
  unit: string | null;
  unitPrice: string | null;
  approvedBy: string | null;
  reversalOf: string | null;
  source: string | null;
  load: number;
  /** What else the file said of the line, by its own column names. */
  extra: Record<string, string>;
  /** By its date it is where by its number it does not. */
  outOfOrder?: boolean;
  dims: { dimension: string; dimensionName: string; code: string; name: string }[];
  otherSide: { account: string; name: string; amount: string; exact: boolean }[];
  otherSideMore: number;
}

export interface LinesPage extends SheetHead {
  /** false: it begins at nothing, whatever was there. */
  carries?: false;
  opening: string;
  roll: string;
  closing: string;
  totals: { count: number; debit: string; credit: string; movement: string };
  at: number;
  rows: LineRow[];
  tie?: Tie;
}

export interface Entry {
  id: string;
  entity: string;
  entityName: string;
  inSource: string | null;
  number: string;
  description: string;
  journal: string | null;
  date: string;
  period: string;
  periodName: string;
  status: string;
  postedBy: string | null;
  enteredAt: string | null;
  approvedBy: string | null;
  reversalOf: string | null;
  source: string | null;
  currency: string;
  load: number;
  replacedBy: number | null;
  lines: LineRow[];
  /** Lines outside what the viewer may see. */
  outside: number;
  totals: { count: number; debit: string; credit: string };
  tie: Tie;
  documents: { number: string; type: string | null; date: string | null }[];
}

export interface OtherSide {
  sentence: string;
  currency: string;
  rows: { account: string; name: string; movement: string; exact: string; shared: string }[];
  total: string;
  tie: Tie;
}

export interface Note {
  id: number;
  subject: string;
  measure: string | null;
  label: string;
  body: string;
  by: string;
  ink: 'preparer' | 'reviewer' | 'reader';
  mine: boolean;
  at: string;
}

export interface Pin {
  id: number;
  subject: string;
  measure: string;
  label: string;
  sentence: string;
  currency: string;
  value: string;
  lines: number;
  load: number;
  digest: string;
  by: string;
  ink: 'preparer' | 'reviewer' | 'reader';
  mine: boolean;
  at: string;
  state: 'fresh' | 'drifted';
  now: string | null;
  change: string | null;
  drift: {
    change: 'added' | 'changed' | 'removed';
    entity: string;
    entry: string;
    line: number;
    date: string;
    description: string;
    amount: string;
    before: string | null;
    fields: string[];
    effect: string;
  }[];
  driftMore: boolean;
  driftTies: boolean;
}

export interface Entities {
  entities: {
    code: string;
    name: string;
    currency: string;
    calendar: import('@/core/calendar').CalendarSpec;
    reach: { firstPeriod: number; lastPeriod: number; lastPosted: number; firstDay: string; lastDay: string } | null;
    /** Accounts that documents are on. */
    controls: string[];
  }[];
  dimensions: { code: string; name: string; members: { code: string; name: string; parent: string | null }[] }[];
  newestLoad: number;
}

export interface Load {
  id: number;
  status: 'reading' | 'loaded' | 'refused';
  waits: boolean;
  cancelAsked: boolean;
  progress: number;
  rowsRead: number;
  problemsSoFar: number;
  startedAt: string | null;
  finishedAt: string | null;
  entity: string | null;
  kind: string;
  format: string;
  file: string;
  digest: string;
  bytes: number;
  replaces: string | null;
  person: string;
  createdAt: string;
  lines: number;
  entries: number;
  replaced: number;
  problemCount: number;
  message: string | null;
  mapping?: Mapping | null;
  stated?:
    | {
        what: string;
        entity: string;
        account: string | null;
        period: string | null;
        stated: string;
        found: string;
        ok: boolean;
      }[]
    | null;
  totals?: { entity: string; period: string; lines: number; debit: string; credit: string }[];
  problems?: { row: number | null; column: string | null; value: string | null; message: string }[];
}

export interface Recognised {
  value: string;
  doubt: 'none' | 'likely' | 'ask';
  why: string;
}

export interface Inspection {
  digest: string;
  kind: LoadKind;
  unreadable: string | null;
  name?: string;
  bytes?: number;
  format: Format;
  container: 'none' | 'gzip' | 'zip' | 'workbook';
  members: string[];
  sheets: string[];
  reading: Reading;
  recognised: { encoding: Recognised | null; decimal: Recognised; dates: Recognised };
  header: string[];
  columns: { name: string; guess: { field: string; why: 'name' | 'values' } | null; values: string[] }[];
  rows: { row: number; cells: string[] }[];
  ownColumns: boolean;
  fields: { required: string[]; anyOf: string[][]; known: string[]; prefixes: string[] };
  missing: { field: string; message: string }[];
  mapping: Mapping | null;
  offered: { name: string; mapping: Mapping }[];
  preview: {
    rows: number;
    entries: {
      entity: string;
      entry: string;
      date: string;
      balances: boolean;
      lines: {
        line: number;
        account: string;
        accountName: string;
        debit: string;
        credit: string;
        description: string;
        dims: string[];
      }[];
    }[];
    balanced: boolean;
    problems: { row: number | null; column: string | null; value: string | null; message: string }[];
    problemCount: number;
  } | null;
}

export interface Completeness {
  reach: {
    entity: string;
    first: string;
    last: string;
    lines: number;
    debit: string;
    credit: string;
    balances: boolean;
  }[];
  series: {
    entity: string;
    journal: string | null;
    prefix: string;
    entries: number;
    first: string;
    last: string;
    missing: number;
    unnumbered: number;
  }[];
  gaps: { entity: string; from: string; to: string; count: number }[];
  gapsMore: boolean;
  ranges: { entity: string; from: string; to: string; count: number }[];
  continuity: { periods: number; ok: boolean; broken: { entity: string; period: string; accountsOff: number }[] };
}

export interface Comparison {
  from: number;
  to: number;
  counts: { added: number; changed: number; removed: number };
  accounts: {
    entity: string;
    account: string;
    name: string;
    currency: string;
    added: number;
    changed: number;
    removed: number;
    before: string;
    after: string;
    change: string;
  }[];
  lines: {
    change: 'added' | 'changed' | 'removed';
    entity: string;
    entry: string;
    line: number;
    date: string;
    account: string;
    description: string;
    amount: string;
    fields: { field: string; from: string; to: string }[];
  }[];
  at: number;
  touched: {
    pins: { id: number; label: string; by: string; value: string; now: string | null; state: string }[];
    notes: { id: number; label: string; by: string; body: string }[];
    threads: { id: number; name: string; by: string; state: string; steps: string[] }[];
  };
}

export interface OverTime {
  sentence: string;
  currency: string;
  measure: 'movement' | 'closing';
  tie: Tie;
  points: { period: string; name: string; value: string; before: string | null; count: number; inWindow: boolean }[];
  usual: { mean: string; low: string; high: string } | null;
}

export interface WhatMoved {
  currency: string;
  now: string;
  before: string;
  totals: { before: string; now: string; change: string } | null;
  tie: Tie;
  dimensions: {
    by: string;
    name: string;
    members: number;
    concentration: number;
    gross: string;
    movers: {
      member: string;
      name: string;
      is: 'there' | 'new' | 'gone';
      refine: Record<string, string | string[]>;
      before: string;
      now: string;
      change: string;
      share: string | null;
    }[];
    rest: string;
  }[];
  notWeighed: { name: string; problem: string }[];
}

export interface ThreadHead {
  id: number;
  name: string;
  state: 'open' | 'concluded';
  by: string;
  mine: boolean;
  at: string;
  changed: string;
}

export type ThreadInList = ThreadHead & { steps: number; entities: string[]; address: string | null };

export interface ThreadStep {
  id: number;
  parent: number | null;
  address: string;
  label: string;
  view: 'sheet' | 'split' | 'lines' | 'entry';
  by: string | null;
  measure: string | null;
  note: string;
  load: number;
  currency: string | null;
  value: string | null;
  lines: number | null;
  who: string;
  at: string;
  now: string | null;
  moved?: boolean;
  problem?: string;
  sentence?: string;
  mine: boolean;
  former: Former[];
}

/** Words as they were before they were changed. */
export interface Former {
  words: Record<string, string>;
  by: string;
  at: string;
}

export type SavedThread = ThreadHead & { former: Former[]; steps: ThreadStep[] };

export interface Replayed {
  put: Record<string, string[]>;
  steps: (ThreadStep & {
    nowLines?: number;
    nowCurrency?: string;
    change: string | null;
    empty?: string;
    members?: { vanished: string[]; appeared: string[] };
  })[];
}

export interface FannedOut {
  by: string;
  columns: { step: number; label: string; measure: string; currency: string; total: string | null; tie: Tie }[];
  rows: { member: string; name: string; cells: (string | null)[] }[];
}

export interface Connection {
  id: number;
  name: string;
  url: string;
  entity: string | null;
  everyMinutes: number | null;
  state: 'idle' | 'asked' | 'pulling' | 'loading' | 'failed';
  message: string | null;
  pulledAt: string | null;
  lastLoad: number | null;
  upTo: string | null;
  privateAllowed: boolean;
}

export interface ChartRow {
  account: string;
  name: string;
  names: Record<string, string>;
  type: string;
  statement: string;
  depth: number;
  parent: string | null;
  posting: boolean;
  status: string;
  normal: string;
  flow: string | null;
  groups: string[];
  classification: string | null;
  currency: string | null;
  createdAt: string | null;
  createdBy: string | null;
  codes: Record<string, string>;
  dims: Record<string, string>;
  similar: string[];
  missing: string[];
  /** null: outside what the viewer may see */
  opening: string | null;
  movement: string | null;
  closing: string | null;
  count: number | null;
}

export interface Chart {
  entity: string;
  currency: string;
  sentence: string;
  parts: SentencePart[];
  address: string;
  languages: string[];
  rows: ChartRow[];
}

export interface MemberRow {
  code: string;
  name: string;
  names: Record<string, string>;
  parent: string | null;
  depth: number;
  validFrom: string | null;
  validTo: string | null;
  groups: string[];
  missing: string[];
  count: number;
  debit: string;
  credit: string;
  movement: string;
}

export interface Dimensions {
  entity: string;
  currency: string;
  sentence: string;
  parts: SentencePart[];
  address: string;
  dimensions: { code: string; name: string; languages: string[]; rows: MemberRow[] }[];
}

export interface Holding {
  entity: string;
  number: string;
  name: string;
  kind: 'cash' | 'bank';
  takes: string;
  currency: string;
  bankAccount: string | null;
  account: string;
  accountName: string;
  balance: string | null;
  balanceCurrency: string;
  /** Why the number of the account and its balance are not shown. */
  withheld: string | null;
}

export interface Calendars {
  today: string;
  entities: {
    code: string;
    name: string;
    currency: string;
    calendar: { kind: 'monthly'; start: string } | { kind: 'weeks'; pattern: string } | { kind: 'custom' };
    yearEnd: string;
    years: {
      year: number;
      periods: {
        period: string;
        from: string;
        to: string;
        adjustment: boolean;
        lines: number;
        posted: number;
        debit: string;
      }[];
    }[];
  }[];
}

export interface Statement extends SheetHead {
  code: string;
  name: string;
  kind: 'income' | 'balance' | 'cashflow' | 'position' | 'tax';
  shareOf: string | null;
  by?: string;
  languages?: string[];
  columns: (ColumnHead & { favourable: 'income' | null })[];
  rows: {
    key: string;
    label: string;
    kind: string;
    depth: number;
    emphasis?: 'subtotal' | 'total';
    sign: 'debit' | 'credit';
    account: string | null;
    values: Record<string, string | null>;
    refine: Record<string, string | string[]> | null;
    opens: boolean;
  }[];
  guards: { guard: string; ok: boolean; amount: string; accounts: string[]; says: string }[];
}

export interface Statements {
  entity: string;
  schemes: string[];
  rows: { code: string; name: string; kind: Statement['kind']; version: number; by: string | null; rows: number }[];
}

export interface KeptOutline {
  entity: string;
  outline: import('@/core/statement').Outline;
  versions: { version: number; by: string; at: string; removed: boolean }[];
}

/** A sentence that was kept by name. */
export interface KeptScope {
  id: number;
  name: string;
  place: 'trial-balance' | 'statements' | 'lines';
  query: string;
  shared: boolean;
  opens: boolean;
  mine: boolean;
  by: string;
  folder: string;
  /** Whether it is among the places of the viewer. */
  atHand: boolean;
}

/** A piece of long work, of whatever kind. */
export interface Job {
  id: number;
  kind: string;
  subject: string;
  label: string;
  state: 'waiting' | 'under way' | 'done' | 'refused' | 'cancelled' | 'put aside';
  progress: number;
  message: string | null;
  by: string;
  mine: boolean;
  cancelAsked: boolean;
  tries: number;
  addedAt: string;
  begunAt: string | null;
  finishedAt: string | null;
}
