import type { Split } from './figure';
import { byRow, pathKey, type SplitQuestion } from './split';

/**
 * How far the plan of one account goes. It was set by companies, accounts, periods and some dimensions; what it comes to
 * for a member of anything else nobody has said.
 */
export interface PlanReach {
  /** For each split of a sheet: whether the plan was set by it. */
  by: readonly boolean[];
  /** Whether it was set by all that the scope narrows to. */
  inScope: boolean;
  /** A balance that nobody planned; it has no part in what was planned of others. */
  unsaid: boolean;
}

/** What several accounts are planned by together: whatever some of them are, the others being of no member there. */
const together = (all: readonly PlanReach[]): PlanReach | null =>
  all.length === 0
    ? null
    : {
        by: (all[0] as PlanReach).by.map((_, level) => all.some((reach) => reach.by[level])),
        inScope: all.some((reach) => reach.inScope && !reach.unsaid),
        unsaid: all.some((reach) => reach.unsaid),
      };

/** Whether anything is known of accounts together; where none of them is planned, that is nothing. */
export function isPlanned(all: readonly PlanReach[]): boolean {
  const reach = together(all);
  return !reach || (reach.inScope && !reach.unsaid);
}

/** Splits whose members an account is in by itself. */
export const isOfAccount = ({ by }: Split): boolean =>
  by === 'account' || by === 'heading' || by === 'type' || by === 'entity';

/**
 * Which rows of a sheet a plan says something of: those at which it was set, and the sums of them. Below, a variance would
 * be all that was spent, which nobody planned otherwise.
 * @param accounts every account that is planned or unsaid, with its raw key for each split that it is in by itself
 * @returns whether a row is known by its path; the empty path is the whole
 */
export function plannedRows(
  accounts: readonly { keys: (string | null)[]; kept: PlanReach }[],
  { splits, trees }: Pick<SplitQuestion, 'splits' | 'trees'>,
): (path: readonly string[]) => boolean {
  const levels = splits.flatMap((split, level) => (isOfAccount(split) ? [level] : []));
  const own = <Of>(all: readonly Of[]): Of[] => levels.filter((level) => level < all.length).map((l) => all[l] as Of);
  const { rows, whole } = byRow<PlanReach | null>(
    accounts.map(({ keys, kept }) => ({ keys: own(keys), kept })),
    { splits: own(splits), trees },
    (all) => together(all.flatMap((reach) => reach ?? [])),
  );
  return (path) => {
    const at = own(path);
    const reach = at.length === 0 ? whole : rows.get(pathKey(at));
    // Where no account is planned nothing is, whatever it is broken down into.
    return !reach || (reach.inScope && !reach.unsaid && path.every((_, level) => reach.by[level]));
  };
}
