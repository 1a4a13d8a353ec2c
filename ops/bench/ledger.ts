import { createWriteStream } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { addDays } from '@/core/dates';
import { COLUMNS as LINE_COLUMNS } from '@/demo/entry';
import { Random } from '@/demo/random';

/**
 * A ledger to measure on: thirty months of a trading group with the variety of a real one, of as many lines as are wanted.
 * Every column is filled as such books fill it: documents, parties, persons, taxes, quantities, due dates, texts of which
 * most are different. The same number of lines gives the same ledger.
 */

export const COMPANIES = [
  { code: 'NORD', name: 'Nordlicht Trading', share: 0.7 },
  { code: 'SUND', name: 'Sundby Supplies', share: 0.2 },
  { code: 'VEST', name: 'Vestre Works', share: 0.1 },
] as const;

const FIRST_DAY = '2024-04-01';
const DAYS = 913;
/** Lines that an entry has on the average, as measured. */
const LINES_EACH = 3.66;

const range = (from: number, count: number, step = 1): number[] =>
  Array.from({ length: count }, (_, i) => from + i * step);
const BANKS = range(1910, 6);
const RECEIVABLES = 1500;
const PAYABLES = 2400;
const TAX_OUT = 2700;
const TAX_IN = 1700;
const WAGES = range(5000, 12);
const WITHHELD = range(2770, 4);
const REVENUE = range(4000, 120, 5);
const EXPENSES = range(6000, 240, 5);
const ACCRUALS = range(2900, 30);
const PREPAID = range(1600, 20);
const TYPES = ['asset', 'liability', 'equity', 'income', 'expense'] as const;

/** Dimensions with so many members, in groups of so many beneath one heading each. */
const DIMENSIONS = [
  ['costcentre', 'Cost centre', 84, 12],
  ['project', 'Project', 400, 40],
  ['region', 'Region', 14, 14],
  ['product', 'Product', 150, 15],
  ['channel', 'Channel', 5, 5],
  ['fund', 'Fund', 9, 9],
] as const;

const PEOPLE = range(1, 42).map((n) => `user${String(n).padStart(2, '0')}`);
const SOURCES = ['Sales ledger', 'Purchase ledger', 'Bank feed', 'Payroll', 'By hand'];
const THINGS = [
  'pallets',
  'crates',
  'rope',
  'paint',
  'glass',
  'timber',
  'valves',
  'cable',
  'filters',
  'gaskets',
  'sensors',
  'coffee',
];
const PLACES = [
  'Aker',
  'Brevik',
  'Dale',
  'Elvebakken',
  'Fjellro',
  'Grimsvik',
  'Hamna',
  'Kvalsund',
  'Lund',
  'Myra',
  'Nesset',
  'Øyane',
];

/** What a file of lines has in it, with the dimensions of this ledger. */
export const COLUMNS = [
  ...LINE_COLUMNS.filter((name) => !name.startsWith('dim:')),
  ...DIMENSIONS.map(([code]) => `dim:${code}`),
];
const AT = Object.fromEntries(COLUMNS.map((name, i) => [name, i])) as Record<string, number>;

interface Files {
  chart: string;
  dimensions: string;
  lines: string;
}

export async function writeLedger(folder: string, lines: number): Promise<Files> {
  const files = {
    chart: join(folder, 'accounts.csv'),
    dimensions: join(folder, 'dimensions.csv'),
    lines: join(folder, 'lines.csv'),
  };
  await writeFile(files.chart, chartFile());
  await writeFile(files.dimensions, dimensionsFile());
  await pipeline(Readable.from(linesText(lines)), createWriteStream(files.lines));
  return files;
}

