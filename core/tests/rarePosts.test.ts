import { expect, test } from 'vitest';
import { oddLines, oddTested } from '../testing/oddLedger';
import { rarePoster } from './people';
import { ratedPosts } from './rarePosts';

test('pairs that the picture rings are those that the test finds, over a whole ledger', () => {
  let found = 0;
  for (const seed of [3, 8, 21]) {
    const ledger = oddTested('ONE', oddLines(seed, 'ONE'), {
      window: { by: 'period', from: 2501, to: 2813 },
      status: 'all',
    });
    const counts = new Map<string, { account: string; person: string | null; lines: number }>();
    for (const { account, postedBy, kind } of ledger.lines) {
      if (kind === 'opening') continue;
      const key = `${account}\n${postedBy}`;
      const held = counts.get(key) ?? { account, person: postedBy, lines: 0 };
      counts.set(key, { ...held, lines: held.lines + 1 });
    }
    for (const [most, expected] of [
      [2, 1],
      [9, 3],
    ] as const) {
      const rare = ratedPosts([...counts.values()], { most, expected }).filter((p) => p.rare);
      const hits = rarePoster.plain(ledger, { lines: most, expected });
      expect(rare.map((p) => `${p.account} ${p.person}`).sort()).toEqual(
        hits.map((h) => `${h.at.account} ${h.at.person}`).sort(),
      );
      found += rare.length;
    }
  }
  expect(found).toBeGreaterThan(0);
});
