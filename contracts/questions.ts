import { z } from 'zod';
import { DUE } from '@/core/columns';
import { isDate } from '@/core/dates';
import { SORTS } from '@/core/lineFields';
import { PROPOSED_STATES } from '@/core/proposedEntry';
import { HIT_KINDS } from './answers/search';
import { leavingShape } from './leaving';
import { scopeShape } from './scope';
import { PARTS_OF_LINES } from './traced';

/** Columns beside the window's own, the same for a trial balance and a split. */
const comparedShape = {
  column: z
    .array(z.string().max(200))
    .max(12)
    .optional()
    .describe('Columns to compare with, as of a statement: year-before, change:year-before, …'),
};

/** What each route that answers a question may be asked. */
export const trialBalanceShape = {
  ...scopeShape,
  ...leavingShape,
  zero: z
    .enum(['hide', 'show', 'active', 'moved'])
    .default('hide')
    .describe(
      'hide: accounts with a balance or movement; moved: with movement; active: those and all that are active; show: all',
    ),
  scheme: z
    .string()
    .max(100)
    .optional()
    .describe('Headings by the codes of this scheme instead of the tree’s own; with tree=yes'),
  tree: z
    .enum(['yes', 'no'])
    .default('no')
    .describe('yes: heading rows with their subtotals, in the order of the tree'),
  yearToDate: z
    .enum(['yes', 'no'])
    .default('no')
    .describe('yes: each row also has the movement since the start of the fiscal year'),
  retained: z
    .enum(['one', 'parts'])
    .default('one')
    .describe('parts: retained earnings also by earlier year and direct entries'),
  lang: z
    .string()
    .regex(/^[a-z]{2,3}$/)
    .optional()
    .describe('Account names in this language where there are any'),
  ...comparedShape,
  eliminated: z.enum(['yes', 'no']).optional().describe('yes: without the lines between the companies asked about'),
  compare: z.enum(['closing', 'movement']).optional().describe('What the columns compare; default closing'),
};

/** Whose opening balances a ledger carries. */
const openings = z
  .enum(['all', 'permanent', 'none'])
  .optional()
  .describe('permanent: ledgers of income and expense begin at nothing; none: all do');

/** Which part of each line is added up. */
const part = z
  .enum(PARTS_OF_LINES)
  .optional()
  .describe('allotted: what of the lines is allotted to the accounts that opposite names; tax: the tax on them');

export const totalsShape = {
  ...scopeShape,
  openings,
  part,
  ...comparedShape,
  compare: z.enum(['closing', 'movement']).optional().describe('What the columns compare; default movement'),
};

/** More levels than this nobody reads. */
const LEVELS_MAX = 8;

const { part: _ofLines, ...splitShape } = totalsShape;

export const sheetShape = {
  ...splitShape,
  ...leavingShape,
  by: z.array(z.string()).min(1).max(LEVELS_MAX).describe('What to split by; repeat to nest'),
  across: z.string().optional().describe('One split on columns'),
  open: z
    .array(z.string().regex(/^[^|]+\|[^|]+$/, 'write the column and what to split it by, such as 2027.04|week'))
    .max(3)
    .optional()
    .describe('Columns to split further while the others stay: the column’s member, then the split'),
  first: z.coerce
    .number()
    .int()
    .min(1)
    .max(2_000)
    .optional()
    .describe('How many rows, of a split that has so many that it is answered page by page; default 200'),
  after: z.string().min(1).max(1_000).optional().describe('Of such a split: the `others.next` of the page before'),
};

export const PAGE_DEFAULT = 200;
export const PAGE_MAX = 1_000;

export const linesShape = {
  ...scopeShape,
  ...leavingShape,
  openings,
  part,
  sort: z
    .string()
    .optional()
    .describe(`${SORTS.join(', ')}; with - before it descending; several with commas between; default date`),
  limit: z.coerce.number().int().min(1).max(PAGE_MAX).default(PAGE_DEFAULT),
  after: z.string().max(1_000).optional().describe('The `next` of the page before'),
  at: z.coerce.number().int().min(0).optional().describe('Number of the first row to give, instead of after'),
};

export const findLineShape = {
  ...scopeShape,
  find: z.string().min(1).max(200).describe('Part of a description, else of an entry’s number, else of a document’s'),
  at: z.coerce.number().int().min(0).optional().describe('Number of the row to look from; absent: from the first on'),
  way: z.enum(['next', 'previous']).default('next'),
};

export const searchShape = {
  q: z
    .string()
    .min(1)
    .max(200)
    .describe('Words, parts of words, "whole phrases", amounts such as >5000, days such as 6 jul'),
  kind: z.array(z.enum(HIT_KINDS)).min(1).optional().describe('Kinds of what is looked for; all if absent'),
  entity: z.array(z.string()).min(1).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(5).describe('How many of each kind'),
  after: z.coerce.number().int().min(0).default(0).describe('Of one kind: the `next` of the page before'),
};

