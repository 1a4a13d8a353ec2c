import { type Attribute, type Clause, isAttribute, type MemberPick, type Split } from '@/core/figure';
import { lineage } from '@/core/ledger';
import { exactly } from '@/core/values';
import { copiedOf } from '@/store/answer';
import { splitSums } from '@/store/balances';
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
  const [split, within] = splits;
  if (split?.by === 'dim') return within ? pageOfMembers(ctx, asked, split, splits, { after, first }) : null;
  const { by } = split ?? { by: '' };
  const whole = within ? NESTED_WHOLE_MAX : WHOLE_MAX;
  if (!isAttribute(by)) return null;
  const { db, question } = await asked.ask(ctx, splits);
  const copied = copiedOf(db, question);
  if (!copied || (await differentIn(copied, by)) <= whole) return null;
  if ((await bearingCount(ctx.read, asked.questionToWeigh())) <= whole) return null;
  const { members, ended } = await membersIn(copied, by, after, first ?? (within ? NESTED_FIRST : FIRST));
  if (ended && after === null) return null;
  return paged(
    asked,
    { on: by, any: [...members.map(exactly), ...(ended ? [null] : [])] },
    ended ? null : (members.at(-1) ?? null),
  );
}

type OfMembers = Extract<Clause, { on: Attribute }> | Extract<Clause, { on: 'dim' }>;

/** A figure within what a clause takes, and all the rest of it. */
function paged(asked: ResolvedFigure, clause: OfMembers, next: string | null): PageOfSplit {
  const within = (more: OfMembers): ResolvedFigure => asked.narrowed({ where: [...asked.figure.where, more] });
  return { shown: within(clause), others: within({ ...clause, not: true }), next };
}

/** The same of a dimension with very many members at its top, each with others within it. */
async function pageOfMembers(
  ctx: Context,
  asked: ResolvedFigure,
  split: Extract<Split, { by: 'dim' }>,
  splits: readonly Split[],
  { after, first = NESTED_FIRST }: { after: string | null; first: number | undefined },
): Promise<PageOfSplit | null> {
  if (split.under !== null || split.level !== undefined) return null;
  const { db, question } = await asked.ask(ctx, splits);
  const tree = asked.known.catalogue.trees.get(split.dim) ?? new Map();
  const booked = new Set<string>();
  for (const { keys, part } of await splitSums(db, question, [split])) {
    const [code] = keys;
    if (part >= 2 && code != null) booked.add(lineage(tree, code).at(-1) ?? code);
  }
  if (booked.size <= NESTED_WHOLE_MAX) return null;
  const members = [...booked].sort().filter((code) => after === null || code > after);
  const page = members.slice(0, first);
  const ended = page.length === members.length;
  const any: MemberPick[] = [
    ...page.map((code): MemberPick => ({ is: 'tree', code })),
    ...(ended ? [{ is: 'none' } as const] : []),
  ];
  return paged(asked, { on: 'dim', dim: split.dim, any }, ended ? null : (page.at(-1) ?? null));
}
