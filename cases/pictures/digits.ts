import type { ScopeParams } from '@/contracts/scope';
import { bandOf, EXPECTED_FIRST, EXPECTED_TWO, measuresOf, NIGRINI_FIRST, NIGRINI_TWO } from '@/core/tests/benford';
import { digitsOfLines } from '@/store/pictures';
import type { Context } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { drawnOf } from './drawn';

/** With which digits the amounts of a figure's lines begin, beside what is expected of amounts of many sizes. */
export async function readDigits(ctx: Context, viewer: Viewer, params: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, params);
  // Sums do not know digits: lines are read for them, or their copies.
  const { db, question } = await asked.ask(ctx, [{ by: 'size' }]);
  const rows = await digitsOfLines(db, question);
  const count = (begins: string): number =>
    rows.reduce((sum, r) => sum + (r.digits.startsWith(begins) ? r.lines : 0), 0);
  const shown = (from: number, expected: readonly number[], bands: Parameters<typeof bandOf>[1]) => {
    const counts = expected.map((_, i) => count(String(from + i)));
    const { total, mad, chiSquare, likely } = measuresOf(counts, expected);
    return {
      lines: total,
      digits: counts.map((lines, i) => ({ digits: String(from + i), lines, expected: expected[i] as number })),
      ...{ deviation: mad, band: bandOf(mad, bands), chiSquare, likely },
    };
  };
  return {
    ...drawnOf(asked),
    first: shown(1, EXPECTED_FIRST, NIGRINI_FIRST),
    two: shown(10, EXPECTED_TWO, NIGRINI_TWO),
  };
}
