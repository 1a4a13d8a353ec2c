import { add, allot, type Minor } from './money';

/** A line of a whole entry, as far as allotting needs it. */
export interface EntryLine {
  id: string;
  account: string;
  amount: Minor;
}

export interface OtherSideShare {
  account: string;
  /** Signed as the other side is booked: the shares of a line add up to minus its amount. */
  amount: Minor;
  /** False where the entry has several lines on both sides, so that the share is pro rata. */
  exact: boolean;
}

/**
 * Where the other half of some lines of one entry went (method.md §8): each chosen line is allotted over
 * the lines of the opposite sign in proportion to their amounts, by the largest-remainder method. Exact if
 * either side of the entry has one line; the pro-rata rule for other entries is ours.
 * @param lines all lines of one balanced entry of one entity
 * @param chosen ids of the lines asked about
 */
export function otherSide(lines: readonly EntryLine[], chosen: ReadonlySet<string>): OtherSideShare[] {
  const debits = lines.filter((l) => l.amount > 0);
  const credits = lines.filter((l) => l.amount < 0);
  const exact = debits.length <= 1 || credits.length <= 1;
  const shares = new Map<string, Minor>();
  for (const line of lines) {
    if (!chosen.has(line.id) || line.amount === 0) continue;
    const opposite = line.amount > 0 ? credits : debits;
    if (opposite.length === 0) continue;
    const parts = allot(
      -line.amount,
      opposite.map((o) => Math.abs(o.amount)),
    );
    for (const [i, o] of opposite.entries()) {
      shares.set(o.account, add(shares.get(o.account) ?? 0, parts[i] as Minor));
    }
  }
  return [...shares].map(([account, amount]) => ({ account, amount, exact }));
}
