/** Words that say nothing about what an account is for, or what a company does. */
const NOISE = new Set(
  'and of the for on to from other misc account a in ltd limited plc llp inc llc corp co company as asa ab oy gmbh ag kg sa sarl sas bv nv'.split(
    ' ',
  ),
);
/** Names share so much of their letter pairs to count as alike. */
const ALIKE = 0.72;
/** Names are held against those that have a word with the same first letters. */
const BEGINNING = 3;
/** A beginning that more names share than this says nothing of any two of them. */
const SHARED_MAX = 400;

/**
 * Accounts or parties of one type with names so alike that like items may be split over them: each group in order of
 * code. Only names that share the beginning of a word that is not everybody's are looked at.
 */
export function similarNames(named: readonly { code: string; name: string; type: string }[]): string[][] {
  const plain = named.map((a) => {
    const own = words(a.name);
    return { code: a.code, type: a.type, words: own, pairs: pairsOf(own.join(' ')) };
  });
  const beginning = new Map<string, number[]>();
  const keysOf = (own: readonly string[]): Set<string> => new Set(own.map((w) => w.slice(0, BEGINNING)));
  for (const [i, a] of plain.entries())
    for (const key of keysOf(a.words)) {
      const list = beginning.get(key);
      if (list) list.push(i);
      else beginning.set(key, [i]);
    }
  const groups: string[][] = [];
  const grouped = new Set<string>();
  for (const [i, a] of plain.entries()) {
    if (grouped.has(a.code) || a.pairs.size === 0) continue;
    const near = new Set<number>();
    for (const key of keysOf(a.words)) {
      const sharing = beginning.get(key) ?? [];
      if (sharing.length <= SHARED_MAX) for (const at of sharing) if (at > i) near.add(at);
    }
    const alike = [...near]
      .sort((x, y) => x - y)
      .flatMap((at) => plain[at] ?? [])
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
