import type { Minor } from '../money';

/** Limits above which somebody has to approve: sizes crowd just beneath them. */

const POWERS = [4, 5, 6, 7, 8, 9, 10, 11].map((power) => 10 ** power);
const BEGINNINGS = [1, 2, 2.5, 5];
/** Round amounts that limits are, in minor units. */
export const LIMITS: readonly Minor[] = POWERS.flatMap((power) => BEGINNINGS.map((b) => b * power));
/** What is within so much of a limit is just beneath it, or just above. */
export const NEAR = 0.05;
/** So many standard deviations more lie beneath a limit than above it. */
export const MORE = 3;

/** How many standard deviations more lie beneath than above, where each could lie on either side (a fair coin; Poisson). */
export const moreBeneath = (beneath: number, above: number): number =>
  beneath + above === 0 ? 0 : (beneath - above) / Math.sqrt(beneath + above);

/** Digits that decide: the bounds of what is near a limit have no more. */
const DIGITS = 4;
const UNIT = 10 ** (DIGITS - 1);

/** The first digits of amounts just beneath and just above each beginning of a limit, as whole numbers of four digits. */
export const NEAR_BEGINNINGS = BEGINNINGS.flatMap((b) => {
  // What is just beneath one, ten, a hundred begins with nines.
  const beneath = b === 1 ? 10 * UNIT : b * UNIT;
  return [
    { b, side: 'beneath' as const, from: Math.round(beneath * (1 - NEAR)), to: beneath },
    { b, side: 'above' as const, from: b * UNIT, to: Math.round(b * UNIT * (1 + NEAR)) },
  ];
});

/** How many amounts lie just beneath each limit and just above it, told from their first four digits. */
export function aroundLimits(
  amounts: readonly { digits: number; first: number; lines: number }[],
): { limit: Minor; beneath: number; above: number }[] {
  const found = new Map<Minor, { beneath: number; above: number }>();
  for (const { digits, first, lines } of amounts)
    for (const { b, side, from, to } of NEAR_BEGINNINGS) {
      if (first < from || first >= to) continue;
      const limit = b * 10 ** (digits - (b === 1 && side === 'beneath' ? 0 : 1));
      const held = found.get(limit) ?? { beneath: 0, above: 0 };
      held[side] += lines;
      found.set(limit, held);
    }
  return LIMITS.flatMap((limit) => {
    const so = found.get(limit);
    return so ? [{ limit, ...so }] : [];
  });
}