function chartFile(): string {
  const rows = ['code,name,type,parent,posting'];
  for (const [i, type] of TYPES.entries()) rows.push(`${i + 1},${type[0]?.toUpperCase()}${type.slice(1)},${type},,no`);
  const posting: [number, string, number][] = [
    ...BANKS.map((c): [number, string, number] => [c, `Bank ${c - 1909}`, 0]),
    [RECEIVABLES, 'Trade receivables', 0],
    [TAX_IN, 'Tax to be had back', 0],
    ...PREPAID.map((c): [number, string, number] => [c, `Paid ahead ${c - 1599}`, 0]),
    [PAYABLES, 'Trade payables', 1],
    [TAX_OUT, 'Tax owed', 1],
    ...WITHHELD.map((c): [number, string, number] => [c, `Withheld from wages ${c - 2769}`, 1]),
    ...ACCRUALS.map((c): [number, string, number] => [c, `Accrued ${c - 2899}`, 1]),
    [3120, 'Retained earnings', 2],
    ...REVENUE.map((c): [number, string, number] => [c, `Revenue ${c}`, 3]),
    ...WAGES.map((c): [number, string, number] => [c, `Wages ${c - 4999}`, 4]),
    ...EXPENSES.map((c): [number, string, number] => [c, `Cost ${c}`, 4]),
  ];
  for (const [code, name, type] of posting) rows.push(`${code},${name},${TYPES[type]},${type + 1},yes`);
  return rows.join('\n').concat('\n');
}

function dimensionsFile(): string {
  const rows = ['dimension,code,name,parent'];
  for (const [code, name, members, each] of DIMENSIONS) {
    rows.push(`${code},,${name},`);
    const headings = each === members ? 0 : Math.ceil(members / each);
    for (let h = 1; h <= headings; h++) rows.push(`${code},H${h},${name} group ${h},`);
    for (let m = 1; m <= members; m++)
      rows.push(`${code},${memberOf(code, m)},${name} ${m},${headings ? `H${Math.ceil(m / each)}` : ''}`);
  }
  return rows.join('\n').concat('\n');
}

const memberOf = (code: string, m: number): string => `${(code[0] as string).toUpperCase()}${m}`;

