import type { Db } from '@/store/db';
import { type BearingLine, bearingLines, countBearing, keyOf, ledgerPage, type StoredLine } from '@/store/lines';
import type { ResolvedFigure } from '../asking/resolvedFigure';

const PAGE = 2_000;

/** Every line of a figure in ledger order, read page by page so that a large one is never in memory. @param options see ledgerPage */
export async function* linesOfFigure(
  db: Db,
  { unweighed: question }: ResolvedFigure,
  options: { openings?: boolean } = {},
): AsyncGenerator<StoredLine> {
  let page = await ledgerPage(db, question, { offset: 0, day: null }, PAGE, options);
  while (page.length > 0) {
    yield* page;
    const last = page[page.length - 1] as StoredLine;
    if (page.length < PAGE) return;
    page = await ledgerPage(db, question, { after: keyOf(last) }, PAGE, options);
  }
}

/** Every line that bears on a figure: what its opening is made of too. For work that nobody waits for. */
export const linesBearingOn = (db: Db, { unweighed }: ResolvedFigure): AsyncGenerator<BearingLine> =>
  bearingLines(db, unweighed);

export const countBearingOn = (db: Db, { unweighed }: ResolvedFigure): Promise<number> => countBearing(db, unweighed);
