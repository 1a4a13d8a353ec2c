import { z } from 'zod';
import { LEAF_FORMATS } from '../leaves';
import { howShape } from '../leaving';
import { PANEL_KINDS } from '../panels';
import { richTextSchema } from '../richText';
import { EVERY } from '../schedules';
import { jobSchema } from './jobs';

/** What is answered of what leaves. */

export const exportSchema = z.strictObject({
  id: z.number(),
  title: z.string(),
  path: z.string(),
  /** zip: a bundle. */
  format: z.enum([...LEAF_FORMATS, 'zip']),
  state: jobSchema.shape.state,
  message: z.string().nullable(),
  fileName: z.string().nullable(),
  bytes: z.number().nullable(),
  digest: z.string().nullable(),
  at: z.string(),
  /** The piece of work that makes it; null where it came with a schedule. */
  job: z.number().nullable(),
});
export const exportsSchema = z.strictObject({ rows: z.array(exportSchema) });

export const frozenMadeSchema = z.strictObject({ id: z.string(), address: z.string(), digest: z.string() });

const frozenHead = {
  id: z.string(),
  title: z.string(),
  sentence: z.string(),
  by: z.string(),
  load: z.number(),
  digest: z.string(),
  at: z.string(),
};
export const frozenListSchema = z.strictObject({ rows: z.array(z.strictObject(frozenHead)) });

const cells = z.record(z.string(), z.string().nullable());
const rowSchema = z.strictObject({
  key: z.string(),
  depth: z.number(),
  look: z.enum(['plain', 'heading', 'subtotal', 'total']),
  cells,
});
const columnsSchema = z.array(
  z.strictObject({
    key: z.string(),
    label: z.string(),
    is: z.enum(['text', 'date', 'amount', 'share', 'count', 'quantity']),
    digits: z.number(),
  }),
);

export const frozenSchema = z.strictObject({
  ...frozenHead,
  path: z.string(),
  page: z.string(),
  /** One, or those of a page of panels. */
  sheets: z.array(
    z.strictObject({
      title: z.string(),
      sentence: z.string(),
      facts: z.array(z.array(z.string())),
      columns: columnsSchema,
      rows: z.array(rowSchema),
      total: cells.nullable(),
      proofs: z.array(z.string()),
    }),
  ),
  /** What the same sheet says on the newest load; null where it cannot be asked any more. */
  since: z
    .strictObject({
      load: z.number(),
      moved: z.array(
        z.strictObject({ row: z.string(), column: z.string(), was: z.string().nullable(), now: z.string().nullable() }),
      ),
      all: z.number(),
    })
    .nullable(),
});
export type Frozen = z.infer<typeof frozenSchema>;

const how = z.strictObject(howShape);

export const reportSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  folder: z.string(),
  path: z.string(),
  page: z.string(),
  format: z.enum(LEAF_FORMATS),
  how,
  shared: z.boolean(),
  version: z.number(),
  mine: z.boolean(),
  by: z.string(),
  at: z.string(),
});
export type Report = z.infer<typeof reportSchema>;
export const reportsSchema = z.strictObject({ rows: z.array(reportSchema) });
export const oneReportSchema = reportSchema.extend({
  versions: z.array(z.strictObject({ version: z.number(), path: z.string(), by: z.string(), at: z.string() })),
});

export const packSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  words: richTextSchema.nullable(),
  reports: z.array(z.number()),
  units: z.string().nullable(),
  scope: z.record(z.string(), z.array(z.string())),
  shared: z.boolean(),
  mine: z.boolean(),
  by: z.string(),
  at: z.string(),
});
export type Pack = z.infer<typeof packSchema>;
export const packsSchema = z.strictObject({ rows: z.array(packSchema) });

/** The copies that a pack comes to. */
export const packCopiesSchema = z.strictObject({
  rows: z.array(z.strictObject({ title: z.string(), put: z.record(z.string(), z.array(z.string())) })),
});

const RUN_STATES = ['waiting', 'under way', 'done', 'failed'] as const;

export const scheduleSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  report: z.number().nullable(),
  pack: z.number().nullable(),
  parts: z.array(z.number()),
  formats: z.array(z.enum(LEAF_FORMATS)),
  receivers: z.array(z.strictObject({ id: z.number(), name: z.string() })),
  every: z.enum(EVERY),
  day: z.string().nullable(),
  days: z.array(z.number()),
  time: z.string(),
  zone: z.string(),
  condition: z
    .strictObject({ scope: z.string(), measure: z.string(), is: z.enum(['above', 'below']), amount: z.string() })
    .nullable(),
  paused: z.boolean(),
  nextAt: z.string().nullable(),
  last: z.strictObject({ id: z.number(), state: z.enum(RUN_STATES), reason: z.string(), at: z.string() }).nullable(),
  mine: z.boolean(),
  by: z.string(),
});
export type Schedule = z.infer<typeof scheduleSchema>;
export const schedulesSchema = z.strictObject({ rows: z.array(scheduleSchema) });

