import { readSubject } from './subject';

/** The places of the application by the names that they bear and are looked for by. */
export interface NamedPlace {
  name: string;
  /** Other words that people have for it. */
  also: string;
  path: string;
  /** Whether it is of books: a company and a window can be said with it. */
  ofBooks?: true;
  /** Who alone may see it; what reviewers may see owners may. */
  only?: 'owner' | 'reviewer';
}

export const NAMED_PLACES: readonly NamedPlace[] = [
  { name: 'Trial balance', also: 'balances', path: '/trial-balance', ofBooks: true },
  { name: 'Income statement', also: 'profit and loss, results', path: '/statements?statement=income', ofBooks: true },
  {
    name: 'Balance sheet',
    also: 'position of assets and liabilities',
    path: '/statements?statement=balance',
    ofBooks: true,
  },
  { name: 'Cash flow', also: 'statement of cash', path: '/statements?statement=cashflow', ofBooks: true },
  { name: 'Tax return', also: 'vat, boxes', path: '/statements?statement=tax', ofBooks: true },
  { name: 'Position', also: 'funds, projects', path: '/statements?statement=position', ofBooks: true },
  { name: 'Lines', also: 'ledger, journal lines, entries', path: '/lines', ofBooks: true },
  { name: 'Journals', also: 'books, day books, vouchers, gaps in numbers', path: '/journals', ofBooks: true },
  { name: 'Entered lately', also: 'recent entries, latest', path: '/journals/latest' },
  { name: 'Find', also: 'search', path: '/find' },
  { name: 'Budgets', also: 'plans', path: '/statements/budgets' },
  { name: 'Chart of accounts', also: 'accounts', path: '/accounts' },
  { name: 'Dimensions', also: 'cost centres, members', path: '/accounts/dimensions' },
  { name: 'Customers and suppliers', also: 'parties, counterparties, vendors', path: '/accounts/parties' },
  { name: 'Bank and cash', also: 'holdings, bank accounts, tills', path: '/accounts/holdings' },
  { name: 'Calendars', also: 'fiscal years, periods', path: '/accounts/calendars' },
  { name: 'Open documents', also: 'open items, ageing, receivables, payables, invoices', path: '/documents' },
  {
    name: 'Every document',
    also: 'orders, estimates, contracts, change orders, documents without an entry, missing documents',
    path: '/documents/all',
  },
  { name: 'Threads', also: 'investigations, work', path: '/threads' },
  { name: 'Desk', also: 'home, what waits, questions, mentions', path: '/desk' },
  { name: 'Review points', also: 'review, points raised, open points', path: '/threads/points' },
  {
    name: 'What is done',
    also: 'completeness of work, signed, statement lines without work',
    path: '/threads/done',
    ofBooks: true,
  },
  {
    name: 'Expectations',
    also: 'analytical review, what a figure should be, differences to explain',
    path: '/threads/expectations',
  },
  { name: 'Samples', also: 'audit samples, monetary unit, draw', path: '/threads/samples' },
  { name: 'Tests', also: 'what is unusual, anomalies, duplicates, benford, journal entry testing', path: '/tests' },
  { name: 'First look', also: 'what one would notice first, oddest accounts', path: '/tests/look' },
  { name: 'First digits', also: 'benford, digits of amounts', path: '/tests/pictures/digits' },
  { name: 'When entries are made', also: 'weekday, hour, out of hours', path: '/tests/pictures/entered' },
  { name: 'Months of accounts', also: 'heat map, deviations', path: '/tests/pictures/months' },
  { name: 'Who posts where', also: 'person by account, rare pairs', path: '/tests/pictures/people' },
  { name: 'Sizes at a limit', also: 'approval limit, just under', path: '/tests/pictures/sizes' },
  { name: 'Missing numbers', also: 'gaps, numbered series', path: '/tests/pictures/numbers' },
  { name: 'Every test', also: 'list of tests', path: '/tests/every' },
  { name: 'Ignored hits', also: 'rules of tests', path: '/tests/ignored' },
  { name: 'Findings', also: 'errors found, control weaknesses, improvements', path: '/findings' },
  {
    name: 'Proposed entries',
    also: 'corrections, adjusting entries, adjustments, reclassify, accrual, proposals',
    path: '/proposals',
  },
  { name: 'Propose an entry', also: 'journal, correcting entry, new entry', path: '/proposals/new' },
  { name: 'Entries from a table', also: 'many entries, paste a journal, upload a journal', path: '/proposals/table' },
  {
    name: 'Misstatements',
    also: 'summary of misstatements, uncorrected, unadjusted',
    path: '/proposals/misstatements',
  },
  { name: 'Materiality', also: 'performance materiality, clearly trivial', path: '/proposals/materiality' },
  { name: 'Sets and templates', also: 'what if, recurring entries', path: '/proposals/sets' },
  { name: 'Reports', also: 'kept reports, print, export, spreadsheet', path: '/reports' },
  { name: 'Overviews', also: 'dashboard, panels, cockpit', path: '/reports/overviews' },
  { name: 'Packs', also: 'board pack, reporting pack, set of reports', path: '/reports/packs' },
  { name: 'Made by themselves', also: 'schedules, scheduled reports, mailed reports', path: '/reports/schedules' },
  { name: 'Files made for you', also: 'exports, downloads', path: '/reports/files' },
  { name: 'Audit files', also: 'saf-t, fec, audit data standards, tax audit file', path: '/reports/audit' },
  { name: 'Frozen copies', also: 'issued copies, snapshots', path: '/reports/frozen' },
  { name: 'On other pages', also: 'embed, intranet, panels elsewhere', path: '/reports/embeds' },
  { name: 'Tick marks', also: 'legend of ticks', path: '/settings/ticks' },
  { name: 'Loads', also: 'deliveries, files', path: '/loads' },
  { name: 'Begin a ledger', also: 'new company', path: '/loads/begin' },
  { name: 'Compare two loads', also: 'what changed', path: '/loads/compare' },
  { name: 'Sources', also: 'source ledgers, feeds', path: '/loads/sources' },
  { name: 'Work under way', also: 'jobs', path: '/loads/work' },
  { name: 'People', also: 'users, grants', path: '/settings', only: 'owner' },
  { name: 'You', also: 'password, preferences, keys', path: '/settings/you' },
  { name: 'What stands out', also: 'marks, rules', path: '/settings/marks' },
  { name: 'On paper', also: 'letterhead, logo, print heading', path: '/settings/paper' },
  { name: 'Record', also: 'audit trail, log', path: '/settings/record', only: 'reviewer' },
];

