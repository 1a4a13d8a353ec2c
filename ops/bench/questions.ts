import { AT_HAND, IN_BOOKS } from '@/contracts/answers/search';
import { ATTRIBUTES, type Attribute, LINE_NUMBERS } from '@/core/figure';
import { SORTS } from '@/core/lineFields';
import { COMPANIES } from './ledger';

/**
 * Every kind of question that a screen can ask, made from the lists of splits, clauses and orders themselves: what is added
 * to those is measured without being named here.
 */
export interface Kind {
  /** What it is, as the table of results says it. */
  name: string;
  /** Path and query, under /api/v1. */
  path: string;
}

const [LARGEST] = COMPANIES;
const HALF_YEAR = 'from=2027.01&to=2027.06';
const YEAR = 'from=2026.01&to=2026.12';
const one = `entity=${LARGEST.code}`;
const group = COMPANIES.map(({ code }) => `entity=${code}`).join('&');

/** Splits that have no list of their own to be made from. */
const PLAIN_SPLITS = ['account', 'account/1', 'type', 'entity', 'period', 'month', 'week', 'day', 'kind', 'size'];
const DIMENSION_SPLITS = ['dim:costcentre', 'dim:project', 'dim:product@1', 'dim:fund'];
const ALL_SPLITS = [...PLAIN_SPLITS, ...DIMENSION_SPLITS, ...ATTRIBUTES];

/** A value that lines of the ledger have, for a clause on each attribute. */
const VALUES: Partial<Record<Attribute, string>> = {
  journal: 'S1',
  document: 'FN-00*',
  documentType: 'invoice',
  documentDate: '2026-07-01..2026-07-31',
  dueDate: '2026-08-01..',
  counterparty: 'C17*',
  postedBy: 'user03',
  enteredAt: '2026-06*',
  source: 'Bank feed',
  currency: 'EUR',
  unit: 'kg',
  taxCode: 'OUT25',
  reconciled: '~not:yes',
  entry: 'N001*',
  description: '*glass*',
  entryDescription: 'Correction*',
};
const clause = (name: Attribute): string => `${name}=${encodeURIComponent(VALUES[name] ?? '~none')}`;
const number = (name: string): string => `${name}=${encodeURIComponent('10..500')}`;

/** Clauses that are no attribute and no number. */
const PLAIN_CLAUSES: [name: string, query: string][] = [
  ['a parent cost centre', 'dim.costcentre=H2'],
  ['a parent cost centre and a project', 'dim.costcentre=H2&dim.project=P7'],
  ['no region', 'dim.region=~none'],
  ['a common word', 'text=delivery'],
  ['a rare word', 'text=zirconium'],
  ['part of a word', 'text=lve'],
  ['amounts between', 'min=1000&max=2500'],
  ['opposite an account', 'opposite=1910'],
  ['a kind of line', 'kind=normal'],
  ['three periods', 'period=2027.02&period=2027.04&period=2027.06'],
  ['four clauses', 'journal=S1&postedBy=user03&text=crates&dim.region=R2'],
  ['four other clauses', `${clause('source')}&${clause('counterparty')}&min=100&dim.fund=F1`],
];

/** What is typed into the search, of all companies and all kinds of things. */
const SEARCHES: [name: string, q: string][] = [
  ['a rare word', 'zirconium'],
  ['a common word', 'delivery'],
  ['part of words', 'lve'],
  ['two letters', 'gl'],
  ['a common and a rare word', 'delivery zirconium'],
  ['two common words', 'delivery glass'],
  ['three words of which one is a number', 'glass batch 37298'],
  ['a phrase', '"delivery of glass"'],
  ['the number of an entry', 'N00000001'],
  ['part of a document’s number', 'FN-000012'],
  ['an account', '1500'],
  ['a party', 'C1032'],
  ['an amount', '4982.16'],
  ['amounts over', '>900000'],
  ['a word and an amount', 'delivery 4982.16'],
  ['a day', '2026-07-06'],
  ['what nobody has', 'qqxqq'],
];

