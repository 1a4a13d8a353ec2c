import { add, type Minor, sum } from './money';

/** One member's part in the change of a figure. */
export interface Mover {
  member: string;
  before: Minor;
  now: Minor;
  change: Minor;
  /** It had nothing before, or has nothing now. */
  is: 'there' | 'new' | 'gone';
}

/** The change of a figure told by the members of one dimension. */
export interface Moved {
  /** Largest change first, whichever its sign. */
  movers: Mover[];
  change: Minor;
  /** Σ |change|. */
  gross: Minor;
  /** The least number of members that make 80 % of the gross change; 0 where nothing moved. */
  concentration: number;
  /** Concentration relative to the number of members: the lower, the more telling. Between 0 and 1. */
  weight: number;
}

const TELLING_TENTHS = 8;

/**
 * What moved (method.md §10): each member's change between two questions, ranked.
 * @param before value by member, a member without lines left out
 */
export function whatMoved(before: ReadonlyMap<string, Minor>, now: ReadonlyMap<string, Minor>): Moved {
  const members = [...new Set([...before.keys(), ...now.keys()])];
  const movers = members
    .map((member): Mover => {
      const [a, b] = [before.get(member) ?? 0, now.get(member) ?? 0];
      return {
        member,
        before: a,
        now: b,
        change: add(b, -a),
        is: before.has(member) ? (now.has(member) ? 'there' : 'gone') : 'new',
      };
    })
    .sort((a, b) => Math.abs(b.change) - Math.abs(a.change) || (a.member < b.member ? -1 : 1));
  const gross = sum(movers.map((m) => Math.abs(m.change)));
  let reached = 0;
  let concentration = 0;
  for (const m of movers) {
    if (BigInt(reached) * 10n >= BigInt(gross) * BigInt(TELLING_TENTHS)) break;
    reached = add(reached, Math.abs(m.change));
    concentration += 1;
  }
  return {
    movers,
    change: sum(movers.map((m) => m.change)),
    gross,
    concentration,
    weight: gross === 0 ? 1 : concentration / movers.length,
  };
}

/**
 * Mean and standard deviation of values, rounded once to whole minor units, half away from zero; the deviation is that
 * of the values themselves (divided by their number). Null for fewer than two.
 */
export function spread(values: readonly Minor[]): { mean: Minor; deviation: Minor } | null {
  const n = BigInt(values.length);
  if (n < 2n) return null;
  const total = values.reduce((all, v) => all + BigInt(v), 0n);
  // n²·variance = n·Σv² − (Σv)², exact in whole numbers.
  const squared = n * values.reduce((all, v) => all + BigInt(v) * BigInt(v), 0n) - total * total;
  return { mean: Number(dividedRounded(total, n)), deviation: Number(dividedRounded(rootOf(squared), n)) };
}

function dividedRounded(value: bigint, by: bigint): bigint {
  const size = value < 0n ? -value : value;
  const rounded = (2n * size + by) / (2n * by);
  return value < 0n ? -rounded : rounded;
}

/** The whole square root, by Newton's method. */
function rootOf(value: bigint): bigint {
  if (value < 2n) return value;
  let root = 1n << BigInt((value.toString(2).length + 1) >> 1);
  for (let next = (root + value / root) >> 1n; next < root; next = (root + value / root) >> 1n) root = next;
  return root;
}
