import * as answers from '../answers/all';
import * as bodies from '../bodies/all';
import { overviewFileShape, packFileShape, panelShape } from '../leaving';
import { exportCheckShape } from '../questions';
import { nothing, type Route } from './route';

/** What leaves: files made at length, frozen copies, reports and packs that are kept, and when they are made. */
export const leavingRoutes = {
  'GET /exports': { summary: 'Files that were made for the viewer', answer: answers.exportsSchema },
  'POST /exports': {
    summary: 'Have a sheet made into a file by a worker',
    body: bodies.newExportSchema,
    status: 202,
    answer: answers.madeSchema,
  },
  'GET /exports/{id}': { summary: 'How far a file is', answer: answers.exportSchema },
  'GET /exports/{id}/file': { summary: 'The file, once it is made', gives: 'file' },
  'POST /threads/{id}/bundle': {
    summary: 'Have a bundle of a thread made: an offline page with its lines and files, signed',
    status: 202,
    answer: answers.madeSchema,
  },
  'POST /threads/bundles': {
    summary: 'Have a bundle of several threads made, each in a folder of its own',
    body: bodies.newBundlesSchema,
    status: 202,
    answer: answers.madeSchema,
  },
  'GET /frozen': { summary: 'Frozen copies that the viewer may see', answer: answers.frozenListSchema },
  'POST /frozen': {
    summary: 'Freeze a sheet as it is now',
    body: bodies.newFrozenSchema,
    status: 201,
    answer: answers.frozenMadeSchema,
  },
  'GET /frozen/{id}': { summary: 'A frozen copy, and what has moved since', answer: answers.frozenSchema },
  'GET /reports': { summary: 'Reports that are kept', answer: answers.reportsSchema },
  'POST /reports': {
    summary: 'Keep a sheet with how it leaves',
    body: bodies.newReportSchema,
    status: 201,
    answer: answers.oneReportSchema,
  },
  'GET /reports/{id}': { summary: 'A report with its versions', answer: answers.oneReportSchema },
  'PUT /reports/{id}': {
    summary: 'Change a report, or bring it back',
    body: bodies.reportChangeSchema,
    answer: answers.oneReportSchema,
  },
  'DELETE /reports/{id}': { summary: 'Take a report away', answer: nothing },
  'GET /packs': { summary: 'Packs of reports', answer: answers.packsSchema },
  'POST /packs': { summary: 'Make a pack', body: bodies.newPackSchema, status: 201, answer: answers.packSchema },
  'PUT /packs/{id}': {
    summary: 'Change a pack, or bring it back',
    body: bodies.packChangeSchema,
    answer: answers.packSchema,
  },
  'DELETE /packs/{id}': { summary: 'Take a pack away', answer: nothing },
  'GET /packs/{id}/copies': {
    summary: 'The copies that a pack comes to: one, or one for each unit with anything booked on it',
    answer: answers.packCopiesSchema,
  },
  'GET /packs/{id}/file': {
    summary: 'A copy of a pack as a file',
    query: packFileShape,
    gives: 'file',
  },
  'GET /paper-templates': {
    summary: 'Ways in which sheets leave, kept under names',
    answer: answers.paperTemplatesSchema,
  },
  'POST /paper-templates': {
    summary: 'Keep a way in which sheets leave under a name',
    body: bodies.newPaperTemplateSchema,
    status: 201,
    answer: answers.paperTemplatesSchema,
  },
  'DELETE /paper-templates/{id}': { summary: 'Take such a way away', answer: nothing },
  'GET /embeds': { summary: 'Panels that pages elsewhere show', answer: answers.embedsSchema },
  'POST /embeds': {
    summary: 'Give a panel an address under which a page elsewhere shows it',
    body: bodies.newEmbedSchema,
    status: 201,
    answer: answers.embedSchema,
  },
  'DELETE /embeds/{id}': { summary: 'End the address of a panel', answer: nothing },
  'GET /settings/embeds': { summary: 'Pages elsewhere that may show panels', answer: bodies.embedOriginsSchema },
  'PUT /settings/embeds': {
    summary: 'Say which pages elsewhere may show panels',
    body: bodies.embedOriginsSchema,
    answer: bodies.embedOriginsSchema,
  },
  'GET /settings/letterhead': { summary: 'What paper is headed by', answer: bodies.letterheadSchema },
  'PUT /settings/letterhead': {
    summary: 'Say what paper is headed by',
    body: bodies.letterheadSchema,
    answer: bodies.letterheadSchema,
  },
  'GET /export/check': {
    summary: 'What an audit file would lack, held against its published structure',
    query: exportCheckShape,
    answer: answers.exportCheckSchema,
  },
  'GET /overviews': { summary: 'Pages of panels', answer: answers.overviewsSchema },
  'POST /overviews': {
    summary: 'Make a page of panels',
    body: bodies.newOverviewSchema,
    status: 201,
    answer: answers.overviewSchema,
  },
  'GET /overviews/{id}': { summary: 'A page of panels', answer: answers.overviewSchema },
  'PUT /overviews/{id}': {
    summary: 'Change a page of panels, or bring it back',
    body: bodies.overviewChangeSchema,
    answer: answers.overviewSchema,
  },
  'GET /overviews/{id}/file': {
    summary: 'A page of panels as a file: each of its sheets in full, under the scope that drives the page',
    query: overviewFileShape,
    gives: 'file',
  },
  'DELETE /overviews/{id}': { summary: 'Take a page of panels away', answer: nothing },
  'GET /overviews/{id}/panels/{key}': {
    summary: 'What a panel shows, under the scope that drives the page',
    query: panelShape,
    answer: answers.panelShownSchema,
  },
  'GET /schedules': { summary: 'What is made by itself, and when', answer: answers.schedulesSchema },
  'POST /schedules': {
    summary: 'Have a report or a pack made by itself',
    body: bodies.newScheduleSchema,
    status: 201,
    answer: answers.scheduleSchema,
  },
  'PUT /schedules/{id}': {
    summary: 'Change when it is made, and for whom',
    body: bodies.scheduleChangeSchema,
    answer: answers.scheduleSchema,
  },
  'DELETE /schedules/{id}': { summary: 'Make it no more', answer: nothing },
  'POST /schedules/{id}/run': { summary: 'Have it made now', status: 202, answer: answers.madeSchema },
  'GET /schedules/{id}/runs': { summary: 'What was made, newest first', answer: answers.scheduleRunsSchema },
} as const satisfies Record<string, Route>;
