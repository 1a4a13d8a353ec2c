import type { Minor } from './money';

/**
 * What is material (ISA 320.10, 320.11; ISA 450.A3): of the whole, of performance, which is less so that what is not found
 * may be there too, and what is clearly trivial, which need not be added up.
 */
export interface Material {
  overall: Minor;
  performance: Minor;
  trivial: Minor;
}

/** Which of them an amount is as large as: nothing at all, no more than trivial, more than that, performance, overall. */
export const ABOVE = ['nothing', 'trivial', 'below performance', 'performance', 'overall'] as const;
export type Above = (typeof ABOVE)[number];

/** An amount held against what is material. What is just as large as materiality is material. */
export function above(amount: Minor, { overall, performance, trivial }: Material): Above {
  const size = Math.abs(amount);
  if (size === 0) return 'nothing';
  if (size >= overall) return 'overall';
  if (size >= performance) return 'performance';
  return size > trivial ? 'below performance' : 'trivial';
}

/** Whether amounts can stand together: none below nothing, each no more than the one before. */
export const standTogether = ({ overall, performance, trivial }: Material): boolean =>
  trivial >= 0 && performance > 0 && performance <= overall && trivial <= performance;
