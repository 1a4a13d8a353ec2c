import { isAttribute, type Split } from '@/core/figure';
import { exactly } from '@/core/values';
import { differentIn, membersIn } from '@/store/columns/members';
import { bearingCount } from '@/store/weight';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';

/** A split into no more rows than this is answered whole. */
const WHOLE_MAX = 2_000;
const ROWS_FIRST = 200;
/** Of a split within which there is another: so many members of the first. */
export const NESTED_FIRST = 40;

/** A page of a split that has very many rows. */
interface PageOfSplit {
  /** The figure as far as the page goes. */
  shown: ResolvedFigure;
  /** All of it that is on other pages. */
  others: ResolvedFigure;
  /** The member after which the next page begins; null: there is none. */
  next: string | null;
}

/**
 * A figure within the members of one page, where a split has so many that nobody reads them at once: documents, entries,
 * descriptions. The page is a clause like any other, so that its rows trace and compare as rows do.
 * Members of which nothing was booked in the window are on no page: they are among the others.
 * @param after the member that the page before ended with
 * @param whole a split into no more members than this is answered whole
 * @returns null where the split is answered whole
 */
export async function pageOfSplit(
  ctx: Context,
  asked: ResolvedFigure,
  splits: readonly Split[],
  {
    after = null,
    first = ROWS_FIRST,
    whole = WHOLE_MAX,
  }: { after?: string | null | undefined; first?: number | undefined; whole?: number },
): Promise<PageOfSplit | null> {
  const [{ by } = { by: '' }] = splits;
  if (!isAttribute(by)) return null;
  const { question } = await asked.ask(ctx, splits);
  const { columns } = question;
  if (!columns || (await differentIn(question, columns, by)) <= whole) return null;
  if ((await bearingCount(ctx.read, asked.questionToWeigh())) <= whole) return null;
  const { members, ended } = await membersIn(question, columns, by, after, first);
  if (ended && after === null) return null;
  const any = [...members.map(exactly), ...(ended ? [null] : [])];
  const within = (clause: { not?: true }): ResolvedFigure =>
    asked.narrowed({ where: [...asked.figure.where, { on: by, any, ...clause }] });
  return { shown: within({}), others: within({ not: true }), next: ended ? null : (members.at(-1) ?? null) };
}
