import { z } from 'zod';
import { LEAF_FORMATS } from '../leaves';
import { howShape } from '../leaving';
import { ownPathOf } from '../ownPath';
import { PANEL_COLUMNS, PANEL_KINDS } from '../panels';
import { richTextSchema } from '../richText';
import { EVERY } from '../schedules';
import { MEASURES } from '../traced';

/** What is sent of what leaves. */

const sheetPath = z
  .string()
  .min(1)
  .max(16_000)
  .describe('Path and query of a sheet of this interface, such as /trial-balance?entity=KSF');
const ownPage = z
  .string()
  .max(16_000)
  .refine((page) => ownPathOf(page) !== null, 'give the path of a page, which begins with /');
const name = z.string().trim().min(1, 'give it a name').max(120);
const { page: _page, preview: _preview, ...kept } = howShape;
const { title: _title, ...ofTemplate } = kept;

export const newExportSchema = z.strictObject({ path: sheetPath, format: z.enum(LEAF_FORMATS), ...howShape });

export const newFrozenSchema = z.strictObject({
  path: sheetPath,
  page: ownPage.optional(),
  title: z.string().trim().min(1).max(200).optional(),
});

export const newReportSchema = z.strictObject({
  name,
  folder: z.string().trim().max(80).default(''),
  path: sheetPath,
  page: ownPage,
  format: z.enum(LEAF_FORMATS).default('xlsx'),
  how: z.strictObject(kept).default({}),
  shared: z.boolean().default(false),
});

export const reportChangeSchema = z.strictObject({
  name: name.optional(),
  folder: z.string().trim().max(80).optional(),
  path: sheetPath.optional(),
  page: ownPage.optional(),
  format: z.enum(LEAF_FORMATS).optional(),
  how: z.strictObject(kept).optional(),
  shared: z.boolean().optional(),
  restored: z.literal(true).optional().describe('Brings back what was taken away'),
});

/** What a pack puts in place of each report's own. */
const packScope = z.record(
  z
    .string()
    .regex(
      /^(entity|from|to|window|status|basis|set|adjustments|dim\..+)$/,
      'a pack drives companies, the window, or a member',
    ),
  z.array(z.string().min(1).max(200)).max(50),
);

const pack = {
  name,
  words: richTextSchema.nullable(),
  reports: z.array(z.number().int().positive()).min(1).max(40),
  units: z
    .string()
    .regex(/^dim:.+$|^entity$/, 'write dim:CODE, or entity')
    .nullable(),
  scope: packScope,
  shared: z.boolean(),
};
export const newPackSchema = z.strictObject({
  ...pack,
  words: pack.words.default(null),
  units: pack.units.default(null),
  scope: pack.scope.default({}),
  shared: pack.shared.default(false),
});
export const packChangeSchema = z.strictObject({ ...pack, restored: z.literal(true) }).partial();

const time = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'write a time as 07:30');

const schedule = {
  name,
  report: z.number().int().positive().nullable(),
  pack: z.number().int().positive().nullable(),
  parts: z.array(z.number().int().positive()).max(40).describe('Of a pack the reports that are sent; none: all'),
  formats: z.array(z.enum(LEAF_FORMATS)).min(1).max(4),
  receivers: z.array(z.number().int().positive()).min(1).max(200),
  every: z.enum(EVERY),
  day: z.iso.date().nullable(),
  days: z
    .array(z.number().int().min(0).max(31))
    .max(31)
    .describe('Of a week 1 (Monday) to 7; of a month 1 to 31, 0 for its last'),
  time,
  zone: z.string().max(80).refine(isZone, 'name a time zone, such as Europe/London'),
  condition: z
    .strictObject({
      scope: z.string().min(1).max(6_000),
      measure: z.enum(MEASURES),
      is: z.enum(['above', 'below']),
      amount: z.string().regex(/^-?\d{1,13}(\.\d{1,4})?$/, 'write an amount as 50000 or -50000.00'),
    })
    .nullable(),
  paused: z.boolean(),
};
export const newScheduleSchema = z.strictObject({
  ...schedule,
  report: schedule.report.default(null),
  pack: schedule.pack.default(null),
  parts: schedule.parts.default([]),
  day: schedule.day.default(null),
  days: schedule.days.default([]),
  time: time.default('07:00'),
  zone: schedule.zone.default('UTC'),
  condition: schedule.condition.default(null),
  paused: z.boolean().default(false),
});
export const scheduleChangeSchema = z.strictObject(schedule).omit({ report: true, pack: true }).partial();

function isZone(zone: string): boolean {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: zone }) !== null;
  } catch {
    return false;
  }
}

const panel = z.strictObject({
  key: z.string().regex(/^[a-z0-9-]{1,40}$/),
  report: z.number().int().positive(),
  kind: z.enum(PANEL_KINDS),
  x: z
    .number()
    .int()
    .min(0)
    .max(PANEL_COLUMNS - 1),
  y: z.number().int().min(0).max(500),
  w: z.number().int().min(1).max(PANEL_COLUMNS),
  h: z.number().int().min(1).max(40),
});

const overview = {
  name,
  panels: z.array(panel).max(24),
  scope: packScope,
  shared: z.boolean(),
};
export const newOverviewSchema = z.strictObject({
  ...overview,
  panels: overview.panels.default([]),
  scope: overview.scope.default({}),
  shared: overview.shared.default(false),
});
export const overviewChangeSchema = z.strictObject({ ...overview, restored: z.literal(true) }).partial();

/** What the organisation puts at the head of what leaves; a picture of at most about 120 kB. */
export const letterheadSchema = z.strictObject({
  name: z.string().trim().max(120),
  logo: z.string().max(170_000, 'the logo is larger than 120 kB').nullable(),
});

export const newEmbedSchema = z.strictObject({
  report: z.number().int().positive(),
  kind: z.enum(PANEL_KINDS),
  days: z.number().int().min(1).max(366).default(90).describe('It ends by itself after so many'),
  scope: packScope.default({}).describe('What takes the place of the report’s own window, company or member'),
});

/** Where pages stand that may show panels, as in `https://intranet.example` (RFC 6454). */
const origin = z
  .string()
  .trim()
  .max(200)
  .refine(
    (text) =>
      URL.canParse(text) &&
      new URL(text).origin === text &&
      /^https:\/\/|^http:\/\/(localhost|127\.0\.0\.1)(:|$)/.test(text),
    'write an address without a path, as https://intranet.example',
  );
export const embedOriginsSchema = z.strictObject({ origins: z.array(origin).max(20) });

export const newBundlesSchema = z.strictObject({
  threads: z.array(z.number().int().positive()).min(1).max(200),
  name: z.string().trim().min(1, 'give it a name').max(120),
});

export const newPaperTemplateSchema = z.strictObject({
  name,
  format: z.enum(LEAF_FORMATS),
  how: z.strictObject(ofTemplate),
});
