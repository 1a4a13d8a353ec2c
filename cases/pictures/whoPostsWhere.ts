import type { ScopeParams } from '@/contracts/scope';
import { RARE_POSTS } from '@/core/tests/people';
import { type Posts, ratedPosts } from '@/core/tests/rarePosts';
import { postedBy } from '@/store/pictures';
import type { Context } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { drawnOf } from './drawn';

/** So many are drawn: those of rare pairs first, then the busiest. */
const PEOPLE_MAX = 24;
const ACCOUNTS_MAX = 40;
/** Rare pairs that are told. */
const RARE_MAX = 200;

/** Who posted how many lines of a figure on which account, and which pairs are rare although both are busy. */
export async function readWhoPostsWhere(ctx: Context, viewer: Viewer, params: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, params);
  const { db, question } = await asked.ask(ctx, [{ by: 'postedBy' }, { by: 'account' }]);
  const codes = new Map(asked.entities.flatMap((e) => e.chart.map((a) => [a.id, a] as const)));
  const merged = new Map<string, Posts>();
  for (const { account, person, lines } of await postedBy(db, question)) {
    const code = codes.get(account)?.code ?? '';
    const key = `${code}\n${person ?? ''}`;
    merged.set(key, { account: code, person, lines: lines + (merged.get(key)?.lines ?? 0) });
  }
  // In an order of their own, whatever order they came in.
  const ordered = [...merged].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, posts]) => posts);
  const rated = ratedPosts(ordered, RARE_POSTS);
  const names = new Map(asked.entities.flatMap((e) => e.chart.map((a) => [a.code, a.name] as const)));
  const accounts = foremost(rated, (p) => p.account, ACCOUNTS_MAX);
  const people = foremost(rated, (p) => p.person, PEOPLE_MAX);
  const [shownAccounts, shownPeople] = [new Set(accounts.first), new Set(people.first)];
  return {
    ...{ ...drawnOf(asked), settings: RARE_POSTS },
    accounts: [...accounts.first].sort().map((code) => ({ code, name: names.get(code) ?? '' })),
    people: people.first,
    pairs: rated.filter((p) => shownAccounts.has(p.account) && shownPeople.has(p.person)),
    rare: rated
      .filter((p) => p.rare)
      .sort((a, b) => b.expected / b.lines - a.expected / a.lines)
      .slice(0, RARE_MAX)
      .map((p) => ({ ...p, name: names.get(p.account) ?? '' })),
    notDrawn: { accounts: accounts.others, people: people.others },
  };
}

/** Those with rare pairs first, then those with most lines. */
function foremost<Key>(
  posts: readonly { lines: number; rare: boolean; account: string; person: string | null }[],
  keyOf: (post: { account: string; person: string | null }) => Key,
  most: number,
): { first: Key[]; others: number } {
  const held = new Map<Key, { lines: number; rare: number }>();
  for (const post of posts) {
    const key = keyOf(post);
    const so = held.get(key) ?? { lines: 0, rare: 0 };
    held.set(key, { lines: so.lines + post.lines, rare: so.rare + (post.rare ? 1 : 0) });
  }
  const ordered = [...held].sort(([, a], [, b]) => b.rare - a.rare || b.lines - a.lines).map(([key]) => key);
  return { first: ordered.slice(0, most), others: Math.max(0, ordered.length - most) };
}
