import type { Context, Known } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { figureTotal } from './accountBalances';

/** Ledgers that are being read at once by one process; beyond this the one that was asked for longest ago is dropped. */
const LEDGERS_KEPT = 200;

type Page = 'first' | 'later';

/** The total of a ledger. */
export const ledgerTotal = sharedByPages((ctx, asked) => figureTotal(ctx, asked));

/**
 * What all pages of a ledger share. Its first page asks for it; the pages after it take the same, so that reading on
 * through millions of lines does not sum them again and again. The figure holds all that its viewer may see of it, and
 * the lines as of one load never change, so that nobody is shown another's total or an old one.
 */
export function sharedByPages<Found, More extends unknown[]>(
  find: (ctx: Context, asked: ResolvedFigure, ...more: More) => Promise<Found>,
): (ctx: Context, asked: ResolvedFigure, page: Page, ...more: More) => Promise<Found> {
  /** By the state of the books: what a load or a changed name makes new begins with none. */
  const kept = new WeakMap<Known, Map<string, Promise<Found>>>();
  return (ctx, asked, page, ...more) => {
    const { known, figure, asOf } = asked;
    const ledgers = kept.get(known) ?? new Map<string, Promise<Found>>();
    kept.set(known, ledgers);
    const key = JSON.stringify([figure, asOf, ...more]);
    const held = page === 'later' ? ledgers.get(key) : undefined;
    // Whoever asked for it first may have left before it was there.
    const found = held ? held.catch(() => find(ctx, asked, ...more)) : find(ctx, asked, ...more);
    ledgers.delete(key);
    ledgers.set(key, found);
    found.catch(() => ledgers.get(key) === found && ledgers.delete(key));
    const [oldest] = ledgers.keys();
    if (ledgers.size > LEDGERS_KEPT && oldest !== undefined) ledgers.delete(oldest);
    return found;
  };
}
