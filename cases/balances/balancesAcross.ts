import { wrong } from '@/contracts/problem';
import { refine, type Split } from '@/core/figure';
import type { SplitRow } from '@/core/split';
import type { Context } from '../asking/context';
import { namer, shownKey } from '../asking/memberNames';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { mergedChart } from './accountBalances';
import { checkSplits, splitOfSums, wholeOf } from './splitParts';

/** More columns than this nobody reads side by side. */
const ACROSS_MAX = 60;

/** Balances by account for every member of a split, side by side; what falls under no member has a column of its own. */
export async function balancesAcross(ctx: Context, outer: ResolvedFigure, split: Split) {
  checkSplits([split], outer);
  const names = { chart: mergedChart(outer), trees: outer.known.catalogue.trees };
  const asked = wholeOf(outer, [split]);
  const sheet = await splitOfSums(ctx, asked, [{ by: 'account' }], split);
  if (sheet.columns.length > ACROSS_MAX)
    throw wrong('across', `there are ${sheet.columns.length} columns, the most is ${ACROSS_MAX}; narrow the scope`);
  const nameOf = await namer(ctx, asked, [split], [], sheet.columns);
  return sheet.columns.map((key, i) => ({
    key: shownKey(split, key),
    name: nameOf(split, key),
    figure: refine(asked.figure, split, key, names),
    balances: new Map(sheet.rows.map((row) => [row.member, row.cells[i] as SplitRow['cells'][number]])),
  }));
}
