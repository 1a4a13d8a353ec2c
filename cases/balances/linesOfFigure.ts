import type { Db } from '@/store/db';
import { ledgerPage, type StoredLine } from '@/store/lines';
import type { ResolvedFigure } from '../asking/resolvedFigure';

const PAGE = 2_000;

/** Every line of a figure in ledger order, read page by page so that a large one is never in memory. @param options see ledgerPage */
export async function* linesOfFigure(
  db: Db,
  { unweighed: question, known: names }: ResolvedFigure,
  options: { openings?: boolean } = {},
): AsyncGenerator<StoredLine> {
  let page = await ledgerPage(db, question, { offset: 0, day: null }, PAGE, options);
  while (page.length > 0) {
    yield* page;
    const last = page[page.length - 1] as StoredLine;
    if (page.length < PAGE) return;
    const entity = names.catalogue.entities.get(last.entity)?.id ?? 0;
    const after = { day: last.day, entryNumber: last.entry, entity, entry: last.entryId, line: last.line };
    page = await ledgerPage(db, question, { after }, PAGE, options);
  }
}
