import { forbidden, notFound, wrong } from '@/contracts/problem';
import type { Role } from '@/contracts/roles';
import { type Figure, type MemberPick, memberPicked, type Names, narrowDimension } from '@/core/figure';
import { beneath, type Tree } from '@/core/ledger';
import { accountsIn, parseSelection } from '@/core/selection';

export type { Role } from '@/contracts/roles';

/** Who asks, and what they may see. */
export interface Viewer {
  id: number;
  name: string;
  email: string;
  role: Role;
  /** Entities granted; null: all. */
  entities: readonly string[] | null;
  /** Members granted by dimension, with all beneath them; a dimension that is not named is granted whole. */
  members: Readonly<Record<string, readonly string[]>>;
  /** Accounts granted, as a selection; null: all. */
  accounts: string | null;
  /** The network address that the request came from; not there for what is asked by no request. */
  cameFrom?: string;
}

export const maySee = (viewer: Viewer, entity: string): boolean =>
  viewer.entities === null || viewer.entities.includes(entity);

/** Whether the books that the viewer sees are seen whole. */
export const seesWhole = (viewer: Viewer): boolean =>
  viewer.accounts === null && Object.keys(viewer.members).length === 0;

/** For what holds whole books, such as a file as it was loaded. */
export const maySeeBooks = (viewer: Viewer, entity: string | null): boolean =>
  seesWhole(viewer) && (entity === null ? viewer.entities === null : maySee(viewer, entity));

/** @throws ProblemError where an answer cannot be told from a part of the books */
export function requireWhole(viewer: Viewer, what: string): void {
  if (!seesWhole(viewer)) throw forbidden(`${what} of whole books, and you see a part of them; ask whoever granted it`);
}

/**
 * The right to change the books of a company, or with null what all companies share: whoever sees a part of them changes
 * nothing of the whole. A company outside is refused in the same words as one that is not there.
 * @throws ProblemError
 */
export function requireBooks(viewer: Viewer, entity: string | null, act: string): void {
  if (entity !== null && !maySee(viewer, entity)) throw notFound(`Entity ${entity}`);
  if (!maySeeBooks(viewer, entity))
    throw forbidden(
      entity === null
        ? `You may not ${act}: it is shared by all companies, and you see a part of them`
        : `You may not ${act} of ${entity}: you see a part of its books`,
    );
}

/**
 * The figure as this viewer may ask it: the one place through which every figure passes before the store. The grant is
 * added as clauses (method.md §5, law 5), which its sentence then says; what is wholly outside is refused, never
 * shown as nothing. An entity outside is refused in the same words as one that is not there.
 * @throws ProblemError
 */
export function asSeenBy(figure: Figure, viewer: Viewer, names: Names): Figure {
  for (const entity of figure.entities) if (!maySee(viewer, entity)) throw notFound(`Entity ${entity}`);
  if (seesWhole(viewer)) return figure;
  if (figure.where.some((c) => c.on === 'opposite')) requireWhole(viewer, 'The other side of an entry is');
  let seen = figure;
  for (const [dim, codes] of Object.entries(viewer.members)) {
    const before = seen;
    seen = narrowDimension(before, dim, withTheirTrees(codes), names.trees);
    // A figure that takes no member as it is asks for nothing, whoever asks.
    if (takesNoMember(seen, dim) && !takesNoMember(before, dim))
      throw wrong(
        `dim.${dim}`,
        `this lies outside what you may see, which is ${codes.map((c) => names.trees.get(dim)?.get(c)?.name ?? c).join(' or ')}`,
      );
  }
  if (viewer.accounts === null) return seen;
  const granted = parseSelection(viewer.accounts);
  if (seen.accounts === null) return { ...seen, accounts: granted };
  const allowed = accountsIn(granted, names.chart);
  const wanted = [...accountsIn(seen.accounts, names.chart)];
  const both = wanted.filter((code) => allowed.has(code)).sort();
  if (both.length === wanted.length && both.length > 0) return seen;
  if (both.length === 0) throw wrong('accounts', `this lies outside what you may see, which is ${viewer.accounts}`);
  return { ...seen, accounts: { take: both.map((code) => ({ is: 'code', code })), except: [] } };
}

const takesNoMember = (figure: Figure, dim: string): boolean =>
  figure.where.some((c) => c.on === 'dim' && c.dim === dim && !c.not && c.any.length === 0);

/** Members of a grant, each with all beneath it. */
const withTheirTrees = (codes: readonly string[]): MemberPick[] => codes.map((code) => ({ is: 'tree', code }));

/** Whether a line is within the viewer's grant of members and accounts. */
export function seesLine(
  viewer: Viewer,
  line: { account: string; members: Readonly<Record<string, string>> },
  names: Names,
): boolean {
  for (const [dim, codes] of Object.entries(viewer.members)) {
    if (!memberPicked(withTheirTrees(codes), line.members[dim] ?? null, names.trees.get(dim) ?? new Map()))
      return false;
  }
  return viewer.accounts === null || accountsIn(parseSelection(viewer.accounts), names.chart).has(line.account);
}

const RANK: Record<Role, number> = { reader: 0, preparer: 1, reviewer: 2, owner: 3 };

export const isAtLeast = (viewer: Pick<Viewer, 'role'>, role: Role): boolean => RANK[viewer.role] >= RANK[role];

/** @throws ProblemError if the viewer's role is below the one needed */
export function require(viewer: Viewer, role: Role, act: string): void {
  if (!isAtLeast(viewer, role)) throw forbidden(`A ${viewer.role} may not ${act}; ask a ${role}`);
}

/** Whose hand wrote it: reviewers have an ink of their own, and a reader's remark is told from a preparer's work. */
export const inkOf = (role: string): 'preparer' | 'reviewer' | 'reader' =>
  role === 'reviewer' || role === 'reader' ? role : 'preparer';

/**
 * The members of a dimension that the viewer may know of: those granted, all beneath them, and those that they are
 * beneath, which hold them; null: all of them.
 */
export function knownMembers(viewer: Viewer, dim: string, tree: Tree): Set<string> | null {
  const granted = viewer.members[dim];
  if (granted === undefined) return null;
  const known = new Set(granted.flatMap((code) => [...beneath(tree, code)]));
  for (const code of granted)
    for (let at = tree.get(code)?.parent ?? null; at !== null && !known.has(at); at = tree.get(at)?.parent ?? null)
      known.add(at);
  return known;
}

/** The accounts of a chart that a grant holds; null: all of them. */
export const grantedAccounts = (viewer: Viewer, chart: Names['chart']): Set<string> | null =>
  viewer.accounts === null ? null : accountsIn(parseSelection(viewer.accounts), chart);