export function kinds(): Kind[] {
  const found: Kind[] = [];
  const add = (name: string, path: string): void => void found.push({ name, path });
  add('trial balance of a half year', `/trial-balance?${one}&${HALF_YEAR}`);
  add('trial balance of a group', `/trial-balance?${group}&${HALF_YEAR}`);
  add('trial balance as at a day', `/trial-balance?${one}&to=2026-09-17`);
  add('trial balance, unposted alone', `/trial-balance?${one}&${HALF_YEAR}&status=unposted`);
  add('trial balance as of an earlier load', `/trial-balance?${one}&${HALF_YEAR}&load=5`);
  add(
    'trial balance beside a year before',
    `/trial-balance?${one}&${HALF_YEAR}&column=year-before&column=change:year-before`,
  );
  add('income statement', `/statements/income?${one}&${HALF_YEAR}&column=ytd&column=year-before`);
  add('income statement, rows opened', `/statements/income?${one}&${HALF_YEAR}&open=all`);
  add('income statement, cost centres across', `/statements/income?${one}&${HALF_YEAR}&across=dim:costcentre@1`);
  add('balance sheet', `/statements/balance?${one}&${HALF_YEAR}`);
  for (const [name, query] of PLAIN_CLAUSES)
    add(`trial balance, ${name}`, `/trial-balance?${one}&${HALF_YEAR}&${query}`);
  for (const name of ATTRIBUTES) add(`trial balance, ${name}`, `/trial-balance?${one}&${HALF_YEAR}&${clause(name)}`);
  for (const name of LINE_NUMBERS)
    add(`trial balance, ${name} between`, `/trial-balance?${one}&${HALF_YEAR}&${number(name)}`);
  for (const by of ALL_SPLITS) {
    const split = `by=${encodeURIComponent(by)}`;
    add(`whole ledger by ${by}`, `/sheets?${one}&${HALF_YEAR}&${split}`);
    add(`income by ${by}`, `/sheets?${one}&accounts=4*&${HALF_YEAR}&${split}`);
  }
  for (const by of ALL_SPLITS.filter((by) => by !== 'account'))
    add(
      `costs by ${by} and account`,
      `/sheets?${one}&accounts=6*&${HALF_YEAR}&by=${encodeURIComponent(by)}&by=account`,
    );
  for (const by of ['journal', 'dim:costcentre', 'postedBy', 'dim:product@1', 'size'])
    add(
      `costs by ${by} across periods`,
      `/sheets?${one}&accounts=6*&${HALF_YEAR}&by=${encodeURIComponent(by)}&across=period`,
    );
  add('cost centres by project, a year', `/sheets?${one}&accounts=6*&${YEAR}&by=dim:costcentre@1&by=dim:project@1`);
  add('a group by counterparty', `/sheets?${group}&accounts=1500&${HALF_YEAR}&by=counterparty`);
  add(
    'a split beside a year before',
    `/sheets?${one}&accounts=6*&${HALF_YEAR}&by=dim:costcentre&column=year-before&column=change:year-before`,
  );
  add(
    'a split with quantity and per unit',
    `/sheets?${one}&accounts=4*&${HALF_YEAR}&by=dim:product@1&column=quantity&column=per-unit`,
  );
  add('one account, first page', `/lines?${one}&accounts=1500&window=everything`);
  add('one account, row 500,000', `/lines?${one}&accounts=1500&window=everything&at=500000`);
  add('all accounts, first page', `/lines?${one}&${YEAR}`);
  add('all accounts, row 1,000,000', `/lines?${one}&window=everything&at=1000000`);
  add('a rare word found in all accounts', `/lines/find?${one}&window=everything&find=zirconium`);
  add('a common word found from row 1,000,000', `/lines/find?${one}&window=everything&find=delivery&at=1000000`);
  add('several accounts, first page', `/lines?${one}&accounts=6*&${YEAR}`);
  for (const [name, query] of PLAIN_CLAUSES) add(`lines with ${name}`, `/lines?${one}&window=everything&${query}`);
  for (const by of SORTS)
    add(`one account in the order of ${by}`, `/lines?${one}&accounts=1500&window=everything&sort=-${by}`);
  for (const by of ['amount', 'counterparty', 'description'])
    add(`all accounts in the order of ${by}`, `/lines?${one}&window=everything&sort=-${by}`);
  add('what moved, income', `/what-moved?${one}&accounts=4*&${HALF_YEAR}`);
  add('what moved, receivables at the end', `/what-moved?${one}&accounts=1500&${HALF_YEAR}&measure=closing`);
  add('other side of a month', `/other-side?${one}&accounts=1500&from=2027.06&to=2027.06`);
  add('other side of a year', `/other-side?${one}&accounts=1500&${YEAR}`);
  add('other side of banks, a year', `/other-side?${one}&accounts=19*&${YEAR}`);
  add('other side of wages, a year', `/other-side?${one}&accounts=50*&${YEAR}`);
  add('over time, income', `/over-time?${one}&accounts=4*&${HALF_YEAR}`);
  add('a journal in full, a year', `/journals?${one}&${YEAR}&journal=S1`);
  add('all journals in full, everything', `/journals?${one}&window=everything`);
  add('all journals in full, entry 500,000', `/journals?${one}&window=everything&after=500000`);
  add('entered lately', `/journals?${one}&window=everything&status=all&order=entered`);
  add('numbers of a journal, a year', `/journals/series?${one}&${YEAR}&journal=S1`);
  add('numbers of all journals, everything', `/journals/series?${one}&window=everything`);
  for (const [name, q] of SEARCHES)
    for (const [among, kinds] of [
      ['at hand', AT_HAND],
      ['in the books', IN_BOOKS],
    ] as const)
      add(
        `search ${among}, ${name}`,
        `/search?q=${encodeURIComponent(q)}${kinds.map((kind) => `&kind=${kind}`).join('')}`,
      );
  add('what stands out, trial balance', `/marks?${one}&${HALF_YEAR}`);
  add('what stands out, income statement', `/marks?${one}&${HALF_YEAR}&statement=income`);
  return found;
}
