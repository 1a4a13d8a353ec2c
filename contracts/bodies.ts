import { z } from 'zod';
import { isDate } from '@/core/dates';
import { PERCENT, QUANTITY } from '@/core/expectation';
import { ACCOUNT_TYPES } from '@/core/ledger';
import { ASKED_TOGETHER, TOGETHER_MAX } from './askedTogether';
import { FORMATS, LOAD_KINDS, mappingSchema } from './mapping';
import { ownPathOf } from './ownPath';
import { richTextSchema } from './richText';
import { roleSchema } from './roles';
import { KEPT_VIEWS, MEASURES } from './traced';
import {
  ASSERTIONS,
  EVIDENCE_KINDS,
  FINDING_KINDS,
  FINDING_STATES,
  JUDGEMENTS,
  METHODS,
  RIGHTS,
  SAMPLED_OF,
  TESTS_WHEN,
  TICK_SHAPES,
} from './work';

/** Bytes of a body that is no file. */
export const BODY_MAX = 256 * 1024;
export const TOO_LARGE = `The request is too large; it holds at most ${BODY_MAX / 1024} kB`;

/** An address of a screen of our own, to lead back to it; no other place. */
const ownAddress = z
  .string()
  .max(8_000)
  .refine(
    (address) => /^\/(?![/\\])/.test(address) && ownPathOf(address) !== null,
    'give the address of a screen, which begins with /',
  );

/** What each route that changes something takes. */
const date = z.string().refine(isDate, 'write a date as 2026-04-30');
const adjustmentPeriods = z.number().int().min(0).max(10).default(0);

export const calendarSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('monthly'),
    start: z.string().regex(/^(0[1-9]|1[0-2])$/, 'write the first month as 01 to 12'),
    adjustmentPeriods,
  }),
  z.strictObject({
    kind: z.literal('weeks'),
    pattern: z.enum(['4-4-5', '4-5-4', '5-4-4']),
    yearEnds: z.strictObject({
      weekday: z.number().int().min(0).max(6),
      month: z.number().int().min(1).max(12),
      rule: z.enum(['last', 'nearest']),
    }),
    adjustmentPeriods,
  }),
  z.strictObject({
    kind: z.literal('custom'),
    periods: z
      .array(
        z.strictObject({
          year: z.number().int().min(2000).max(2199),
          number: z.number().int().min(1).max(99),
          from: date,
          to: date,
          adjustment: z.boolean().optional(),
        }),
      )
      .min(1)
      .max(2_000),
  }),
]);

export const newEntitySchema = z.strictObject({
  code: z.string().regex(/^[A-Za-z0-9][A-Za-z0-9._-]{0,19}$/, 'a code has up to 20 letters, digits, . - and _'),
  name: z.string().min(1).max(200),
  currency: z.string().regex(/^[A-Z]{3}$/, 'write the currency as in ISO 4217, such as GBP'),
  calendar: calendarSchema,
  yearEnd: z.enum(['derived', 'booked']),
  retainedEarnings: z.string().min(1).max(40),
  names: z.record(z.string(), z.string()).optional(),
});

/** Long enough for a sentence, short enough to be hashed. */
const password = z.string().min(1).max(128, 'a password has at most 128 characters');
const grantedMembers = z.record(z.string(), z.array(z.string().min(1)).min(1));
const grantedAccounts = z.string().min(1).max(2_000).nullable();

export const newPersonSchema = z.strictObject({
  email: z.email().max(200),
  name: z.string().min(1).max(100),
  role: roleSchema,
  password: password.optional().describe('To begin with; without one, a link with which they choose it is answered'),
  entities: z.array(z.string()).nullable().default(null),
  members: grantedMembers
    .default({})
    .describe('Members of dimensions that a person is limited to, with all beneath them, by dimension code'),
  accounts: grantedAccounts.default(null).describe('Accounts that a person is limited to, as a selection'),
});

export const personChangeSchema = z.strictObject({
  name: z.string().min(1).max(100).optional(),
  role: roleSchema.optional(),
  entities: z.array(z.string()).nullable().optional(),
  members: grantedMembers.optional(),
  accounts: grantedAccounts.optional(),
  active: z.boolean().optional().describe('false: suspended; they may come in no longer, and nothing of theirs goes'),
});