/** Where something is shown that evidence is about, if its own screen is not known. */
export function placeOfSubject(text: string): string {
  const subject = readSubject(text);
  const lines = (more: Record<string, string>): string =>
    `/lines?${new URLSearchParams({ window: 'everything', status: 'all', ...more })}`;
  switch (subject.is) {
    case 'figure':
      return `/lines?${subject.address}`;
    case 'line':
    case 'entry':
      return lines({ entity: subject.entity, entry: `~is:${subject.entry}` });
    case 'document':
      return `/documents/${encodeURIComponent(subject.number)}?${new URLSearchParams({ entity: subject.entity })}`;
    case 'thread':
      return `/threads/${subject.id}`;
    case 'finding':
      return `/findings/${subject.id}`;
    case 'proposed':
      return `/proposals/${subject.id}`;
    case 'note':
      return '/desk';
  }
}

/**
 * Where an entry is shown, with the lines of the same number above it as the sheet it was opened from.
 * @param id its id in addresses
 * @param line the line that is meant of it, by its id
 */
export function entryPlace(entity: string, number: string, id: string, line = ''): string {
  const step = new URLSearchParams({ '~v': 'entry', '~l': number, '~r': line, '~c': 'entry', '~e': id });
  const scope = new URLSearchParams({ entity, window: 'everything', status: 'all', entry: `~is:${number}` });
  scope.append('step', step.toString());
  return `/lines?${scope}`;
}
