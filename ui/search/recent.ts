import type { Hit, HitKind } from '@/contracts/answers/search';

/** What was opened from the search, kept in this browser for who it was. */
export interface Recent
  extends Pick<Hit, 'kind' | 'label' | 'detail' | 'entity' | 'amount' | 'subject' | 'address' | 'put'> {
  /** How often. */
  times: number;
  /** When it was opened last, in milliseconds. */
  at: number;
}

const KEPT_MAX = 60;
export const SHOWN_MAX = 12;
const DAY_MS = 86_400_000;

/** What is opened again and again, and what was opened lately, first. */
export function inOrder(all: readonly Recent[], nowMs: number): Recent[] {
  const weight = ({ times, at }: Recent): number => times / (1 + Math.max(0, nowMs - at) / DAY_MS);
  return [...all].sort((a, b) => weight(b) - weight(a) || b.at - a.at);
}

/** The list with one more opening. */
export function withOpened(all: readonly Recent[], hit: Hit, nowMs: number): Recent[] {
  const { marks: _marks, ...kept } = hit;
  const before = all.find((r) => r.address === hit.address);
  const others = all.filter((r) => r !== before);
  return inOrder([{ ...kept, times: (before?.times ?? 0) + 1, at: nowMs }, ...others], nowMs).slice(0, KEPT_MAX);
}

const keyOf = (who: string): string => `found ${who}`;

export function recents(who: string): Recent[] {
  try {
    const kept: unknown = JSON.parse(window.localStorage.getItem(keyOf(who)) ?? '[]');
    return Array.isArray(kept) ? inOrder(kept as Recent[], Date.now()) : [];
  } catch {
    return [];
  }
}

export function keepOpened(who: string, hit: Hit): void {
  window.localStorage.setItem(keyOf(who), JSON.stringify(withOpened(recents(who), hit, Date.now())));
}

/** Kinds of what is found, as their groups are called. */
export const KIND_NAMES: Record<HitKind, string> = {
  page: 'Places',
  account: 'Accounts',
  member: 'Members of dimensions',
  party: 'Customers and suppliers',
  entry: 'Entries',
  document: 'Documents',
  line: 'Lines',
  statement: 'Statements and their rows',
  thread: 'Threads',
  scope: 'Kept sentences',
  finding: 'Findings',
  proposed: 'Proposed entries',
  note: 'Notes',
  file: 'Files',
  load: 'Loads',
  person: 'People',
};
