/**
 * Patterns as a person types them: `52*` and `5?10`, where * stands for any run of characters and ? for one, in any
 * case. They are matched by walking the text once, whatever the pattern is made of: one step a character, each keeping
 * the set of places in the pattern that the text so far may have reached (Thompson 1968; as bits, Baeza-Yates and
 * Gonnet 1992). No text makes it go back.
 */
export interface Pattern {
  /** Whether a text fits, and in how many steps that was found out. */
  walk(text: string): { fits: boolean; steps: number };
  test(text: string): boolean;
}

/** Longer patterns are refused where they are written. */
export const PATTERN_MAX = 200;

/** Runs of * are one *. @throws RangeError if it is longer than PATTERN_MAX */
export function patternOf(pattern: string): Pattern {
  if (pattern.length > PATTERN_MAX)
    throw new RangeError(
      `a pattern has at most ${PATTERN_MAX} characters; “${pattern.slice(0, 20)}…” has ${pattern.length}`,
    );
  // Bit i of a set: the text so far may be before the i-th letter of the pattern.
  const letters: string[] = [];
  let stays = 0n;
  for (const letter of folded(pattern)) {
    if (letter === '*') stays |= 1n << BigInt(letters.length);
    else letters.push(letter);
  }
  const end = 1n << BigInt(letters.length);
  const any = letters.reduce((bits, letter, i) => (letter === '?' ? bits | (1n << BigInt(i)) : bits), 0n);
  const taking = new Map<string, bigint>();
  for (const [i, letter] of letters.entries())
    if (letter !== '?') taking.set(letter, (taking.get(letter) ?? any) | (1n << BigInt(i)));
  const walk = (text: string): { fits: boolean; steps: number } => {
    let reached = 1n;
    let steps = 0;
    for (const letter of folded(text)) {
      steps += 1;
      reached = ((reached & (taking.get(letter) ?? any)) << 1n) | (reached & stays);
      if (reached === 0n) break;
    }
    return { fits: (reached & end) !== 0n, steps };
  };
  return { walk, test: (text) => walk(text).fits };
}

/** Letter by letter, in one case. */
const folded = (text: string): string[] => Array.from(text, (letter) => letter.toLowerCase());

/** A pattern with each run of * as one: what fits is the same. */
export const collapsed = (pattern: string): string => pattern.replace(/\*{2,}/g, '*');
