import type { Balance } from '@/core/balances';
import type { Context, Known } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { figureTotal } from './accountBalances';

/** Ledgers that are being read at once by one process; beyond this the one that was asked for longest ago is dropped. */
const LEDGERS_KEPT = 200;

/** By the state of the books: what a load or a changed name makes new begins with none. */
const kept = new WeakMap<Known, Map<string, Promise<Balance>>>();

/**
 * The total of a ledger. Its first page asks for it; the pages after it take the same one, so that reading on through
 * millions of lines does not sum them again and again. The figure holds all that its viewer may see of it, and the
 * lines as of one load never change, so that nobody is shown another's total or an old one.
 */
export async function ledgerTotal(ctx: Context, asked: ResolvedFigure, page: 'first' | 'later'): Promise<Balance> {
  const { known, figure, asOf } = asked;
  const ledgers = kept.get(known) ?? new Map<string, Promise<Balance>>();
  kept.set(known, ledgers);
  const key = JSON.stringify([figure, asOf]);
  const held = page === 'later' ? ledgers.get(key) : undefined;
  const found = held ?? figureTotal(ctx, asked);
  ledgers.delete(key);
  ledgers.set(key, found);
  found.catch(() => ledgers.delete(key));
  const [oldest] = ledgers.keys();
  if (ledgers.size > LEDGERS_KEPT && oldest !== undefined) ledgers.delete(oldest);
  return found;
}
