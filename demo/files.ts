import { createWriteStream } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipArchive } from 'archiver';
import { lastOfMonth } from '@/core/dates';
import { budgetRows } from './budgets';
import { demoChart } from './chart';
import { demoDimensions } from './dimensions';
import type { DemoDocument } from './document';
import type { Documented } from './documents';
import { COLUMNS, type DemoEntry, money, rowsOf } from './entry';
import { projectOrders } from './orders';
import { demoParties, PARTY_HEADER } from './parties';
import { restated } from './restate';
import { writeScans } from './scans';
import { demoWorld } from './world/demoWorld';

const quoted = (text: string): string => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
const csv = (rows: string[][]): string =>
  rows
    .map((r) => r.map(quoted).join(','))
    .join('\n')
    .concat('\n');

/** The chart of accounts as a file. */
export function chartFile(): string {
  const header = [
    'code',
    'name',
    'name:nb',
    'type',
    'normal',
    'parent',
    'posting',
    'status',
    'flow',
    'group',
    'dim:costcentre',
    'dim:vessel',
    'code:statutory',
  ];
  return csv([
    header,
    ...demoChart().map((a) => [
      a.code,
      a.name,
      a.norwegian,
      a.type,
      // What takes away from a thing is kept beside it, on the other side.
      a.posting && a.type === 'asset' && /depreciation/i.test(a.name)
        ? 'credit'
        : /^Refunds/.test(a.name)
          ? 'debit'
          : '',
      a.parent,
      a.posting ? 'yes' : 'no',
      a.status,
      a.flow,
      a.group,
      a.costCentre,
      a.vessel,
      a.posting ? a.code.slice(0, 2) : '',
    ]),
  ]);
}

/** Dimensions and members as a file. */
export const dimensionsFile = (): string =>
  csv([
    ['dimension', 'code', 'name', 'parent'],
    ...demoDimensions().map((d) => [d.dimension, d.code, d.name, d.parent]),
  ]);

/** Writes the files of the demo world into a folder, as a source ledger would deliver them. @returns their paths */
export async function writeDemoFiles(
  folder: string,
  scale = 1,
): Promise<{ chart: string; dimensions: string; lines: string }> {
  const paths = {
    chart: join(folder, 'accounts.csv'),
    dimensions: join(folder, 'dimensions.csv'),
    lines: join(folder, 'journal-lines.csv'),
  };
  await writeFile(paths.chart, chartFile());
  await writeFile(paths.dimensions, dimensionsFile());
  await pipeline(Readable.from(linesText(scale)), createWriteStream(paths.lines));
  return paths;
}

/** Story 14: the same ledger's second delivery of two months. */
export async function writeRestatement(folder: string): Promise<string> {
  const path = join(folder, 'july-august-restated.csv');
  await pipeline(Readable.from(textOf(restated(demoWorld()))), createWriteStream(path));
  return path;
}

/** Customers and suppliers as a file. */
export const partiesFile = (): string => csv([PARTY_HEADER, ...demoParties(demoWorld())]);

/** What a krone is worth in pounds: the closing rate of each month's end and the month's average, made up. */
export function ratesFile(): string {
  const rows = [['date', 'from', 'to', 'rate', 'kind']];
  for (let i = 0; i <= 30; i++) {
    const end = lastOfMonth(2024, 3 + i);
    const rate = (at: number): string => (0.0746 + 0.0011 * Math.sin(at / 3.1) - at * 0.00002).toFixed(6);
    rows.push([end, 'NOK', 'GBP', rate(i), 'closing'], [end, 'NOK', 'GBP', rate(i - 0.5), 'average']);
  }
  return csv(rows);
}

/** Open orders of the ferries: what is still to come of each, and when it falls due. */
export const commitmentsFile = (): string =>
  csv([
    [
      ...['entity', 'number', 'date', 'due_date', 'account', 'amount', 'ordered'],
      ...['counterparty', 'counterparty_name', 'description', 'dim:project', 'dim:fund'],
    ],
    ...projectOrders().map(({ number, date, due, ordered, delivered, supplier, description, project }) => [
      ...['KSF', number, date, due, '1130', money(ordered - delivered), money(ordered)],
      ...[...supplier, description, project, 'UNR'],
    ]),
  ]);

/** The plan of the ferries. */
export const budgetFile = (): string => csv(budgetRows(demoWorld()));

/** Tax codes of the three companies, and the boxes of their made-up returns. */
export const taxCodesFile = (): string =>
  csv([
    ['entity', 'code', 'name', 'rate', 'box', 'net_box'],
    ...['KSF', 'STL'].flatMap((entity) => [
      [entity, 'S20', 'Sales at 20 %', '20', 'Box 1, tax on sales', 'Box 4, sales without tax'],
      [entity, 'P20', 'Purchases at 20 %', '20', 'Box 2, tax on purchases', 'Box 5, purchases without tax'],
    ]),
    ['NHS', 'S25', 'Sales at 25 %', '25', 'Box 1, tax on sales', 'Box 4, sales without tax'],
    ['NHS', 'P20', 'Purchases', '20', 'Box 2, tax on purchases', 'Box 5, purchases without tax'],
  ]);

/** What the codes of the group's made-up statutory scheme are called. */
export const schemesFile = (): string =>
  csv([
    ['scheme', 'code', 'name', 'name:nb'],
    ...SCHEME.map(([code = '', name = '', norwegian = '']) => ['statutory', code, name, norwegian]),
  ]);

