import { isAttribute, type Split } from '@/core/figure';
import { exactly } from '@/core/values';
import { copiedOf } from '@/store/answer';
import { differentIn, membersIn } from '@/store/columns/members';
import { bearingCount } from '@/store/weight';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';

/** A split into no more members than this is answered whole; one with others within it, into no more than the second. */
const WHOLE_MAX = 2_000;
const NESTED_WHOLE_MAX = 200;
/** How many members a page has; where each has others within it, fewer. */
const FIRST = 200;
const NESTED_FIRST = 20;

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
 * @returns null where the split is answered whole
 */
export async function pageOfSplit(
  ctx: Context,
  asked: ResolvedFigure,
  splits: readonly Split[],
  { after = null, first }: { after?: string | null | undefined; first?: number | undefined },
): Promise<PageOfSplit | null> {
  const [{ by } = { by: '' }, within] = splits;
  const whole = within ? NESTED_WHOLE_MAX : WHOLE_MAX;
  if (!isAttribute(by)) return null;
  const { db, question } = await asked.ask(ctx, splits);
  const copied = copiedOf(db, question);
  if (!copied || (await differentIn(copied, by)) <= whole) return null;
  if ((await bearingCount(ctx.read, asked.questionToWeigh())) <= whole) return null;
  const { members, ended } = await membersIn(copied, by, after, first ?? (within ? NESTED_FIRST : FIRST));
  if (ended && after === null) return null;
  const any = [...members.map(exactly), ...(ended ? [null] : [])];
  const narrowed = (clause: { not?: true }): ResolvedFigure =>
    asked.narrowed({ where: [...asked.figure.where, { on: by, any, ...clause }] });
  return { shown: narrowed({}), others: narrowed({ not: true }), next: ended ? null : (members.at(-1) ?? null) };
}
