import { isDate } from '@/core/dates';
import { outOfPlace, type UsualDays } from '@/core/ledgerOrder';
import { linesInAll } from '@/store/columns/manifest';
import type { StoredLine } from '@/store/lines';
import { neighboursOf, usualDays } from '@/store/placesOfLines';
import { bearingCount } from '@/store/weight';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { seesWhole } from '../asking/viewer';
import { sharedByPages } from '../balances/ledgerTotal';

/** More lines than these are asked about where they are copied by columns alone. */
const ASKED_MAX = 100_000;
/** Of more lines than these some are looked at, which tell as much. */
const SAMPLED = 50_000;
const NOTHING: UsualDays = { document: null, entered: null };

/** What is usual is told by all lines of the accounts, whatever is shown of them; it changes with the books alone. */
export const usualOf = (ctx: Context, asked: ResolvedFigure): Promise<UsualDays> =>
  usual(ctx, asked.narrowed({ where: [], window: everything(asked), status: 'all' }), 'later');

const usual = sharedByPages(usualIn);

async function usualIn(ctx: Context, whole: ResolvedFigure): Promise<UsualDays> {
  const { db, question } = await whole.ask(ctx, []);
  if (question.columns === undefined && (await linesInAll(ctx.read)) > ASKED_MAX) return NOTHING;
  const lines = question.columns === undefined ? 0 : await bearingCount(ctx.read, whole.questionToWeigh());
  return usualDays(db, question, Math.max(1, Math.floor(lines / SAMPLED)));
}

const NO_NEIGHBOURS = { before: [], after: [] };

/**
 * Why lines of a page do not belong where they are, by the ids of lines: their document, the day they were entered, or
 * their number says another day, by more than is usual in their accounts.
 */
export async function misplaced(
  ctx: Context,
  asked: ResolvedFigure,
  days: UsualDays,
  lines: readonly StoredLine[],
): Promise<Map<string, string[]>> {
  if (lines.length === 0) return new Map();
  const books = [...new Set(lines.map((line) => line.books))];
  const near = await Promise.all(
    books.map(async (id) => {
      const numbers = lines.filter((line) => line.books === id).map((line) => line.entry);
      // Numbers of entries outside of a grant are not told by their days either.
      const found = seesWhole(asked.viewer) ? await neighboursOf(ctx.read, id, numbers, asked.asOf) : new Map();
      return [id, found] as const;
    }),
  );
  const neighbours = new Map(near);
  const dated = (text: string | null | undefined): string | null => {
    const day = text?.slice(0, 10) ?? '';
    return isDate(day) ? day : null;
  };
  const found = new Map<string, string[]>();
  for (const line of lines) {
    // What adjusts, opens or turns a year is dated where it belongs by another rule.
    if (line.kind !== 'normal') continue;
    const own = { day: line.day, documentDate: dated(line.extra?.document_date), enteredOn: dated(line.enteredAt) };
    const reasons = outOfPlace(own, days, neighbours.get(line.books)?.get(line.entry) ?? NO_NEIGHBOURS);
    if (reasons.length > 0) found.set(line.id, reasons);
  }
  return found;
}

/** From the first line of the books to the last. */
function everything({ figure, entities, known }: ResolvedFigure): ResolvedFigure['figure']['window'] {
  const reaches = entities.flatMap((e) => known.extents.get(e.code) ?? []);
  if (reaches.length === 0) return figure.window;
  return {
    by: 'period',
    from: Math.min(...reaches.map((r) => r.firstPeriod)),
    to: Math.max(...reaches.map((r) => r.lastPeriod)),
  };
}
