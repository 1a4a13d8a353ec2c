/** Shapes of the API's answers that the screens read. */
export interface SentencePart {
  text: string;
  control?: string;
  removable?: boolean;
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
  load: number;
  empty?: Empty;
}

export interface TrialBalance extends SheetHead {
  rows: (Amounts & {
    account: string;
    name: string;
    type: string;
    heading: boolean;
    depth: number;
    parts?: { label: string; opening: string; year: number | null }[];
  })[];
  totals: Amounts;
  tie: Tie & { means: 'balances' | 'parts' };
}

export interface SplitSheet extends SheetHead {
  rows: (Amounts & { member: string; name: string; depth: number; refine: Record<string, string | string[]>; address: string })[];
  total: Amounts;
  tie: Tie;
}

export interface Totals extends SheetHead {
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
  dims: { dimension: string; dimensionName: string; code: string; name: string }[];
  otherSide: { account: string; name: string; amount: string; exact: boolean }[];
  otherSideMore: number;
}

export interface LinesPage extends SheetHead {
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
  currency: string;
  load: number;
  replacedBy: number | null;
  lines: LineRow[];
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
  ink: 'preparer' | 'reviewer';
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
  ink: 'preparer' | 'reviewer';
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
  }[];
  dimensions: { code: string; name: string; members: { code: string; name: string; parent: string | null }[] }[];
  newestLoad: number;
}

export interface Load {
  id: number;
  status: 'reading' | 'loaded' | 'refused';
  progress: number;
  entity: string | null;
  kind: string;
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
  totals?: { entity: string; period: string; lines: number; debit: string; credit: string }[];
  problems?: { row: number | null; column: string | null; value: string | null; message: string }[];
}