/** A grant that is looked through before it is given. */
export const seeAsSchema = z.strictObject({
  role: roleSchema,
  entities: z.array(z.string()).nullable().default(null),
  members: grantedMembers.default({}),
  accounts: grantedAccounts.default(null),
});

export const passwordChangeSchema = z.strictObject({ current: password, password });
export const resetSchema = z.strictObject({ secret: z.string().max(100), password });
const TOKEN_DAYS_MAX = 366;
export const newTokenSchema = z.strictObject({
  name: z.string().trim().min(1, 'say what it is for').max(80),
  days: z.number().int().min(1).max(TOKEN_DAYS_MAX, `a token lasts a year at the most`).default(90),
});

const loadOptions = {
  entity: z.string().optional(),
  kind: z.enum(LOAD_KINDS).default('lines'),
  format: z.enum(FORMATS).optional().describe('Recognised by the content if absent'),
  replaces: z.string().optional().describe('Period range restated by this load, such as 2027.04 to 2027.05'),
  unknownAccounts: z.enum(['create', 'refuse']).optional(),
  use: z
    .enum(['openings', 'check'])
    .optional()
    .describe('What a trial balance is: openings of a ledger without lines, or a check of its balances'),
  emptyCells: z
    .enum(['ask', 'clear', 'keep'])
    .optional()
    .describe(
      'What empty cells of a table of accounts, members or parties do to what is known: ask refuses the load and lists what it would take away',
    ),
  ifStatedDiffers: z
    .enum(['refuse', 'load'])
    .optional()
    .describe('What to do if the file states other totals than it holds'),
} as const;

/** The fields that come with an uploaded file. */
export const newLoadSchema = z.strictObject({
  ...loadOptions,
  mapping: z.string().optional().describe('A column mapping as JSON, or the name of one that was kept'),
});

/** A file alone. */
export const fileSchema = z.strictObject({});

/** A load of a file that was sent before, to be looked at. */
export const loadOfFileSchema = z.strictObject({
  ...loadOptions,
  file: z.string().regex(/^[0-9a-f]{64}$/),
  name: z.string().min(1).max(200),
  mapping: mappingSchema.optional(),
});

export const inspectionFieldsSchema = z.strictObject({
  name: z.string().min(1).max(200).optional().describe('What the file is called'),
  kind: z.enum(LOAD_KINDS).optional(),
  format: z.enum(FORMATS).optional(),
  mapping: mappingSchema.optional(),
  entity: z.string().optional(),
  unknownAccounts: z.enum(['create', 'refuse']).optional(),
});

export const proposalFieldsSchema = z.strictObject({
  name: z.string().min(1).max(200),
  mapping: mappingSchema.optional(),
});

/** A ledger made of one file of lines: what was proposed, as it was corrected. */
export const beginLedgerSchema = z.strictObject({
  file: z.string().regex(/^[0-9a-f]{64}$/),
  name: z.string().min(1).max(200).describe('What the file is called'),
  companies: z
    .array(
      z.strictObject({
        code: newEntitySchema.shape.code,
        name: z.string().trim().min(1).max(200),
        inFile: z.string().optional(),
      }),
    )
    .min(1)
    .max(50),
  inFile: z.array(z.string()).default([]).describe('Companies that the lines name'),
  currency: newEntitySchema.shape.currency,
  yearStart: z.number().int().min(1).max(12).describe('Month in which the fiscal year begins'),
  adjustments: z.number().int().min(0).max(4).default(0),
  yearEnd: z.enum(['derived', 'booked']).default('derived'),
  retained: z.string().min(1).max(40).nullable().describe('Account of retained earnings; null: one is added'),
  accounts: z
    .array(
      z.strictObject({
        code: z.string().min(1).max(60),
        name: z.string().min(1).max(300),
        type: z.enum(ACCOUNT_TYPES),
      }),
    )
    .min(1)
    .max(20_000),
  dimensions: z
    .array(
      z.strictObject({
        column: z.string().min(1).max(200),
        code: z.string().regex(/^[A-Za-z][A-Za-z0-9_-]{0,30}$/, 'a code has letters, digits, - and _, a letter first'),
        name: z.string().min(1).max(100),
        members: z.array(z.string().min(1).max(200)).max(2_000),
      }),
    )
    .max(8)
    .default([]),
  mapping: mappingSchema.nullable(),
  guesses: z
    .array(z.strictObject({ key: z.string().min(1).max(120), says: z.string().min(1).max(400) }))
    .max(500)
    .default([])
    .describe('What was guessed, to be confirmed later'),
});
export const confirmGuessesSchema = z.strictObject({
  key: z.string().optional().describe('What is confirmed; all of it where it is absent'),
});
export const firstOwnerSchema = z.strictObject({
  code: z.string().min(1).max(100).describe('The one-time code that the start command prints'),
  name: z.string().trim().min(1).max(100),
  email: z.email().max(200),
  password,
});

