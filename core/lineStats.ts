import { add, type Minor } from './money';
import type { Value } from './sheet';

/** Statistics of a figure's lines beside their sum: count, quantity, average, smallest, largest. */
export const STATISTICS = ['lines', 'quantity', 'per-unit', 'average', 'smallest', 'largest'] as const;
export type Statistic = (typeof STATISTICS)[number];

export const STATISTIC_LABEL: Record<Statistic, string> = {
  lines: 'Lines',
  quantity: 'Quantity',
  'per-unit': 'Per unit',
  average: 'Average line',
  smallest: 'Smallest line',
  largest: 'Largest line',
};

export const STATISTIC_HINT: Record<Statistic, string> = {
  lines: 'How many lines there are.',
  quantity: 'The quantities of the lines added up, where all are in one unit.',
  'per-unit': 'The amounts of lines that have a quantity, over those quantities.',
  average: 'The sizes of the lines over how many there are, whichever side each is on.',
  smallest: 'The amount of the smallest line, whichever side it is on.',
  largest: 'The amount of the largest line, whichever side it is on.',
};

/** Quantities are kept to so many decimals. */
export const QUANTITY_DIGITS = 6;
const SCALE = 10n ** BigInt(QUANTITY_DIGITS);

/** The lines of a figure: how many, their sizes, and their quantities. */
export interface LineStats {
  lines: number;
  /** Their sizes added up: like the smallest and the largest it takes no account of sides, so that the average is between. */
  size: Minor;
  /** In millionths of the unit. */
  quantity: bigint;
  /** null: there are no quantities; `~several`: they are in several units and do not add up. */
  unit: string | null;
  /** Amount of the lines that have a quantity. */
  priced: Minor;
  /** Amounts without their side; null where there are no lines. */
  smallest: Minor | null;
  largest: Minor | null;
}

const SEVERAL = '~several';

export const noLines = (): LineStats => ({
  lines: 0,
  size: 0,
  quantity: 0n,
  unit: null,
  priced: 0,
  smallest: null,
  largest: null,
});

export function mergeStats(all: Iterable<LineStats>): LineStats {
  const found = noLines();
  for (const r of all) {
    found.lines += r.lines;
    found.size = add(found.size, r.size);
    found.priced = add(found.priced, r.priced);
    found.quantity += r.quantity;
    if (r.unit !== null) found.unit = found.unit === null || found.unit === r.unit ? r.unit : SEVERAL;
    found.smallest = found.smallest === null ? r.smallest : Math.min(found.smallest, r.smallest ?? found.smallest);
    found.largest = found.largest === null ? r.largest : Math.max(found.largest, r.largest ?? found.largest);
  }
  return found;
}

/** A statistic as a value of a sheet; null where there is nothing to say. */
export function statValue(records: LineStats, of: Statistic): Value | null {
  const { unit, quantity } = records;
  const amount = (minor: bigint): Value => ({ is: 'amount', amount: Number(minor) });
  switch (of) {
    case 'lines':
      return { is: 'count', count: records.lines };
    case 'quantity':
      return unit === null || unit === SEVERAL ? null : { is: 'quantity', millionths: quantity };
    case 'per-unit':
      return unit === null || unit === SEVERAL || quantity === 0n
        ? null
        : amount(over(BigInt(records.priced) * SCALE, quantity));
    case 'average':
      return records.lines === 0 ? null : amount(over(BigInt(records.size), BigInt(records.lines)));
    default:
      return records[of] === null ? null : amount(BigInt(records[of]));
  }
}

/** Rounded half away from zero (method.md §1). */
function over(a: bigint, b: bigint): bigint {
  const [size, by] = [a < 0n ? -a : a, b < 0n ? -b : b];
  const rounded = (size * 2n + by) / (by * 2n);
  return a < 0n === b < 0n ? rounded : -rounded;
}

/** 38000000000n → "38000", 1500000n → "1.5" */
export function quantityText(millionths: bigint): string {
  const size = millionths < 0n ? -millionths : millionths;
  const fraction = String(size % SCALE)
    .padStart(QUANTITY_DIGITS, '0')
    .replace(/0+$/, '');
  return `${millionths < 0n ? '-' : ''}${size / SCALE}${fraction ? `.${fraction}` : ''}`;
}
