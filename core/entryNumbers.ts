/** Numbers of entries that count up within a series: a beginning that stays, and digits that run. */
export interface Series {
  /** What all its numbers begin with. */
  beginning: string;
  /** How long they are. */
  length: number;
}

/** Longer digits at the end of a number are made up by machines and run nowhere. */
export const RUNNING_DIGITS = 9;

/** The number of a series at a place in it. */
export const numberAt = ({ beginning, length }: Series, at: number): string =>
  beginning + String(at).padStart(length - beginning.length, '0');

/** Numbers that are missing in a row, from the first to the last. */
export interface Gap {
  from: number;
  to: number;
  /** How many numbers of the series there are before it. */
  before: number;
}

/** So many missing numbers in a row were hardly ever given out. */
const BLOCK = 20;

/**
 * Gaps told apart from jumps: where a series goes on in another block of numbers, as where numbers by hand begin at 90,000,
 * more are missing in a row than there are on one side of it.
 * @param count how many numbers the series has in all
 */
export function jumpsAmong<Any extends Gap>(gaps: readonly Any[], count: number): { gaps: Any[]; jumps: Any[] } {
  const told: { gaps: Any[]; jumps: Any[] } = { gaps: [], jumps: [] };
  let blockAt = 0;
  for (const gap of gaps) {
    const missing = gap.to - gap.from + 1;
    const jumps = missing > BLOCK && missing > Math.min(gap.before - blockAt, count - gap.before);
    if (jumps) blockAt = gap.before;
    told[jumps ? 'jumps' : 'gaps'].push(gap);
  }
  return told;
}
