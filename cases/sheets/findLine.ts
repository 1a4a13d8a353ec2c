import type { ScopeParams } from '@/contracts/scope';
import type { Clause } from '@/core/figure';
import type { LedgerKey } from '@/store/ledgerPlaces';
import { countBefore, keyOf, ledgerPage } from '@/store/lines';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { ledgerTotal } from '../balances/ledgerTotal';
import { ledgerRows } from './readLines';

interface Wanted extends ScopeParams {
  find: string;
  /** Number of the row from which it is looked; absent: from the first on, that one too. */
  at?: number | undefined;
  way: 'next' | 'previous';
}

/** In what lines are looked for, one after the other until something is found. */
const LOOKED_IN: ((find: string) => Clause)[] = [
  (find) => ({ on: 'text', contains: find }),
  (find) => ({ on: 'entry', any: [`*${find}*`] }),
  (find) => ({ on: 'document', any: [`*${find}*`] }),
];

/**
 * The next line of a ledger, or the one before, that has some words in its descriptions, else in the number of its entry,
 * else in that of its document: in which row it is, which of how many it is; round and round. Nothing of it is read that
 * is not shown, however long the ledger is.
 */
export async function findLine(ctx: Context, viewer: Viewer, { find, at, way, ...scope }: Wanted) {
  const asked = await resolveFigure(ctx, viewer, scope);
  for (const clause of LOOKED_IN) {
    const narrowed = asked.narrowed({ where: [...asked.figure.where, clause(find)] });
    const { count } = await ledgerTotal(ctx, narrowed, 'later');
    if (count > 0) return { ...(await placeOf(asked, narrowed, count, ctx, at, way)), of: count };
  }
  return { at: null, number: null, of: 0 };
}

async function placeOf(
  asked: ResolvedFigure,
  narrowed: ResolvedFigure,
  count: number,
  ctx: Context,
  at: number | undefined,
  way: 'next' | 'previous',
): Promise<{ at: number | null; number: number | null }> {
  const all = await asked.ask(ctx, []);
  const some = await narrowed.ask(ctx, []);
  const here = at === undefined ? null : await keyAt(all, at);
  const before = here === null ? 0 : await countBefore(some.db, some.question, here);
  const nth = (n: number) => ledgerRows(some, (n + count) % count, 1);
  const [line] =
    way === 'previous'
      ? await nth(before - 1)
      : here === null
        ? await nth(0)
        : await ledgerPage(some.db, some.question, { after: here }, 1);
  const [found] = line ? [line] : await nth(0);
  // Lines that are missing from the store are counted and not found.
  if (!found) return { at: null, number: null };
  const key = keyOf(found);
  return {
    at: await countBefore(all.db, all.question, key),
    number: (await countBefore(some.db, some.question, key)) + 1,
  };
}

async function keyAt(asked: Parameters<typeof ledgerRows>[0], at: number): Promise<LedgerKey | null> {
  const [line] = await ledgerRows(asked, at, 1);
  return line ? keyOf(line) : null;
}
