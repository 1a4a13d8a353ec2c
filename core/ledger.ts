import type { Ordinal } from './calendar';
import type { DateText } from './dates';
import type { Minor } from './money';

export const ACCOUNT_TYPES = ['asset', 'liability', 'equity', 'income', 'expense'] as const;
export type AccountType = (typeof ACCOUNT_TYPES)[number];

/** Income and expense accounts begin each fiscal year at nothing (method.md §4). */
export const isTemporary = (type: AccountType): boolean => type === 'income' || type === 'expense';

export interface Account {
  code: string;
  name: string;
  type: AccountType;
  parent: string | null;
  /** Only posting accounts take lines; headings total what is beneath them. */
  posting: boolean;
  groups: readonly string[];
  classification?: string | null;
  /** Cash-flow activity. */
  flow?: string | null;
}

/** What may be booked on, of an account or with a party. */
export const STATUSES = ['active', 'inactive', 'suspended'] as const;

/** The side on which accounts of a type usually stand (common practice). */
export const usualSide = (type: AccountType): 'debit' | 'credit' =>
  type === 'asset' || type === 'expense' ? 'debit' : 'credit';

/** The line table has room for as many dimensions. */
export const DIMENSIONS_MAX = 8;

export const LINE_KINDS = ['normal', 'opening', 'adjustment', 'closing', 'reversal', 'revaluation'] as const;
export type LineKind = (typeof LINE_KINDS)[number];
export type LineStatus = 'posted' | 'unposted';

/** One journal line, in the shape that the core calculates with. */
export interface Line {
  entity: string;
  entry: string;
  line: number;
  account: string;
  postingDate: DateText;
  /** Where the line is by date: its posting date, or its fiscal year's last day in an adjustment period. */
  day: DateText;
  period: Ordinal;
  status: LineStatus;
  kind: LineKind;
  /** Which column it is in: a reversal booked as a negative debit is a debit. */
  side: 'debit' | 'credit';
  /** Base amount in the entity's functional currency, debit positive, credit negative. */
  amount: Minor;
  description: string;
  entryDescription: string;
  journal: string | null;
  counterparty: string | null;
  postedBy: string | null;
  document: string | null;
  currency: string | null;
  documentType: string | null;
  taxCode: string | null;
  /** Of the quantity. */
  unit: string | null;
  dueDate: string | null;
  documentDate: string | null;
  approvedBy: string | null;
  enteredAt: string | null;
  /** The unit or system that raised the entry. */
  source: string | null;
  partnerEntity: string | null;
  /** Number of the entry that this one takes back. */
  reversalOf: string | null;
  /** Name of the file that came with the line. */
  attachment: string | null;
  /** What it was ticked off with, such as a bank statement; null while it is open. */
  reconciled: string | null;
  /** A decimal. */
  quantity: string | null;
  /** In minor units of the transaction currency. */
  currencyAmount: Minor | null;
  /** A decimal in units of the books' currency. */
  taxAmount: string | null;
  /** Member code by dimension code; a dimension that is absent has no member. */
  dims: Readonly<Record<string, string>>;
}

export interface Member {
  code: string;
  name: string;
  parent: string | null;
}

/** member code → its parent's code, for one dimension. */
export type Tree = ReadonlyMap<string, Member>;

/** The member and everything below it. */
export function beneath(tree: Tree, top: string): Set<string> {
  const children = childrenOf(tree);
  const found = new Set<string>();
  const waiting = [top];
  for (let code = waiting.pop(); code !== undefined; code = waiting.pop()) {
    if (found.has(code)) continue;
    found.add(code);
    waiting.push(...(children.get(code) ?? []));
  }
  return found;
}

/** Languages in which any of these has a name beside its own. */
export const languagesOf = (named: readonly { names: Record<string, string> }[]): string[] =>
  [...new Set(named.flatMap((n) => Object.keys(n.names)))].sort();

/** The member itself and its parents up to the top, nearest first. */
export function lineage(tree: Tree, code: string): string[] {
  const path: string[] = [];
  for (let at: string | null = code; at !== null && !path.includes(at); at = tree.get(at)?.parent ?? null)
    path.push(at);
  return path;
}

function childrenOf(tree: Tree): Map<string, string[]> {
  const children = new Map<string, string[]>();
  for (const { code, parent } of tree.values()) {
    if (parent === null) continue;
    const list = children.get(parent);
    if (list) list.push(code);
    else children.set(parent, [code]);
  }
  return children;
}
