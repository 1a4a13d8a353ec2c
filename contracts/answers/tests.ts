import { z } from 'zod';
import { GROUPS } from '@/core/tests/test';
import { JUDGEMENTS, TESTS_WHEN } from '../work';
import { about } from './evidence';

const paramSchema = z.strictObject({
  name: z.string(),
  label: z.string(),
  is: z.enum(['amount', 'number', 'words', 'choice']),
  /** What it is where nobody says otherwise; null: what the ledger itself proposes. */
  value: z.union([z.number(), z.string(), z.array(z.string())]).nullable(),
  least: z.number().nullable(),
  most: z.number().nullable(),
  options: z.array(z.string()),
});

export const testsSchema = z.strictObject({
  groups: z.array(z.string()),
  rows: z.array(
    z.strictObject({
      code: z.string(),
      name: z.string(),
      group: z.enum(GROUPS),
      looksFor: z.string(),
      source: z.string(),
      needs: z.array(z.string()),
      parameters: z.array(paramSchema),
    }),
  ),
  /** All run over the companies of each load, by themselves. */
  firstLook: z.boolean(),
  /** Which run by themselves instead, and when; null: none that are set. */
  byThemselves: z
    .strictObject({ tests: z.array(z.string()), scope: z.string(), when: z.enum(TESTS_WHEN), by: z.string() })
    .nullable(),
});

const runState = z.enum(['waiting', 'running', 'done', 'cancelled', 'failed']);
const runHead = {
  ...about,
  title: z.string(),
  tests: z.array(z.string()),
  state: runState,
  progress: z.number(),
  message: z.string().nullable(),
  job: z.number().nullable(),
  byItself: z.boolean(),
  load: z.number(),
  finished: z.string().nullable(),
  /** Hits in all, and how many are open; null until it is done. */
  hits: z.number().nullable(),
  open: z.number().nullable(),
};

export const runsSchema = z.strictObject({ rows: z.array(z.strictObject(runHead)), next: z.string().nullable() });
export const runBegunSchema = z.strictObject({ id: z.number() });

export const runSchema = z.strictObject({
  ...runHead,
  sentence: z.string(),
  /** What was looked at, of each company in the currency of its books; whether the ledger's own sums say the same. */
  population: z.array(
    z.strictObject({
      entity: z.string(),
      name: z.string(),
      currency: z.string(),
      lines: z.number(),
      entries: z.number(),
      debit: z.string(),
      credit: z.string(),
      tie: z.boolean(),
    }),
  ),
  results: z.array(
    z.strictObject({
      code: z.string(),
      name: z.string(),
      group: z.enum(GROUPS),
      looksFor: z.string(),
      source: z.string(),
      hits: z.number(),
      kept: z.number(),
      judged: z.number(),
      ignored: z.number(),
      amounts: z.array(z.strictObject({ currency: z.string(), amount: z.string() })),
      notLookedAt: z.string().nullable(),
      ms: z.number(),
      /** The settings it ran with, in words. */
      settings: z.array(z.strictObject({ label: z.string(), value: z.string() })),
    }),
  ),
  /** The run of the same figure before it. */
  before: z.number().nullable(),
});
export type Run = z.infer<typeof runSchema>;

export const testHitSchema = z.strictObject({
  key: z.string(),
  no: z.number(),
  test: z.string(),
  name: z.string(),
  entity: z.string(),
  /** What it is about, in words. */
  what: z.string(),
  reason: z.string(),
  amount: z.string(),
  currency: z.string(),
  /** How unusual it is, in bits, and of what that is made. */
  score: z.number(),
  parts: z.strictObject({ rarity: z.number(), size: z.number(), degree: z.number() }),
  lines: z.number(),
  subject: z.string().nullable(),
  /** Where its lines are. */
  address: z.string(),
  entry: z.string().nullable(),
  /** The entries behind it, where several are its point: such as those of what is there twice. */
  entries: z.array(z.strictObject({ number: z.string(), id: z.string() })),
  /** Names of all tests that hit the same entry. */
  others: z.array(z.string()),
  together: z.number(),
  account: z.string().nullable(),
  party: z.string().nullable(),
  person: z.string().nullable(),
  journal: z.string().nullable(),
  day: z.string().nullable(),
  judgement: z
    .strictObject({ judgement: z.enum(JUDGEMENTS), note: z.string(), by: z.string(), at: z.string() })
    .nullable(),
  /** Number of the rule that has it ignored. */
  ignored: z.number().nullable(),
});
export type TestHit = z.infer<typeof testHitSchema>;

export const hitsSchema = z.strictObject({ hits: z.array(testHitSchema), next: z.number().nullable() });
export const hitGroupsSchema = z.strictObject({
  rows: z.array(
    z.strictObject({
      entity: z.string(),
      key: z.string().nullable(),
      label: z.string(),
      hits: z.number(),
      tests: z.array(z.string()),
      score: z.number(),
      /** Why its most unusual hit is one, and where the lines of that are. */
      reason: z.string(),
      address: z.string(),
    }),
  ),
});

export const comparedRunsSchema = z.strictObject({
  with: z.number(),
  rows: z.array(z.strictObject({ change: z.enum(['new', 'gone', 'changed']), hit: testHitSchema })),
});

export const ignoredSchema = z.strictObject({
  rows: z.array(
    z.strictObject({
      id: z.number(),
      test: z.string(),
      name: z.string(),
      entity: z.string(),
      alike: z.array(z.strictObject({ word: z.string(), value: z.string() })),
      why: z.string(),
      by: z.string(),
      at: z.string(),
      revoked: z.strictObject({ by: z.string(), at: z.string() }).nullable(),
    }),
  ),
});
