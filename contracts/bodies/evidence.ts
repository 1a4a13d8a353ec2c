import { z } from 'zod';
import { PERCENT, QUANTITY } from '@/core/expectation';
import { richTextSchema } from '../richText';
import { MEASURES } from '../traced';
import { EVIDENCE_KINDS, FINDING_KINDS, FINDING_STATES, TICK_SHAPES } from '../work';
import { about, date, money, prose } from './shared';

/** What is sent of evidence: notes, ticks, points, questions, findings, pins, expectations. */

const NOTE_MAX = 4_000;

/** Plain text, in which @ and an e-mail address speaks to somebody; or the editor's tree. */
export const written = z.union([z.string().trim().min(1, 'write something').max(NOTE_MAX), richTextSchema]);

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

export const newCrossReferenceSchema = z
  .strictObject({ a: z.number().int().positive(), b: z.number().int().positive() })
  .refine(({ a, b }) => a !== b, { path: ['b'], message: 'a pin agrees with itself; name another' });

export const gatherSchema = z.strictObject({ kind: z.enum(EVIDENCE_KINDS), id: z.number().int().positive() });

export const newPinSchema = z.strictObject({
  subject: z.string().min(1).max(6_000),
  measure: z.enum(MEASURES).default('closing'),
  address: about.address,
  label: about.label,
  thread: about.thread,
});
