/** Who posts where, and which pairs of a person and an account are rare although both are busy (core/tests/people). */

export interface Posts {
  account: string;
  person: string | null;
  lines: number;
}

export interface RatedPosts extends Posts {
  /** Lines that one would expect of the person there, if everybody posted everywhere alike. */
  expected: number;
  rare: boolean;
}

/** @param posts one of each pair @param most lines of a rare pair @param expected lines that one would expect of it at the least */
export function ratedPosts(
  posts: readonly Posts[],
  { most, expected: least }: { most: number; expected: number },
): RatedPosts[] {
  const theirs = new Map<string, number>();
  const there = new Map<string, number>();
  let all = 0;
  for (const { account, person, lines } of posts) {
    if (person === null) continue;
    theirs.set(person, (theirs.get(person) ?? 0) + lines);
    there.set(account, (there.get(account) ?? 0) + lines);
    all += lines;
  }
  return posts.map((post) => {
    const expected =
      post.person === null ? 0 : ((theirs.get(post.person) ?? 0) * (there.get(post.account) ?? 0)) / Math.max(1, all);
    return { ...post, expected, rare: post.person !== null && post.lines <= most && expected >= least };
  });
}