export type NewLoadFields = z.infer<typeof newLoadSchema>;

/** What a piece of evidence is about, and the screen on which it was made, to lead back to it. */
const about = {
  subject: z.string().min(1).max(6_000),
  measure: z.enum(MEASURES).nullable().default(null),
  address: ownAddress.or(z.literal('')).default(''),
  label: z.string().max(300).default(''),
  /** The thread that is being worked on, which gathers it. */
  thread: z.number().int().positive().nullable().default(null),
};
const NOTE_MAX = 4_000;
/** Plain text, in which @ and an e-mail address speaks to somebody; or the editor's tree. */
const written = z.union([z.string().trim().min(1, 'write something').max(NOTE_MAX), richTextSchema]);

export const newNoteSchema = z
  .strictObject({ ...about, subject: about.subject.optional(), body: written, replyTo: z.number().int().optional() })
  .refine((n) => n.subject !== undefined || n.replyTo !== undefined, {
    path: ['subject'],
    message: 'say what it is about, or which note it answers',
  });
export const noteChangeSchema = z.strictObject({ body: written.optional() }).nullish();

/** Subjects that are ticked at once. */
export const TICKED_MAX = 1_000;
export const newTicksSchema = z.strictObject({
  subjects: z.array(about.subject).min(1).max(TICKED_MAX),
  mark: z.string().min(1).max(40),
  measure: about.measure,
  address: about.address,
  labels: z.array(z.string().max(300)).max(TICKED_MAX).default([]).describe('What each is called on the screen'),
  thread: about.thread,
});
export const tickMarksSchema = z.strictObject({
  marks: z
    .array(
      z.strictObject({
        code: z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, 'write a code of small letters, such as agreed-to-bank'),
        shape: z.enum(TICK_SHAPES),
        meaning: z.string().trim().min(1, 'say what it means').max(200),
        retired: z.boolean().default(false),
      }),
    )
    .min(1)
    .max(30)
    .refine((marks) => new Set(marks.map((m) => m.code)).size === marks.length, 'each code is there once')
    .refine((marks) => {
      const used = marks.filter((m) => !m.retired).map((m) => m.shape);
      return new Set(used).size === used.length;
    }, 'marks in use are told apart by their shapes; give each its own'),
});

export const newPointSchema = z.strictObject({ ...about, body: written });
export const pointChangeSchema = z.strictObject({
  state: z.enum(['open', 'answered', 'cleared']),
  body: written.optional(),
});
export const newQuestionSchema = z.strictObject({
  ...about,
  to: z.union([z.number().int().positive(), z.string().min(1).max(200)]).describe('A person by number or e-mail'),
  body: written,
});
export const answerSchema = z.strictObject({ body: written });

/** The fields beside a file that is attached. */
export const attachmentSchema = z.strictObject({
  subject: about.subject,
  label: about.label,
  address: about.address,
  thread: z.coerce.number().int().positive().nullable().default(null),
});
/** A mention or an answer that was seen; or everything that moved until now. */
export const deskSeenSchema = z.union([
  z.strictObject({ kind: z.enum(EVIDENCE_KINDS), id: z.number().int().positive() }),
  z.strictObject({ moved: z.literal(true) }),
]);

const prose = z.union([z.string().trim().max(8_000), richTextSchema]);

