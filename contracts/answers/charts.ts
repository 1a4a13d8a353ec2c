import { z } from 'zod';
import { STATUSES } from '@/core/ledger';
import { PARTY_KINDS } from '@/core/parties';
import { calendarSchema, newEntitySchema } from '../bodies/all';
import { sentencePartSchema } from './head';

export const entitiesSchema = z.strictObject({
  /** The day by which named windows are told. */
  today: z.string(),
  entities: z.array(
    z.strictObject({
      code: z.string(),
      name: z.string(),
      names: z.record(z.string(), z.string()),
      currency: z.string(),
      calendar: calendarSchema,
      yearEnd: z.enum(['derived', 'booked']),
      retainedEarnings: z.string(),
      reach: z
        .strictObject({
          firstPeriod: z.number(),
          lastPeriod: z.number(),
          lastPosted: z.number(),
          firstDay: z.string(),
          lastDay: z.string(),
        })
        .nullable(),
      /** Accounts that documents are on. */
      controls: z.array(z.string()),
      /** The load as of which its books are on the cash basis first; null where they are not kept on it. */
      cashSince: z.number().nullable(),
    }),
  ),
  dimensions: z.array(
    z.strictObject({
      code: z.string(),
      name: z.string(),
      members: z.array(
        z.strictObject({
          code: z.string(),
          name: z.string(),
          parent: z.string().nullable(),
        }),
      ),
    }),
  ),
  newestLoad: z.number(),
});
export type Entities = z.infer<typeof entitiesSchema>;

export const cashBasisSchema = z.strictObject({
  since: z.number().nullable(),
  /** The job that works it out. */
  job: z.number().nullable(),
  /** Documents that cannot be on it, with why. */
  rows: z.array(z.strictObject({ document: z.string(), reason: z.string() })),
  /** There are more. */
  more: z.boolean(),
});
export const cashBasisAskedSchema = z.strictObject({ job: z.number().nullable() });

export const chartRowSchema = z.strictObject({
  account: z.string(),
  name: z.string(),
  names: z.record(z.string(), z.string()),
  type: z.string(),
  statement: z.string(),
  depth: z.number(),
  parent: z.string().nullable(),
  posting: z.boolean(),
  status: z.string(),
  /** Changes of the status that loads made, oldest first. */
  statusHistory: z.array(z.strictObject({ load: z.number(), was: z.string(), status: z.string(), at: z.string() })),
  normal: z.string(),
  flow: z.string().nullable(),
  groups: z.array(z.string()),
  classification: z.string().nullable(),
  currency: z.string().nullable(),
  createdAt: z.string().nullable(),
  createdBy: z.string().nullable(),
  codes: z.record(z.string(), z.string()),
  dims: z.record(z.string(), z.string()),
  similar: z.array(z.string()),
  missing: z.array(z.string()),
  opening: z.string(),
  movement: z.string(),
  closing: z.string(),
  count: z.number(),
});
export type ChartRow = z.infer<typeof chartRowSchema>;

export const chartSchema = z.strictObject({
  entity: z.string(),
  currency: z.string(),
  sentence: z.string(),
  parts: z.array(sentencePartSchema),
  address: z.string(),
  languages: z.array(z.string()),
  rows: z.array(chartRowSchema),
});
export type Chart = z.infer<typeof chartSchema>;

export const memberRowSchema = z.strictObject({
  code: z.string(),
  name: z.string(),
  names: z.record(z.string(), z.string()),
  parent: z.string().nullable(),
  depth: z.number(),
  validFrom: z.string().nullable(),
  validTo: z.string().nullable(),
  groups: z.array(z.string()),
  missing: z.array(z.string()),
  count: z.number(),
  debit: z.string(),
  credit: z.string(),
  movement: z.string(),
});
export type MemberRow = z.infer<typeof memberRowSchema>;

export const dimensionsSchema = z.strictObject({
  entity: z.string(),
  currency: z.string(),
  sentence: z.string(),
  parts: z.array(sentencePartSchema),
  address: z.string(),
  dimensions: z.array(
    z.strictObject({
      code: z.string(),
      name: z.string(),
      languages: z.array(z.string()),
      rows: z.array(memberRowSchema),
    }),
  ),
});

export type Dimensions = z.infer<typeof dimensionsSchema>;

export const holdingSchema = z.strictObject({
  entity: z.string(),
  number: z.string(),
  name: z.string(),
  kind: z.enum(['cash', 'bank']),
  takes: z.string(),
  currency: z.string(),
  bankAccount: z.string().nullable(),
  account: z.string(),
  accountName: z.string(),
  balance: z.string().nullable(),
  balanceCurrency: z.string(),
  /** Why the number of the account and its balance are not shown. */
  withheld: z.string().nullable(),
});
export type Holding = z.infer<typeof holdingSchema>;

export const partySchema = z.strictObject({
  code: z.string(),
  name: z.string(),
  /** Null of one that only lines and documents have named. */
  kind: z.enum(PARTY_KINDS).nullable(),
  groups: z.array(z.string()),
  address: z.string(),
  postalCode: z.string(),
  city: z.string(),
  country: z.string(),
  bankAccount: z.string(),
  taxNumber: z.string(),
  status: z.enum(STATUSES),
  /** Codes of others with the same bank account, the same tax number, and nearly the same name. */
  sameBank: z.array(z.string()),
  sameTax: z.array(z.string()),
  nearName: z.array(z.string()),
});
export type Party = z.infer<typeof partySchema>;
/** withheld: bank accounts and tax numbers are not shown to who sees a part of the books. */
export const partiesSchema = z.strictObject({ withheld: z.boolean(), rows: z.array(partySchema) });

export const calendarsSchema = z.strictObject({
  today: z.string(),
  entities: z.array(
    z.strictObject({
      code: z.string(),
      name: z.string(),
      currency: z.string(),
      /** Of one that lists its periods only that it does; they follow. */
      calendar: z.discriminatedUnion('kind', [
        calendarSchema.options[0],
        calendarSchema.options[1],
        z.strictObject({ kind: z.literal('custom') }),
      ]),
      yearEnd: z.string(),
      years: z.array(
        z.strictObject({
          year: z.number(),
          periods: z.array(
            z.strictObject({
              period: z.string(),
              from: z.string(),
              to: z.string(),
              adjustment: z.boolean(),
              lines: z.number(),
              posted: z.number(),
              debit: z.string(),
            }),
          ),
        }),
      ),
    }),
  ),
});
export type Calendars = z.infer<typeof calendarsSchema>;

export const sourceLinkSchema = z.strictObject({
  entity: z.string(),
  name: z.string(),
  link: z.string(),
});
export type SourceLink = z.infer<typeof sourceLinkSchema>;

export const addedEntitySchema = newEntitySchema.extend({ names: z.record(z.string(), z.string()) });
export const holdingsSchema = z.strictObject({ rows: z.array(holdingSchema) });
export const sourceLinksSchema = z.strictObject({ rows: z.array(sourceLinkSchema) });