const SCHEME = [
  ['4', 'Turnover', 'Driftsinntekter'],
  ['41', 'Carriage of passengers and vehicles', 'Transport av passasjerer og kjøretøy'],
  ['42', 'Carriage of goods', 'Transport av gods'],
  ['43', 'Public grants', 'Offentlige tilskudd'],
  ['45', 'Terminal services', 'Terminaltjenester'],
  ['46', 'Yard services', 'Verkstedtjenester'],
  ['44', 'Other operating income', 'Annen driftsinntekt'],
  ['65', 'Goods consumed', 'Vareforbruk'],
  ['62', 'Fuel', 'Drivstoff'],
  ['7', 'People', 'Personalkostnader'],
  ['70', 'Pay of crews', 'Lønn til mannskap'],
  ['71', 'Pay ashore', 'Lønn på land'],
  ['73', 'Other costs of people', 'Andre personalkostnader'],
  ['83', 'Depreciation', 'Avskrivninger'],
  ['63', 'Upkeep', 'Vedlikehold'],
  ['64', 'Harbour dues', 'Havneavgifter'],
  ['66', 'Premises', 'Lokaler'],
  ['81', 'Insurance', 'Forsikring'],
  ['82', 'Administration', 'Administrasjon'],
  ['84', 'Leases', 'Leie'],
  ['85', 'Net finance costs', 'Netto finanskostnader'],
  ['11', 'Vessels, quays and equipment', 'Skip, kaier og utstyr'],
  ['1', 'Current assets', 'Omløpsmidler'],
  ['12', 'Stocks', 'Lager'],
  ['13', 'Receivables', 'Fordringer'],
  ['14', 'Prepayments', 'Forskuddsbetalinger'],
  ['15', 'Cash and bank', 'Kontanter og bank'],
  ['21', 'Trade payables', 'Leverandørgjeld'],
  ['22', 'Accruals and income received ahead', 'Påløpt og forskuddsmottatt'],
  ['23', 'Taxes and payroll owed', 'Skyldige avgifter og lønn'],
  ['24', 'Borrowings and leases', 'Lån og leieforpliktelser'],
  ['29', 'Not yet settled', 'Ikke avklart'],
  ['31', 'Capital and reserves', 'Kapital og reserver'],
] as const;

/** Banks and tills, with the ledger accounts that they are tied to. */
export function holdingsFile(): string {
  const bank = (entity: string, number: string, name: string, account: string, own: string, currency = '') => [
    entity,
    number,
    name,
    'bank',
    account,
    'both',
    currency,
    own,
  ];
  const till = (number: string, name: string, account: string) => [
    'STL',
    number,
    name,
    'cash',
    account,
    'receipts',
    '',
    '',
  ];
  return csv([
    ['entity', 'number', 'name', 'kind', 'account', 'takes', 'currency', 'bank_account'],
    bank('KSF', 'B1', 'Operating account', '1520', '40-00-11 10203040'),
    bank('KSF', 'B2', 'Grant account', '1521', '40-00-11 10203041'),
    bank('KSF', 'B3', 'Reserve account', '1522', '40-00-11 10203042'),
    bank('STL', 'B1', 'Operating account', '1520', '40-00-12 55500010'),
    bank('NHS', 'B1', 'Krone account', '1523', '9999.11.22333', 'NOK'),
    till('T1', 'Till Harrowick', '1530'),
    till('T2', 'Till Brenna', '1531'),
    till('T3', 'Till Tolsey', '1532'),
    till('T4', 'Till Lindra', '1533'),
    till('T5', 'Till Marrok', '1534'),
  ]);
}

/** What the documents of a company are made of, line by line. */
export const documentLinesFile = (entity: Documented, documents: readonly DemoDocument[]): string =>
  csv([
    ['entity', 'document', 'line', 'description', 'quantity', 'unit', 'unit_price', 'amount', 'tax_code', 'tax_amount'],
    ...documents.flatMap(({ number, lines = [] }) =>
      lines.map(({ description, amount, quantity, price, tax }, i) => [
        ...[entity, number, String(i + 1), description, String(quantity?.[0] ?? ''), quantity?.[1] ?? ''],
        price === undefined ? '' : money(price),
        ...[money(amount), tax?.[0] ?? '', tax ? money(tax[1]) : ''],
      ]),
    ),
  ]);

/** A company's documents with the scans of some, in one archive as a document store would send it. */
export async function writeDocuments(
  folder: string,
  entity: Documented,
  documents: readonly DemoDocument[],
): Promise<string> {
  const header = [
    'entity',
    'number',
    'type',
    'date',
    'due_date',
    'amount',
    'counterparty',
    'counterparty_name',
    'account',
    'description',
    'source',
    'applied',
    'attachment',
  ];
  const rows = documents.flatMap((d) => {
    const own = [
      entity,
      d.number,
      d.type,
      d.date,
      d.due ?? '',
      money(d.amount),
      ...(d.counterparty ?? ['', '']),
      d.account ?? '',
      d.description,
    ];
    const links = d.settles.length > 0 ? d.settles : [null];
    return links.map((link, i) => [
      ...own,
      link?.number ?? '',
      link ? money(link.amount) : '',
      i === 0 ? (d.attachment ?? '') : '',
    ]);
  });
  const path = join(folder, `documents-${entity.toLowerCase()}.zip`);
  const archive = new ZipArchive({});
  const written = pipeline(archive, createWriteStream(path));
  archive.append(csv([header, ...rows]), { name: 'documents.csv' });
  for (const name of entity === 'KSF' ? await writeScans(folder) : []) archive.file(join(folder, name), { name });
  await archive.finalize();
  await written;
  return path;
}

const CHUNK = 65_536;

const linesText = (scale: number): Generator<string> => textOf(demoWorld(scale));

function* textOf(entries: Iterable<DemoEntry>): Generator<string> {
  let text = `${COLUMNS.join(',')}\n`;
  for (const entry of entries) {
    text += rowsOf(entry);
    if (text.length < CHUNK) continue;
    yield text;
    text = '';
  }
  yield text;
}