/** Who may do what with a thread or a kept sentence. */
export const sharingSchema = z.strictObject({
  everybody: z.enum(RIGHTS).describe('What everybody may who is not named'),
  people: z.array(z.strictObject({ id: z.number().int().positive(), may: z.enum(RIGHTS) })).max(500),
});
const findingShape = {
  title: z.string().trim().min(1, 'say what was found').max(300),
  kind: z.enum(FINDING_KINDS),
  amount: z
    .strictObject({ subject: about.subject, measure: z.enum(MEASURES).default('closing') })
    .nullable()
    .default(null)
    .describe('The figure that it comes to'),
  cause: prose.default(''),
  effect: prose.default(''),
  recommendation: prose.default(''),
  owner: z.number().int().positive().nullable().default(null),
  due: date.nullable().default(null),
};
export const newFindingSchema = z.strictObject({
  ...findingShape,
  subjects: z.array(about.subject).min(1, 'say what it is about').max(50),
  address: about.address,
  thread: about.thread,
});
export const findingChangeSchema = z.strictObject({
  title: findingShape.title.optional(),
  kind: findingShape.kind.optional(),
  amount: findingShape.amount.removeDefault().optional(),
  cause: prose.optional(),
  effect: prose.optional(),
  recommendation: prose.optional(),
  owner: findingShape.owner.removeDefault().optional(),
  due: findingShape.due.removeDefault().optional(),
  state: z.enum(FINDING_STATES).optional(),
});

const money = z.string().trim().min(1).max(40);

const percent = z.string().trim().regex(PERCENT, 'write percents as 3 or -2.5').default('0');
const reckoned = z.string().trim().regex(QUANTITY, 'write a number as 1200 or 41.35');
const expectationRule = z.discriminatedUnion('by', [
  z.strictObject({ by: z.literal('year-before'), percent }),
  z.strictObject({ by: z.literal('average'), periods: z.number().int().min(1).max(36), percent }),
  z.strictObject({
    by: z.literal('share'),
    of: about.subject.describe('The other figure: figure:<address>'),
    measure: z.enum(MEASURES),
    label: about.label,
    percent,
  }),
  z.strictObject({ by: z.literal('quantity'), quantity: reckoned, price: reckoned }),
  z.strictObject({ by: z.literal('own'), amount: money }),
]);
const expectationShape = {
  rule: expectationRule,
  reason: z.string().trim().min(1, 'say why it should be so').max(2_000),
  least: money.describe('A difference of so much needs explaining'),
};
/** What a figure should be, said before it is explained. */
export const newExpectationSchema = z.strictObject({
  ...about,
  ...expectationShape,
  measure: z.enum(MEASURES).default('movement'),
});
export const expectationChangeSchema = z.strictObject({
  rule: expectationShape.rule.optional(),
  reason: expectationShape.reason.optional(),
  least: expectationShape.least.optional(),
  parts: z
    .array(
      z
        .strictObject({
          text: z.string().trim().min(1, 'say what it is').max(300),
          subject: about.subject.optional(),
          measure: z.enum(MEASURES).optional(),
          amount: money.optional(),
        })
        .refine((p) => (p.subject === undefined) !== (p.amount === undefined), {
          message: 'a part has a figure, or an amount of its own',
        }),
    )
    .max(50)
    .optional()
    .describe('All that explains the difference'),
  conclusion: z.string().trim().max(4_000).optional(),
});
const rate = z.number().gt(0).lt(1);
/** What a sample is drawn from, and how. */
const sampleShape = {
  scope: z.string().min(1).max(6_000).describe('The figure that is drawn from: figure:<address>, or the address alone'),
  of: z.enum(SAMPLED_OF),
  method: z.enum(METHODS),
  size: z.number().int().positive().max(5_000).optional(),
  interval: money.optional().describe('Monetary unit: as wanted, instead of reckoned'),
  tolerable: money.optional().describe('Tolerable misstatement'),
  expected: money.optional().describe('Expected misstatement'),
  confidence: z.number().gt(0.5).lt(1).optional().describe('0.95 where nothing is said'),
  tolerableRate: rate.optional().describe('Tolerable rate of deviations, as a part of one'),
  expectedRate: z.number().min(0).lt(1).optional(),
  certain: z.boolean().optional().describe('Monetary unit: whether items of an interval or more are taken for certain'),
  strata: z.array(money).min(1).max(20).optional().describe('The least amount of each stratum but the first, rising'),
  subjects: z.array(about.subject).min(1).max(5_000).optional().describe('What is chosen by hand'),
  seed: z.string().trim().min(1).max(100).optional(),
};
export const newSampleSchema = z.strictObject({
  ...sampleShape,
  title: z.string().trim().max(200).optional(),
  attributes: z.array(z.string().trim().min(1).max(100)).max(20).optional(),
  label: about.label,
  address: about.address,
  thread: about.thread.optional(),
});
export const testedItemSchema = z.strictObject({
  subject: about.subject,
  found: money.nullable().optional().describe('The amount that it should be; null: not told yet'),
  attributes: z.record(z.string().max(100), z.boolean()).optional(),
  note: z.string().trim().max(4_000).optional(),
});
export const testedItemsSchema = z.union([testedItemSchema, z.array(testedItemSchema).min(1).max(5_000)]);
export const replacedItemSchema = z.strictObject({
  subject: about.subject,
  by: about.subject,
  why: z.string().trim().min(1, 'say why').max(1_000),
});
export const sampleChangeSchema = z.strictObject({
  title: z.string().trim().min(1).max(200).optional(),
  attributes: z.array(z.string().trim().min(1).max(100)).max(20).optional(),
  conclusion: z.string().trim().max(8_000).optional(),
});

