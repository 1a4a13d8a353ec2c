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
  const rankOf = (key: LedgerKey): Promise<number> => countBefore(some.db, some.question, key);
  const nth = async (n: number) => ({ line: (await ledgerRows(some, n, 1))[0], number: n + 1 });
  const next = async () => {
    if (here === null) return nth(0);
    const [line] = await ledgerPage(some.db, some.question, { after: here }, 1);
    return line ? { line, number: (await rankOf(keyOf(line))) + 1 } : nth(0);
  };
  const previous = async () => nth(((here === null ? 0 : await rankOf(here)) - 1 + count) % count);
  const { line, number } = await (way === 'next' ? next() : previous());
  // Lines that are missing from the store are counted and not found.
  if (!line) return { at: null, number: null };
  return { at: await countBefore(all.db, all.question, keyOf(line)), number };
}

async function keyAt(asked: Parameters<typeof ledgerRows>[0], at: number): Promise<LedgerKey | null> {
  const [line] = await ledgerRows(asked, at, 1);
  return line ? keyOf(line) : null;
}
