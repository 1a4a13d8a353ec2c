/** Words that say nothing about what an account is for. */
const NOISE = new Set(['and', 'of', 'the', 'for', 'on', 'to', 'from', 'other', 'misc', 'account', 'a', 'in']);
/** Names share so much of their letter pairs to count as alike. */
const ALIKE = 0.72;

/** Accounts of one type with names so alike that like items may be split over them: each group in order of code. */
export function similarNames(accounts: readonly { code: string; name: string; type: string }[]): string[][] {
  const plain = accounts.map((a) => ({ code: a.code, type: a.type, pairs: pairsOf(words(a.name).join(' ')) }));
  const groups: string[][] = [];
  const grouped = new Set<string>();
  for (const [i, a] of plain.entries()) {
    if (grouped.has(a.code) || a.pairs.size === 0) continue;
    const alike = plain
      .slice(i + 1)
      .filter((b) => b.type === a.type && !grouped.has(b.code) && dice(a.pairs, b.pairs) >= ALIKE);
    if (alike.length === 0) continue;
    const group = [a.code, ...alike.map((b) => b.code)];
    for (const code of group) grouped.add(code);
    groups.push(group);
  }
  return groups;
}

const words = (name: string): string[] =>
  name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
    .split(' ')
    .filter((w) => !NOISE.has(w))
    .sort();

function pairsOf(text: string): Set<string> {
  const pairs = new Set<string>();
  for (let i = 0; i + 1 < text.length; i++) pairs.add(text.slice(i, i + 2));
  return pairs;
}

/** Dice's coefficient of two sets: twice what they share over what they have. */
function dice(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  if (a.size === 0 || b.size === 0) return 0;
  let shared = 0;
  for (const pair of a) if (b.has(pair)) shared += 1;
  return (2 * shared) / (a.size + b.size);
}