const testCode = z.string().min(1).max(40);
/** Tests to run: all where none are named; settings by test, amounts as text, in the currency of each company's books. */
export const newTestRunSchema = z.strictObject({
  tests: z.array(testCode).min(1).max(100).optional(),
  scope: z
    .string()
    .min(1)
    .max(6_000)
    .describe('The figure whose lines are looked at: figure:<address>, or the address alone'),
  parameters: z
    .record(
      testCode,
      z.record(z.string().max(40), z.union([z.number(), z.string().max(200), z.array(z.string().max(100)).max(200)])),
    )
    .optional(),
  title: z.string().trim().max(200).optional(),
  address: about.address,
  thread: about.thread.optional(),
});
export const judgedHitSchema = z
  .strictObject({
    judgement: z.enum(JUDGEMENTS),
    note: z.string().trim().max(4_000).default(''),
  })
  .refine(({ judgement, note }) => judgement !== 'explained' || note !== '', { path: ['note'], message: 'say why' });
export const newIgnoredSchema = z.strictObject({
  run: z.number().int().positive(),
  key: z.string().min(1).max(64).describe('The hit that others are alike'),
  alike: z
    .array(z.enum(['account', 'party', 'person', 'journal']))
    .min(1)
    .describe('What they have in common with it'),
  why: z.string().trim().min(1, 'say why').max(1_000),
});
export const testsByThemselvesSchema = z
  .union([
    z.strictObject({
      tests: z.array(testCode).min(1).max(100),
      scope: z.string().min(1).max(6_000),
      when: z.enum(TESTS_WHEN).default('load'),
    }),
    z.strictObject({
      firstLook: z.literal(true).describe('A first look at the companies of each load, with all tests'),
    }),
  ])
  .nullable();

export const newCrossReferenceSchema = z
  .strictObject({ a: z.number().int().positive(), b: z.number().int().positive() })
  .refine(({ a, b }) => a !== b, { path: ['b'], message: 'a pin agrees with itself; name another' });
export const signOffSchema = z.strictObject({ as: z.enum(['preparer', 'reviewer']) });
export const reopenSchema = z.strictObject({
  reason: z.string().trim().min(1, 'say why it is opened again').max(2_000),
});
export const rollForwardSchema = z.strictObject({
  threads: z.array(z.number().int().positive()).min(1).max(200),
  from: z.string().max(20),
  to: z.string().max(20),
  folder: z.string().trim().max(200).default(''),
});
export const gatherSchema = z.strictObject({ kind: z.enum(EVIDENCE_KINDS), id: z.number().int().positive() });

