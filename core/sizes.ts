import type { Minor } from './money';

/** Sizes of lines, whichever side: below 100, then by tens up to a million and over. In whole units of the currency. */
const EDGES = [100, 1_000, 10_000, 100_000, 1_000_000];

/** A band of absolute line amounts in minor units, both ends inclusive; null: open. */
export interface Band {
  key: string;
  from: Minor | null;
  to: Minor | null;
}

/** @param digits decimals of the currency */
export function bands(digits: number): Band[] {
  const edges = EDGES.map((e) => e * 10 ** digits);
  return [null, ...edges].map((from, i) => {
    const next = edges[i];
    const to = next === undefined ? null : next - 1;
    return { key: `${from ?? 0}-${to ?? ''}`, from, to };
  });
}

/** A band by its key, such as "10000-99999". @throws RangeError */
export function bandOf(key: string): Band {
  const match = /^(\d+)-(\d*)$/.exec(key);
  if (!match) throw new RangeError(`no band of amounts ${key}`);
  const [, from, to] = match;
  return { key, from: from === '0' ? null : Number(from), to: to === '' ? null : Number(to) };
}