export const entryShape = {
  entity: z.string().optional().describe('Whose entry, where it is asked for by its number'),
  load: z.coerce.number().int().min(0).optional().describe('As of a past load'),
};

export const loadListShape = {
  limit: z.coerce.number().int().min(1).max(200).default(50),
  after: z
    .string()
    .regex(/^\d{1,9}$/, 'this is no load’s number')
    .optional(),
};

const day = z.string().refine(isDate, 'write a date as 2026-04-30').optional();

export const recordShape = {
  person: z.string().max(100).optional().describe('Name of who did it'),
  act: z.string().max(100).optional(),
  subject: z.string().max(6_000).optional(),
  about: z
    .string()
    .trim()
    .min(1)
    .max(300)
    .optional()
    .describe('What it is about in words: “account 6320”, or any word, number or name'),
  from: day,
  to: day,
  limit: z.coerce.number().int().min(1).max(1_000).default(100),
  after: z
    .string()
    .regex(/^\d{1,9}$/, 'this is no number of an entry')
    .optional(),
};

/** Evidence of these subjects, of these entities, of a thread, or of several of them. */
export const evidenceShape = {
  subject: z.array(z.string().max(6_000)).max(500).optional(),
  entity: z.array(z.string()).min(1).optional(),
  thread: z.coerce.number().int().min(1).optional(),
  limit: z.coerce.number().int().min(1).max(5_000).default(5_000),
  after: z
    .string()
    .regex(/^\d{1,9}$/, 'this is no `next` of a list')
    .optional(),
};

export const proposedShape = {
  ...evidenceShape,
  state: z.array(z.enum(PROPOSED_STATES)).optional(),
  set: z.array(z.string().max(100)).optional(),
};

const proposedIds = z.array(z.coerce.number().int().positive()).min(1).max(500);
export const proposedEffectShape = {
  ids: proposedIds.describe('Numbers of proposed entries of one company; repeat'),
  entity: z.string().optional(),
};
export const handOverShape = {
  ids: proposedIds.optional().describe('Those meant; absent: all that are approved and not handed over yet'),
  entity: z.array(z.string()).min(1).optional(),
  format: z.enum(['csv', 'xlsx', 'ads']).default('csv'),
};
export const materialityShape = {
  entity: z.string().optional(),
  year: z.coerce.number().int().optional(),
  figure: z.string().max(8_000).optional().describe('Address of a figure, to be told what is material of it'),
};
export const misstatementsShape = {
  ...leavingShape,
  entity: z.string(),
  from: z.string().optional().describe('First period, as 2026.01; that of the year where it is not given'),
  to: z.string().optional().describe('Last period; the last with lines where it is not given'),
};

export const hitsShape = {
  ...leavingShape,
  test: z.array(z.string().max(40)).optional(),
  entity: z.array(z.string()).min(1).optional(),
  state: z.enum(['open', 'judged', 'ignored', 'all']).default('all'),
  by: z
    .enum(['test', 'entry', 'account', 'person', 'party', 'day'])
    .optional()
    .describe('What they are put together by'),
  key: z.string().max(200).optional().describe('Only those of one group: its key; ~none: those of none'),
  limit: z.coerce.number().int().min(1).max(1_000).default(200),
  after: z.coerce.number().int().min(0).default(0),
};

/** The statement whose rows are looked at for work that was done on them, and from which amount on. */
export const statementCode = z.string().min(1).max(40).default('balance');
export const aboveAmount = z
  .string()
  .regex(/^\d{1,13}(\.\d{1,4})?$/, 'write an amount as 50000 or 50000.00')
  .optional()
  .describe('What is not given is performance materiality, where it is said; else nothing');

/** Review points, questions and findings: all that one may see, where nothing narrower is asked. */
export const openWorkShape = { ...evidenceShape, state: z.string().max(20).optional() };

export const compareShape = {
  from: z.coerce.number().int().min(0).describe('The earlier load; 0: before any'),
  to: z.coerce.number().int().min(1).describe('The later load'),
  entity: z.array(z.string()).optional(),
  limit: z.coerce.number().int().min(1).max(PAGE_MAX).default(PAGE_DEFAULT),
  at: z.coerce.number().int().min(0).default(0).describe('Number of the first line to give'),
};

export const EXPORT_FORMATS = ['csv', 'xlsx', 'json', 'ndjson', 'saft', 'fec', 'ads'] as const;

export const exportShape = {
  ...scopeShape,
  what: z.enum(['lines', 'accounts', 'dimensions']).default('lines'),
  format: z.enum(EXPORT_FORMATS).default('csv'),
  ticks: z
    .enum(['with', 'without'])
    .default('without')
    .describe('with: each line with its ticks in words, and in a workbook their legend; for csv, xlsx, json, ndjson'),
};

/** What an audit file would lack. */
export const exportCheckShape = { ...scopeShape, format: z.enum(['saft', 'fec', 'ads']) };

