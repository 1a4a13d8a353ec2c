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