export const scheduleRunsSchema = z.strictObject({
  rows: z.array(
    z.strictObject({
      id: z.number(),
      /** For which moment, load or change of a condition it was. */
      for: z.string(),
      state: z.enum(RUN_STATES),
      reason: z.string(),
      at: z.string(),
      endedAt: z.string().nullable(),
      outputs: z.array(
        z.strictObject({
          name: z.string(),
          title: z.string(),
          format: z.enum(LEAF_FORMATS),
          export: z.number().nullable(),
          problem: z.string().nullable(),
          mine: z.boolean(),
        }),
      ),
    }),
  ),
});

const panel = z.strictObject({
  key: z.string(),
  report: z.number(),
  kind: z.enum(PANEL_KINDS),
  ...{ x: z.number(), y: z.number(), w: z.number(), h: z.number() },
});

export const overviewSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  panels: z.array(panel),
  scope: z.record(z.string(), z.array(z.string())),
  shared: z.boolean(),
  mine: z.boolean(),
  by: z.string(),
  at: z.string(),
});
export type Overview = z.infer<typeof overviewSchema>;
export const overviewsSchema = z.strictObject({ rows: z.array(overviewSchema) });

/** What a panel shows: the first rows of its report, and what all of it comes to. */
export const panelShownSchema = z.strictObject({
  name: z.string(),
  sentence: z.string(),
  currency: z.string(),
  load: z.number(),
  columns: columnsSchema,
  rows: z.array(
    rowSchema.extend({
      /** Where what is behind it is read; null where nothing is. */
      page: z.string().nullable(),
      /** Its part of the figure, where there is one. */
      value: z.string().nullable(),
    }),
  ),
  /** How many rows there are, those that are not shown with them. */
  count: z.number(),
  total: cells.nullable(),
  proofs: z.array(z.string()),
  page: z.string(),
  /** What it comes to, for what is shown as one figure: what moved, or how it closes where balances go on from year to year. */
  figure: z.strictObject({ measure: z.enum(['movement', 'closing']), value: z.string() }).nullable(),
  /** The same by period. */
  course: z.array(z.strictObject({ period: z.string(), name: z.string(), value: z.string(), inWindow: z.boolean() })),
});
export type PanelShown = z.infer<typeof panelShownSchema>;

/** What an audit file would lack before it is handed over. */
export const exportCheckSchema = z.strictObject({
  format: z.enum(['saft', 'fec', 'ads']),
  sentence: z.string(),
  currency: z.string(),
  load: z.number(),
  lines: z.number(),
  debit: z.string(),
  credit: z.string(),
  unbalanced: z.array(z.string()),
  unbalancedCount: z.number(),
  missing: z.array(
    z.strictObject({
      field: z.string(),
      /** What it is taken from, as a file of lines calls it. */
      of: z.string(),
      lines: z.number(),
      /** Entry and line of the first one. */
      first: z.string(),
    }),
  ),
  companies: z.number(),
  ok: z.boolean(),
});
export type ExportCheck = z.infer<typeof exportCheckSchema>;

/** Panels that pages elsewhere show. */
export const embedSchema = z.strictObject({
  id: z.number(),
  report: z.string(),
  kind: z.enum(PANEL_KINDS),
  by: z.string(),
  at: z.string(),
  expires: z.string(),
  state: z.enum(['open', 'expired', 'ended']),
  looks: z.number(),
  looked: z.string().nullable(),
  /** What a page elsewhere shows it by. */
  address: z.string(),
  mayEnd: z.boolean(),
});
export type Embed = z.infer<typeof embedSchema>;
export const embedsSchema = z.strictObject({ rows: z.array(embedSchema), origins: z.array(z.string()) });

/** Ways in which sheets leave that are kept under names. */
export const paperTemplatesSchema = z.strictObject({
  rows: z.array(
    z.strictObject({
      id: z.number(),
      name: z.string(),
      format: z.enum(LEAF_FORMATS),
      how: z.record(z.string(), z.string()),
      by: z.string(),
      mayRemove: z.boolean(),
    }),
  ),
});
