import { z } from 'zod';
import { WEEKDAYS } from '@/core/enteredWhen';
import { tieSchema } from './head';

/** What pictures of a figure's lines are drawn from; each part of one leads to its lines by a clause of the scope. */

const drawn = {
  sentence: z.string(),
  load: z.number(),
  /** The figure's own parameters. */
  address: z.string(),
};

const digitsSchema = z.strictObject({
  lines: z.number(),
  digits: z.array(z.strictObject({ digits: z.string(), lines: z.number(), expected: z.number() })),
  /** Mean absolute deviation, and what bands of it say (M. Nigrini, 2012). */
  deviation: z.number(),
  band: z.string(),
  chiSquare: z.number(),
  /** How likely so large a chi-square is by chance. */
  likely: z.number(),
});
/** First digits of amounts beside those that Benford's law expects. */
export const firstDigitsSchema = z.strictObject({ ...drawn, first: digitsSchema, two: digitsSchema });
export type FirstDigits = z.infer<typeof firstDigitsSchema>;

export const enteredTimesSchema = z.strictObject({
  ...drawn,
  times: z.array(
    z.strictObject({
      weekday: z.enum(WEEKDAYS),
      /** From 0 to 23; null where only the day is told. */
      hour: z.number().nullable(),
      entries: z.number(),
      lines: z.number(),
    }),
  ),
  /** Entries of which not even the day is told. */
  untold: z.strictObject({ entries: z.number(), lines: z.number() }),
});
export type EnteredTimes = z.infer<typeof enteredTimesSchema>;

const posts = {
  account: z.string(),
  /** null where the ledger does not say. */
  person: z.string().nullable(),
  lines: z.number(),
  /** Lines that one would expect, if everybody posted everywhere alike. */
  expected: z.number(),
  rare: z.boolean(),
};
export const whoPostsWhereSchema = z.strictObject({
  ...drawn,
  /** A pair is rare with so many lines at the most, where so many would be expected at the least. */
  settings: z.strictObject({ most: z.number(), expected: z.number() }),
  accounts: z.array(z.strictObject({ code: z.string(), name: z.string() })),
  people: z.array(z.string().nullable()),
  pairs: z.array(z.strictObject(posts)),
  rare: z.array(z.strictObject({ ...posts, name: z.string() })),
  notDrawn: z.strictObject({ accounts: z.number(), people: z.number() }),
});
export type WhoPostsWhere = z.infer<typeof whoPostsWhereSchema>;

export const accountMonthsSchema = z.strictObject({
  ...drawn,
  currency: z.string(),
  tie: tieSchema,
  /** Standard deviations beyond which a month is out of line, from so many periods before it. */
  limit: z.number(),
  history: z.number(),
  periods: z.array(z.strictObject({ period: z.string(), name: z.string() })),
  accounts: z.array(
    z.strictObject({
      code: z.string(),
      name: z.string(),
      furthest: z.number(),
      months: z.array(
        z.strictObject({
          period: z.string(),
          amount: z.string(),
          count: z.number(),
          usual: z.string().nullable(),
          /** In standard deviations; below nothing where it is less than usual; null with too short a history. */
          deviations: z.number().nullable(),
        }),
      ),
    }),
  ),
  notDrawn: z.number(),
  tooShort: z.number(),
});
export type AccountMonths = z.infer<typeof accountMonthsSchema>;

export const sizesSchema = z.strictObject({
  ...drawn,
  currency: z.string(),
  /** null where no line is near any. */
  limit: z.string().nullable(),
  bars: z.array(z.strictObject({ from: z.string(), to: z.string(), lines: z.number(), beneath: z.boolean() })),
  limits: z.array(
    z.strictObject({
      limit: z.string(),
      beneath: z.number(),
      above: z.number(),
      /** So many standard deviations more lie beneath it than above. */
      more: z.number(),
      stands: z.boolean(),
    }),
  ),
});
export type Sizes = z.infer<typeof sizesSchema>;