/** So many figures are asked for at once. */
const FIGURES_MAX = 200;
export const figuresSchema = z.strictObject({
  figures: z
    .array(
      z.strictObject({
        scope: z.string().max(6_000).describe('Scope parameters, as in a query: entity=…&accounts=…'),
        measure: z.enum(MEASURES).default('closing'),
      }),
    )
    .min(1)
    .max(FIGURES_MAX),
});

/** What a screen asks for beside each other. */
export const askedTogetherSchema = z.strictObject({
  asked: z
    .array(
      z.strictObject({
        route: z.enum(ASKED_TOGETHER),
        path: z.record(z.string(), z.string().max(400)).default({}),
        query: z.string().max(16_000).default(''),
      }),
    )
    .min(1)
    .max(TOGETHER_MAX),
});

export const newPinSchema = z.strictObject({
  subject: z.string().min(1).max(6_000),
  measure: z.enum(MEASURES).default('closing'),
  address: about.address,
  label: about.label,
  thread: about.thread,
});

/** One step of a way, as the screen on which it was taken knows it. */
export const newStepSchema = z.strictObject({
  /** The address of its screen. */
  address: ownAddress,
  label: z.string().min(1).max(300),
  view: z.enum(KEPT_VIEWS),
  /** What a split is by. */
  by: z.string().max(200).optional(),
  /** figure:<address>; of an entry, entry:<id>. */
  subject: z.string().min(1).max(6_000),
  /** What was traced; absent for a first sheet, which has no one figure. */
  measure: z.enum(MEASURES).optional(),
});

const threadName = z.string().trim().min(1, 'give it a name').max(200);
/** A way has a first sheet and at most so many steps. */
const STEPS_MAX = 40;
const way = z.array(newStepSchema).min(1).max(STEPS_MAX);

export const newThreadSchema = z.strictObject({ name: threadName, steps: way });
export const moreStepsSchema = z.strictObject({ steps: way });
export const threadChangeSchema = z.strictObject({
  name: threadName.optional(),
  reference: z.string().trim().max(40).optional(),
  purpose: prose.optional(),
  assertions: z.array(z.enum(ASSERTIONS)).max(ASSERTIONS.length).optional(),
  result: prose.optional(),
  conclusion: prose.optional(),
  folder: z.string().trim().max(200).optional(),
  reviewer: z.number().int().positive().nullable().optional(),
});
export const stepChangeSchema = z.strictObject({
  label: z.string().trim().min(1).max(300).optional(),
  note: z.string().trim().max(4_000).optional(),
});

const decimal = z.string().regex(/^\d{1,13}(\.\d{1,4})?$/, 'write an amount as 50000 or 50000.00');

const signed = z.string().regex(/^-?\d{1,13}(\.\d{1,4})?$/, 'write an amount as 50000 or -50000.00');
const conditionName = z.string().trim().min(1, 'say what it means').max(80);

/** A condition of one's own: lines that a scope's clauses ask for, or accounts whose balance is within limits. */
const conditionSchema = z.discriminatedUnion('on', [
  z.strictObject({
    on: z.literal('lines'),
    name: conditionName,
    query: z
      .string()
      .min(1, 'say which lines')
      .max(2_000)
      .describe('Clauses of a scope, such as min=5000&postedBy=mhald'),
  }),
  z.strictObject({
    on: z.literal('accounts'),
    name: conditionName,
    accounts: z.string().min(1).max(2_000).describe('An account selection, such as 15*'),
    measure: z.enum(['closing', 'movement']),
    least: signed.nullable().describe('Debit is positive'),
    most: signed.nullable(),
  }),
]);
const CONDITIONS_MAX = 30;

/** Which rows a sheet marks; null switches a rule off. Amounts are in the currency of the sheet. */
export const markRulesSchema = z.strictObject({
  change: z.strictObject({ amount: decimal, percent: z.number().int().min(0).max(10_000) }).nullable(),
  wrongSide: z.boolean(),
  silent: z.strictObject({ periods: z.number().int().min(1).max(24) }).nullable(),
  material: decimal.nullable(),
  share: z.strictObject({ points: z.number().min(0.1).max(100) }).nullable(),
  own: z.array(conditionSchema).max(CONDITIONS_MAX).default([]).describe('Conditions of the workspace’s own'),
});