export const openOrdersShape = {
  ...scopeShape,
  due: z.enum(DUE).default('now').describe('When orders fall due: up to the end of the window, after it, or whenever'),
};

export const openDocumentsShape = {
  ...scopeShape,
  ...leavingShape,
  open: z
    .enum(['yes', 'all'])
    .default('yes')
    .describe('yes: those of which something is open at the end of the window'),
  aged: z.enum(['due', 'document']).default('due').describe('Age by due date, or by the date of the document'),
  edges: z
    .string()
    .regex(/^\d{1,4}(,\d{1,4}){0,8}$/, 'write the upper ends of the age bands in days, such as 30,60,90,120')
    .transform((text) => [...new Set(text.split(',').map(Number))].sort((a, b) => a - b))
    .optional()
    .describe('Upper ends of the age bands in days; those of the workspace if absent'),
};

export const journalShape = {
  ...scopeShape,
  order: z
    .enum(['date', 'entered'])
    .default('date')
    .describe('date: by day and number; entered: the last entered first'),
  limit: z.coerce.number().int().min(1).max(200).default(50).describe('How many entries'),
  after: z.coerce.number().int().min(0).default(0).describe('The `next` of the page before'),
};

export const seriesShape = scopeShape;

export const unmatchedShape = scopeShape;

export const registerShape = {
  ...leavingShape,
  entity: z.string().describe('Whose documents'),
  type: z.array(z.string().max(100)).max(40).optional().describe('Kinds of documents; all if absent'),
  party: z.string().max(200).optional().describe('Code of a customer, supplier or other party'),
  words: z.string().max(200).optional().describe('Parts of words of its number, party or description'),
  from: day,
  to: day,
  only: z
    .enum(['all', 'no-entry', 'not-delivered'])
    .default('all')
    .describe('no-entry: of which nothing was booked; not-delivered: named by lines, and not among the documents'),
  limit: z.coerce.number().int().min(1).max(1_000).default(300),
  after: z.coerce.number().int().min(0).default(0).describe('The `next` of the page before'),
};

export const partyShape = { entity: z.string().describe('In whose books') };

export const documentShape = {
  entity: z.string().optional().describe('Whose document, where several have the number'),
};

export const statementShape = {
  ...scopeShape,
  ...leavingShape,
  column: z
    .array(z.string().max(200))
    .max(24)
    .optional()
    .describe(
      'Columns beside `window`: ytd, year-before, ytd-before, window-before, last-year, trailing-12, budget:<version>, change:<column>, change%:<column>, variance:<version>, share, over:<from>..<to> (any other window, such as over:2026.01..2026.03)',
    ),
  open: z
    .array(z.string().max(200))
    .max(400)
    .optional()
    .describe('Rows opened to their accounts by their keys, or `all`'),
  across: z.string().max(200).optional().describe('Members of a split side by side, as `by` of a sheet'),
  eliminated: z.enum(['yes', 'no']).optional().describe('yes: without the lines between the companies asked about'),
  by: z.string().max(80).optional().describe('Of `position`: the dimension whose members it is of, as dim:<code>'),
  scheme: z.string().max(40).optional().describe('By the codes of a statutory scheme instead of the house outline'),
  lang: z
    .string()
    .regex(/^[a-z]{2,3}$/)
    .optional(),
};

export const outlineShape = { entity: z.string().optional(), version: z.coerce.number().int().min(0).optional() };

/** What a thread is walked again for: whatever is given takes the place of what its figures have. */
export const replayShape = {
  from: z.string().max(20).optional(),
  to: z.string().max(20).optional(),
  window: z.string().max(40).optional(),
  entity: z.array(z.string()).optional(),
  load: z.coerce.number().int().min(1).optional().describe('As of a past load'),
  member: z
    .string()
    .max(200)
    .optional()
    .describe('dimension:member that takes the place of the members of that dimension, such as vessel:MAREN'),
};

export const fanOutShape = { by: z.string().max(80).describe('entity, or dim:<code>') };

const measure = z
  .enum(['movement', 'closing'])
  .default('movement')
  .describe('movement of the window, or the balance at its end');

export const overTimeShape = { ...scopeShape, measure, periods: z.coerce.number().int().min(2).max(60).default(24) };

export const whatMovedShape = {
  ...scopeShape,
  measure,
  against: z
    .enum(['year-before', 'window-before', 'last-year'])
    .default('year-before')
    .describe('The window that this one is held against'),
};

export const marksShape = {
  ...scopeShape,
  statement: z.enum(['income', 'balance']).optional().describe('Rows of this statement instead of accounts'),
};

export const budgetsShape = { entity: z.array(z.string()).min(1) };

export const budgetShape = {
  entity: z.string(),
  year: z.coerce.number().int().min(1900).max(2200).describe('Fiscal year, by the calendar year in which it ends'),
  unit: z
    .array(z.string().max(200))
    .max(8)
    .optional()
    .describe('dimension:member, one for each dimension; none: what is set for the whole company'),
};