/** The lines as text, some thousands at a time. */
function* linesText(lines: number): Generator<string> {
  const random = new Random(7);
  // The smaller of two is more often small: some members, parties and accounts have most of the lines.
  const few = (n: number): number => Math.min(random.whole(1, n), random.whole(1, n));
  const one = <Item>(list: readonly Item[]): Item => list[few(list.length) - 1] as Item;
  yield `${COLUMNS.join(',')}\n`;
  let text = '';
  for (const { code: entity, share } of COMPANIES) {
    const entries = Math.round((lines * share) / LINES_EACH);
    const row: string[] = COLUMNS.map(() => '');
    const set = (name: string, value: string): void => {
      row[AT[name] as number] = value;
    };
    let line = 0;
    const clear = (from: string): void => void row.fill('', AT[from] as number);
    const add = (account: number, cents: number, description: string): void => {
      line += 1;
      const amount = `${Math.floor(Math.abs(cents) / 100)}.${String(Math.abs(cents) % 100).padStart(2, '0')}`;
      set('line', String(line));
      set('account', String(account));
      set('debit', cents >= 0 ? amount : '');
      set('credit', cents < 0 ? amount : '');
      set('description', description);
      text += `${row.join(',')}\n`;
    };
    const dims = (...which: number[]): void => {
      for (const [i, [code, , members]] of DIMENSIONS.entries())
        set(`dim:${code}`, which.includes(i) ? memberOf(code, few(members)) : '');
    };
    for (let n = 1; n <= entries; n++) {
      const day = addDays(FIRST_DAY, Math.floor(((n - 1) / entries) * DAYS));
      const kind = random.whole(1, 100);
      clear('entity');
      line = 0;
      set('entity', entity);
      set('entry', `${entity[0]}${String(n).padStart(8, '0')}`);
      set('date', day);
      set('status', day > '2026-09-20' && random.whole(1, 10) === 1 ? 'unposted' : 'posted');
      set('posted_by', one(PEOPLE));
      set('entered_at', addDays(day, few(5) - 1));
      const thing = one(THINGS);
      const place = random.pick(PLACES);
      const net = random.whole(500, 900_000);
      if (kind <= 65) {
        const buys = kind > 45;
        const party = buys ? few(900) : few(4_000);
        set('journal', buys ? `P${few(3)}` : `S${few(5)}`);
        set('source', SOURCES[buys ? 1 : 0] as string);
        set('document', `${buys ? 'B' : 'F'}${entity[0]}-${String(n).padStart(8, '0')}`);
        set('document_type', buys ? 'bill' : 'invoice');
        set('document_date', day);
        set('due_date', addDays(day, random.pick([14, 30, 30, 60])));
        set('counterparty', `${buys ? 'L' : 'C'}${party}`);
        set('counterparty_name', buys ? `"Supplier ""${party}"" of ${place}"` : `Customer ${party} in ${place}`);
        set('entry_description', `${buys ? 'Bill' : 'Invoice'} ${n} ${place}`);
        const sign = buys ? 1 : -1;
        const tax = Math.round(net * 0.25);
        dims();
        add(buys ? PAYABLES : RECEIVABLES, -sign * (net + tax), `${place} ${n}`);
        const parts = few(3);
        let rest = net;
        for (let i = 1; i <= parts; i++) {
          const part = i === parts ? rest : Math.floor(rest / 2);
          rest -= part;
          dims(0, ...(buys ? [1] : [3, 2]), ...(random.whole(1, 3) === 1 ? [4] : []));
          set('tax_code', buys ? 'IN25' : 'OUT25');
          set('tax_amount', (Math.round(part * 0.25) / 100).toFixed(2));
          set('quantity', String(few(400)));
          set('unit', one(['pcs', 'kg', 'l']));
          add(
            one(buys ? EXPENSES : REVENUE),
            sign * part,
            `Delivery of ${thing} to ${place} batch ${random.whole(1, 60_000)}`,
          );
          for (const name of ['tax_code', 'tax_amount', 'quantity', 'unit']) set(name, '');
        }
        dims();
        add(buys ? TAX_IN : TAX_OUT, sign * tax, 'Tax');
      } else if (kind <= 92) {
        const pays = kind > 84;
        const of = Math.max(1, n - random.whole(1, 4_000));
        set('journal', `B${few(4)}`);
        set('source', SOURCES[2] as string);
        set('document', `${pays ? 'B' : 'F'}${entity[0]}-${String(of).padStart(8, '0')}`);
        set('document_type', 'payment');
        set('counterparty', `${pays ? 'L' : 'C'}${few(pays ? 900 : 4_000)}`);
        set('entry_description', `Payment ${place} ${random.whole(1, 900_000)}`);
        set('reconciled', random.whole(1, 8) > 1 ? 'yes' : '');
        if (random.whole(1, 6) === 1) {
          set('currency', random.pick(['EUR', 'USD']));
          set('currency_amount', (((pays ? -1 : 1) * net) / 100).toFixed(2));
        }
        dims();
        add(one(BANKS), (pays ? -1 : 1) * net, `Statement ${day.slice(0, 7)}`);
        if (row[AT.currency_amount as number] !== '')
          set('currency_amount', (((pays ? 1 : -1) * net) / 100).toFixed(2));
        add(pays ? PAYABLES : RECEIVABLES, (pays ? 1 : -1) * net, `Paid ${of}`);
      } else if (kind <= 93) {
        set('journal', 'W1');
        set('source', SOURCES[3] as string);
        set('entry_description', `Wages of ${day.slice(0, 7)} group ${few(40)}`);
        let owed = 0;
        for (let i = 0; i < 24; i++) {
          const wage = random.whole(180_000, 620_000);
          const kept = Math.round(wage * 0.3);
          dims(0, 5);
          add(one(WAGES), wage, `Wages ${i + 1}`);
          add(one(WITHHELD), -kept, `Withheld ${i + 1}`);
          owed += wage - kept;
        }
        dims();
        add(2770, -owed, 'Net wages');
      } else {
        set('journal', `G${few(3)}`);
        set('source', SOURCES[4] as string);
        set(
          'entry_description',
          `${random.pick(['Accrual', 'Correction', 'Allocation', 'Reclassification'])} ${place} ${day.slice(0, 7)}`,
        );
        const rare = random.whole(1, 4_000) === 1 ? ' zirconium' : '';
        const second = Math.floor(net / 3);
        dims(0, 1);
        add(one(EXPENSES), net, `Share of ${thing}${rare}`);
        dims(0, 5);
        add(one(EXPENSES), second, `Share of ${one(THINGS)}`);
        dims(5);
        add(one(ACCRUALS), -net, `Accrued ${place}`);
        add(one(PREPAID), -second, `Taken from ${place}`);
      }
      if (text.length > 1_000_000) {
        yield text;
        text = '';
      }
    }
  }
  yield text;
}
