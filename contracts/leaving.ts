import { z } from 'zod';
import { DECIMALS, type HOW_NAMES, LEAF_FORMATS, ORIENTATIONS, PAPERS } from './leaves';
import { ownPathOf } from './ownPath';

const withOrWithout = z.enum(['with', 'without']);

/** How a sheet is to leave; the same on every route that answers one. */
export const howShape = {
  details: z
    .enum(['0', '1', '2'])
    .optional()
    .describe('Of a workbook: how many levels behind each figure go with it; default 0'),
  title: z.string().trim().min(1).max(200).optional().describe('Instead of what the sheet calls itself'),
  footer: z.string().trim().min(1).max(300).optional().describe('At the foot of each page'),
  paper: z.enum(PAPERS).optional().describe('Default a4'),
  orientation: z
    .enum(ORIENTATIONS)
    .optional()
    .describe('fitting: whichever has room for the columns, which is the default'),
  heading: withOrWithout.optional().describe('What it is, of what, by whom and as of when; default with'),
  letterhead: withOrWithout
    .optional()
    .describe('The heading of the organisation, where an owner said what it is; default with'),
  notes: withOrWithout.optional().describe('Notes and ticks on its rows; default without'),
  protect: z
    .enum(['yes', 'no'])
    .optional()
    .describe('Of a workbook: locked and sealed, so that `verify` finds what was changed'),
  language: z
    .string()
    .regex(/^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8}){0,3}$/, 'write a language as en or de-CH')
    .optional()
    .describe('In which numbers are written on paper; that of whoever asks if absent'),
  decimals: z
    .enum(DECIMALS)
    .optional()
    .describe('How far amounts are written on paper and shown in a workbook; default exact'),
  preview: z
    .enum(['yes'])
    .optional()
    .describe('Of paper: its first pages, marked as what they are, to be looked at before'),
  page: z
    .string()
    .max(8_000)
    .refine((page) => ownPathOf(page) !== null, 'give the path of a page, which begins with /')
    .optional()
    .describe('The page on which it is read live'),
};

export const leavingShape = {
  format: z.enum(LEAF_FORMATS).optional().describe('Gives the sheet as a file; absent: the answer itself'),
  ...howShape,
};

const how = z.object(howShape satisfies Record<(typeof HOW_NAMES)[number], z.ZodType>);
export type How = z.infer<typeof how>;

export const packFileShape = {
  format: z.enum(['pdf', 'xlsx']).default('pdf'),
  copy: z.coerce.number().int().min(0).max(10_000).default(0).describe('Which of its copies, from 0'),
  ...howShape,
};

/** What takes the place of what drives a page of panels, for whoever reads it. */
export const panelShape = {
  window: z.string().max(40).optional(),
  from: z.string().max(20).optional(),
  to: z.string().max(20).optional(),
  entity: z.array(z.string().min(1).max(200)).max(50).optional(),
};

export const overviewFileShape = { format: z.enum(['pdf', 'xlsx']).default('pdf'), ...panelShape, ...howShape };
