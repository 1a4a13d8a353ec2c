import type { ExpectationRule } from '@/contracts/work';
import type { Minor } from '@/core/money';
import type { Db } from './db';

/** What figures are expected to be. */

/** Something that explains a difference: a figure, whose amount is asked when it is told, or an amount that somebody typed. */
export interface ExplainedPart {
  text: string;
  subject: string | null;
  measure: string | null;
  /** null: that of the figure. */
  amount: Minor | null;
}

export interface ExpectationWords {
  rule: ExpectationRule;
  reason: string;
  least: Minor;
  currency: string;
  parts: ExplainedPart[];
  conclusion: string;
}

/** The same as it is handed to the database. */
const kept = ({ rule, parts, ...words }: Partial<ExpectationWords>) => ({
  ...words,
  ...(rule === undefined ? {} : { rule: JSON.stringify(rule) }),
  ...(parts === undefined ? {} : { parts: JSON.stringify(parts) }),
});

export const updateExpectation = (db: Db, id: number, change: Partial<ExpectationWords>): Promise<number> =>
  db('expectation')
    .where({ id })
    .update({ ...kept(change), changed_at: new Date() });