export const signInSchema = z.strictObject({
  email: z.string().max(200),
  password: z.string().max(200),
  code: z.string().max(20).optional().describe('Of the second factor, where there is one'),
});
export const secondFactorChangeSchema = z.strictObject({
  code: z.string().min(1).max(20),
  off: z.boolean().default(false).describe('true: take it away'),
});
export const secondFactorRuleSchema = z.strictObject({ required: z.enum(['nobody', 'owners', 'everybody']) });

const language = z
  .string()
  .regex(/^[a-z]{2,3}$/, 'write a language as nb or en')
  .nullable()
  .default(null);

export const accountNameSchema = z.strictObject({ entity: z.string(), language, name: z.string().max(200).nullable() });
export const memberNameSchema = z.strictObject({ language, name: z.string().max(200).nullable() });

export const holdingSchema = z.strictObject({
  entity: z.string(),
  number: z.string().trim().min(1).max(40),
  name: z.string().trim().min(1).max(200),
  kind: z.enum(['cash', 'bank']),
  takes: z.enum(['receipts', 'payments', 'both']).default('both'),
  account: z.string().min(1),
  currency: z.string().optional(),
  bankAccount: z.string().max(60).optional(),
});

export const connectionSchema = z.strictObject({
  name: z.string().trim().min(1).max(100),
  url: z.url().max(500),
  entity: z.string().optional(),
  everyMinutes: z.number().int().min(1).max(10_080).nullable().optional(),
  privateAllowed: z.boolean().optional().describe('Whether it may lie inside this machine or a private network'),
});
export const connectionChangeSchema = z.strictObject({ privateAllowed: z.boolean() });

const rowKey = z.string().regex(/^[\w~./-]{1,80}$/, 'a row key has letters, digits, . _ / and -');
const label200 = z.string().trim().min(1).max(200);
const inLanguages = z.record(z.string().regex(/^[a-z]{2,3}$/, 'a language is an ISO 639 code, such as nb'), label200);
const labelled = {
  key: rowKey,
  label: label200,
  names: inLanguages.optional().describe('The label in other languages'),
  depth: z.number().int().min(0).max(8),
};
const emphasis = z.enum(['subtotal', 'total']).optional();

/** An outline as it is written, exported and imported. */
export const outlineSchema = z.strictObject({
  code: z.string().regex(/^[a-z0-9][a-z0-9-]{0,39}$/, 'a code has small letters, digits and -'),
  name: label200,
  names: inLanguages.optional(),
  kind: z.enum(['income', 'balance', 'cashflow', 'position']),
  rows: z
    .array(
      z.discriminatedUnion('is', [
        z.strictObject({ ...labelled, is: z.literal('caption') }),
        z.strictObject({
          ...labelled,
          is: z.literal('accounts'),
          accounts: z.string().min(1).max(8_000),
          sign: z.enum(['debit', 'credit']),
          members: z
            .record(z.string(), z.array(z.string().min(1).max(200)).min(1).max(200))
            .optional()
            .describe('Members of dimensions, as scope parameters have them: only what is booked on these'),
        }),
        z.strictObject({
          ...labelled,
          is: z.literal('formula'),
          terms: z.array(z.strictObject({ row: rowKey, times: z.union([z.literal(1), z.literal(-1)]) })).max(200),
          emphasis,
        }),
        z.strictObject({ ...labelled, is: z.literal('ratio'), over: rowKey, under: rowKey }),
        z.strictObject({ ...labelled, is: z.literal('result'), emphasis }),
      ]),
    )
    .min(1)
    .max(500),
  shareOf: rowKey.optional(),
});

export const keptOutlineSchema = z.strictObject({ entity: z.string(), outline: outlineSchema });

const versionName = z
  .string()
  .trim()
  .min(1, 'give the version a name')
  .max(80)
  .regex(/^[^/\\,|]+$/, 'a version’s name has no / \\ , or |');
const fiscalYear = z.number().int().min(1900).max(2200);
/** A year of a large chart has so many cells; more than this is brought in as a file. */
const CELLS_MAX = 3_500;

/** Cells of a budget as they were written; amounts are debit positive, an empty one removes the cell. */
export const budgetEditSchema = z.strictObject({
  entity: z.string(),
  year: fiscalYear,
  /** dimension:member, one for each dimension; none: the whole company. */
  unit: z.array(z.string().max(200)).max(8),
  /** The load as of which the sheet was read. */
  asOf: z.number().int().min(0),
  cells: z
    .array(
      z.strictObject({
        account: z.string(),
        period: z.string(),
        amount: z.string().regex(/^$|^-?\d{1,13}(\.\d{1,4})?$/, 'write an amount as 1200.50'),
      }),
    )
    .min(1)
    .max(CELLS_MAX, `keep at most ${CELLS_MAX} cells at once, or bring the budget in as a file`),
});

export const budgetCopySchema = z.strictObject({
  entity: z.string(),
  version: versionName,
  year: fiscalYear,
  from: z.strictObject({ version: z.string(), year: fiscalYear }),
});

export const budgetVersionSchema = versionName;

export const sheetNameSchema = z.string().regex(/^[a-z0-9-]{1,60}$/, 'that is no sheet');
const columnKey = z.string().min(1).max(400);
const COLUMNS_MAX = 80;

/** How a person has arranged the columns of a sheet; columns that it does not name are as they come. */
export const columnLayoutSchema = z.strictObject({
  order: z.array(columnKey).max(COLUMNS_MAX),
  hidden: z.array(columnKey).max(COLUMNS_MAX),
  /** Of the columns that a sheet has on request, those that are shown. */
  shown: z.array(columnKey).max(COLUMNS_MAX),
  /** Pixels. */
  widths: z.record(columnKey, z.number().int().min(40).max(900)),
  /** Whether all columns are made to fit the window. */
  fit: z.boolean(),
});
export type ColumnLayout = z.infer<typeof columnLayoutSchema>;

const keptName = z.string().trim().min(1, 'give it a name').max(120);
const folder = z.string().trim().max(80);

/** A sentence to be kept by name, as the address of its sheet has it. */
export const newKeptScopeSchema = z.strictObject({
  name: keptName,
  folder: folder.default('').describe('The area of work under which it lies'),
  place: z.enum(['trial-balance', 'statements', 'lines']),
  query: z.string().max(16_000),
  shared: z.boolean().default(false),
  /** Whether its place is to open with it. */
  opens: z.boolean().default(false),
  replaces: z
    .boolean()
    .optional()
    .describe('true: in place of the sentence of that name, which keeps its folder and who sees it'),
});
export const keptScopeChangeSchema = z.strictObject({
  name: keptName.optional(),
  folder: folder.optional(),
  query: z.string().max(16_000).optional().describe('Another shape of it: what it asks from now on'),
  shared: z.boolean().optional(),
  opens: z.boolean().optional(),
  atHand: z.boolean().optional().describe('Whether it stands among the places; of any sentence that one sees'),
});

/** Up to how many days past each band of age goes; the last has no end. */
export const ageBandsSchema = z.strictObject({ edges: z.array(z.number().int().min(1).max(9_999)).min(1).max(9) });

/** What numbers of entries tell of where these come from: the first pattern that fits does. */
export const entryOriginsSchema = z.strictObject({
  rows: z
    .array(
      z.strictObject({
        /** With * for any characters and ? for one. */
        pattern: z.string().trim().min(1).max(100),
        name: z.string().trim().min(1).max(100),
        /** Where its detail is: in the document that it was booked from, or in the entry itself. */
        leads: z.enum(['document', 'entry']),
      }),
    )
    .max(60),
});

/** Where the entries of a company are found in the ledger that they came from; empty: nowhere. */
export const sourceLinkSchema = z.strictObject({
  entity: z.string().min(1).max(40),
  link: z
    .string()
    .trim()
    .max(500)
    .refine(
      (link) => link === '' || isEntryAddress(link),
      'write an address that begins with http:// or https:// and has {entry} in it',
    ),
});

function isEntryAddress(link: string): boolean {
  if (!/^https?:\/\//.test(link) || !link.includes('{entry}')) return false;
  // What is put in place of the words must not decide where one is sent.
  const { host, username } = URL.canParse(link) ? new URL(link) : { host: '{', username: '' };
  return username === '' && !/[{}%]/.test(host);
}
