import { createWriteStream, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { gzipSync } from 'node:zlib';
import { ZipArchive } from 'archiver';
import iconv from 'iconv-lite';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Mapping } from '@/contracts/mapping';
import { linesShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { DIGEST_FIELDS, type LineContent, sha256Text } from '@/core/digest';
import { type Fresh, freshInstallation, sendFile } from '@/ops/fresh';
import { resolveFigure } from '../../asking/resolveFigure';
import { addEntity } from '../../charts/entities';
import { allLines, type ExportFormat, exportData } from '../../exports/exportData';
import { readLines } from '../../sheets/readLines';
import { readTrialBalance } from '../../sheets/readTrialBalance';
import { inspectFile } from '../inspectFile';
import { keepFile } from '../keptFiles';
import { loadFile } from './runLoads';

let one: Fresh;
let two: Fresh;
const CHART = [
  'code,name,type,name:nb,dim:unit',
  '100,Cash,asset,Kontanter,',
  '210,Loan,liability,,',
  '300,Retained,equity,,',
  '400,"Sales, all",income,,',
  '500,Wages,expense,,',
];
const DIMS = ['dimension,code,name,parent', 'unit,,Unit,', 'unit,U,Units,', 'unit,U1,Unit one,U', 'site,S1,=SUM(A1),'];
const HEAD =
  'entity,entry,line,date,account,debit,credit,description,period,year,journal,entry_description,document,counterparty,counterparty_name,currency,currency_amount,quantity,unit,status,posted_by,entered_at,kind,dim:unit,dim:site';
const LINES = [
  HEAD,
  'ONE,OB-1,1,2026-04-01,100,900.00,,Opening,,,GL,Openings,,,,,,,,,,,opening,,',
  'ONE,OB-1,2,2026-04-01,210,,900.00,Opening,,,GL,Openings,,,,,,,,,,,opening,,',
  'ONE,S-1,1,2026-04-03,100,120.00,,"=1+2 ""cash"" sale; <b> & ø",,,SJ,Sale,INV-7,C1,Café Ny,EUR,141.20,,,,kari,2026-04-03,,U1,S1',
  'ONE,S-1,2,2026-04-03,400,,120.00,-5 off,,,SJ,Sale,INV-7,C1,Café Ny,EUR,-141.20,-3,each,,kari,2026-04-03,,,',
  "ONE,S-2,1,2026-05-10,500,-40.00,,''+storno,,,SJ,Correction,,,,,,,,,ola,2026-05-11,reversal,U1,",
  'ONE,S-2,2,2026-05-10,100,,-40.00,"two\nlines",,,SJ,Correction,,,,,,,,,ola,2026-05-11,reversal,,',
  'ONE,A-1,1,2027-03-31,500,10.00,,Late cost,13,2027,AJ,Adjust,,,,,,,,,ola,2027-04-20,,U,',
  'ONE,A-1,2,2027-03-31,210,,10.00,Late cost,13,2027,AJ,Adjust,,,,,,,,,ola,2027-04-20,,,',
  'ONE,D-1,1,2026-06-01,500,7.00,,Draft,,,GL,Draft,,,,,,,,unposted,,,,U1,',
  'ONE,D-1,2,2026-06-01,210,,7.00,Draft,,,GL,Draft,,,,,,,,unposted,,,,,',
];

async function prepared(): Promise<Fresh> {
  const fresh = await freshInstallation();
  const calendar = { kind: 'monthly', start: '04', adjustmentPeriods: 1 } as const;
  for (const code of ['ONE', 'TWO', 'EUR']) {
    await addEntity(fresh.ctx, fresh.owner, {
      code,
      name: `Company ${code}`,
      currency: code === 'EUR' ? 'EUR' : 'GBP',
      calendar,
      yearEnd: 'derived',
      retainedEarnings: '300',
    });
  }
  await load(fresh, 'dims.csv', DIMS.join('\n'), { kind: 'dimensions' });
  for (const entity of ['ONE', 'TWO', 'EUR'])
    await load(fresh, 'chart.csv', CHART.join('\n'), { kind: 'accounts', entity });
  return fresh;
}

type Fields = Partial<Parameters<typeof loadFile>[3]>;
const load = (fresh: Fresh, name: string, content: string | Buffer, fields: Fields) =>
  sendFile(fresh, name, content, { kind: 'lines', ...fields });

const EVERYTHING = 'entity=ONE&window=everything&status=all';
async function contentOf(fresh: Fresh): Promise<LineContent[]> {
  const asked = await resolveFigure(fresh.ctx, fresh.owner, readQuery(scopeShape, new URLSearchParams(EVERYTHING)));
  const lines: LineContent[] = [];
  for await (const line of allLines(fresh.ctx, asked)) lines.push(line);
  return lines;
}

/** Digest of what lines hold, over the fields that a format carries. */
const digestOf = (lines: LineContent[], without: string[] = [], breaks = true): string =>
  sha256Text(
    lines
      .map((l) => JSON.stringify(DIGEST_FIELDS[1].filter((f) => !without.includes(f)).map((f) => l[f] ?? null)))
      .map((text) => (breaks ? text : text.replaceAll('\\n', ' ')))
      .sort()
      .join('\n'),
  );

beforeAll(async () => {
  [one, two] = [await prepared(), await prepared()];
  expect(await load(one, 'lines.csv', LINES.join('\n'), {})).toMatchObject({ status: 'loaded', lines: 10, entries: 5 });
});
afterAll(async () => {
  await one?.close();
  await two?.close();
});

describe('written and read back, every format gives the same lines', () => {
  const WITHOUT: Record<ExportFormat, string[]> = {
    csv: [],
    xlsx: [],
    json: [],
    ndjson: [],
    // What a format has no place for: kind and status of a line, and more in the French one.
    ads: [],
    saft: ['kind', 'status', 'side'],
    fec: ['kind', 'status', 'side', 'period', 'quantity', 'entryDescription', 'postedBy', 'dims'],
  };
  test.each(Object.keys(WITHOUT) as ExportFormat[])('%s', async (format) => {
    const { stream, fileName } = await exportData(one.ctx, one.owner, {
      ...readQuery(scopeShape, new URLSearchParams(EVERYTHING)),
      what: 'lines',
      format,
    });
    const path = join(two.env.JUST_THREAD_HOME as string, fileName);
    await pipeline(stream, createWriteStream(path));
    const done = await loadFile(two.ctx, two.owner, path, {
      kind: 'lines',
      entity: 'ONE',
      replaces: '2027.01 to 2027.13',
    });
    expect(done.problems).toEqual([]);
    expect(done).toMatchObject({ status: 'loaded', lines: 10 });
    // Without quotes around fields there is no place for a line break within one.
    const digest = async (of: Fresh) => digestOf(await contentOf(of), WITHOUT[format], format !== 'fec');
    expect(await digest(two)).toBe(await digest(one));
    if (format === 'saft') expect(done.stated?.filter((s) => !s.ok)).toEqual([]);
  });

  test('charts and dimensions too', async () => {
    const scope = readQuery(scopeShape, new URLSearchParams('entity=ONE'));
    for (const format of ['csv', 'xlsx', 'json'] as const) {
      for (const what of ['accounts', 'dimensions'] as const) {
        const read = async (fresh: Fresh): Promise<string> => {
          const { stream } = await exportData(fresh.ctx, fresh.owner, { ...scope, what, format: 'json' });
          let text = '';
          for await (const chunk of stream) text += chunk;
          return text;
        };
        const { stream, fileName } = await exportData(one.ctx, one.owner, { ...scope, what, format });
        const path = join(two.env.JUST_THREAD_HOME as string, fileName);
        await pipeline(stream, createWriteStream(path));
        expect((await loadFile(two.ctx, two.owner, path, { kind: what })).problems).toEqual([]);
        expect(await read(two)).toBe(await read(one));
      }
    }
  });

  test('cells that a spreadsheet would run are written so that it does not', async () => {
    const { stream } = await exportData(one.ctx, one.owner, {
      ...readQuery(scopeShape, new URLSearchParams(EVERYTHING)),
      what: 'lines',
      format: 'csv',
    });
    let text = '';
    for await (const chunk of stream) text += chunk;
    expect(text).toContain(`"'=1+2 ""cash"" sale; <b> & ø"`);
    expect(text).toContain(",'-5 off,");
    expect(text).toContain(",''+storno,");
  });
});

describe('a table laid out in any way', () => {
  const GERMAN = [
    'Journalauszug;;;;;',
    ';;;;;',
    'Belegnr;Buchungsdatum;Konto;Soll;Haben;Buchungstext;Abteilung',
    '4711;03.04.2026;100;1.234,50;;Barverkauf Größe;U',
    '4711;03.04.2026;400;;1.234,50;Barverkauf Größe;U1',
    '4712;30.04.2026;500;99,00;;Löhne €;U1',
    '4712;30.04.2026;100;;99,00;Löhne €;',
  ].join('\r\n');
  const MAPPING: Mapping = {
    name: 'German ledger',
    columns: {
      entry: 'Belegnr',
      date: 'Buchungsdatum',
      account: 'Konto',
      debit: 'Soll',
      credit: 'Haben',
      description: 'Buchungstext',
      'dim:unit': 'Abteilung',
    },
  };

  test.each(['utf-8', 'utf-8-bom', 'utf-16le', 'utf-16be', 'windows-1252', 'iso-8859-15'])(
    'in %s, with decimal comma and titles above',
    async (encoding) => {
      const bytes =
        encoding === 'utf-8-bom'
          ? Buffer.from(`\ufeff${GERMAN}`)
          : iconv.encode(GERMAN, encoding, { addBOM: encoding.startsWith('utf-16') });
      const kept = await keepFile(one.ctx, 'ledger.csv', Readable.from(bytes));
      const seen = await inspectFile(one.ctx, one.owner, kept.digest, { kind: 'lines', entity: 'TWO' });
      expect(seen).toMatchObject({
        unreadable: null,
        reading: { delimiter: ';', decimal: ',', dates: 'dmy', headerRow: 3 },
        missing: [],
      });
      expect(seen.mapping?.columns).toEqual(MAPPING.columns);
      expect(seen.preview).toMatchObject({ problemCount: 0, balanced: true });
      expect(seen.preview?.entries[0]).toMatchObject({
        entry: '4711',
        date: '2026-04-03',
        balances: true,
        lines: [{ line: 1, debit: '1234.50' }, { line: 2 }],
      });
      const replaces = encoding === 'utf-8' ? {} : { replaces: '2027.01' };
      const done = await load(one, 'german.csv', bytes, { entity: 'TWO', mapping: MAPPING as never, ...replaces });
      expect(done).toMatchObject({ status: 'loaded', lines: 4, problems: [] });
      const asked = await resolveFigure(
        one.ctx,
        one.owner,
        readQuery(scopeShape, new URLSearchParams('entity=TWO&window=everything')),
      );
      const texts: string[] = [];
      for await (const line of allLines(one.ctx, asked))
        texts.push(`${line.account} ${line.amount} ${line.description} ${line.members.unit ?? ''}`);
      expect(texts.sort()).toEqual([
        '100 -9900 Löhne € ',
        '100 123450 Barverkauf Größe U',
        '400 -123450 Barverkauf Größe U1',
        '500 9900 Löhne € U1',
      ]);
    },
  );

  test('an entry number that occurs in two journals counts within its journal', async () => {
    const table =
      'Journal;Belegnr;Buchungsdatum;Konto;Soll;Haben;Buchungstext\nSJ;1;30.04.2026;100;5,00;;a\nSJ;1;30.04.2026;400;;5,00;a\nPJ;1;30.04.2026;500;2,00;;b\nPJ;1;30.04.2026;100;;2,00;b';
    const kept = await keepFile(one.ctx, 'journals.csv', Readable.from(Buffer.from(table)));
    const seen = await inspectFile(one.ctx, one.owner, kept.digest, { kind: 'lines', entity: 'TWO' });
    expect(seen.mapping?.columns?.entry).toEqual(['Journal', 'Belegnr']);
    expect(seen.preview?.entries.map((e) => e.entry)).toEqual(['SJ-1', 'PJ-1']);
  });

  test('the kept mapping is offered for the next file of the same shape', async () => {
    const kept = await keepFile(one.ctx, 'next.csv', Readable.from(Buffer.from(GERMAN.replaceAll('4711', '4713'))));
    const seen = await inspectFile(one.ctx, one.owner, kept.digest, { kind: 'lines', entity: 'TWO' });
    expect(seen.offered?.map((o) => o.name)).toEqual(['German ledger']);
  });

  test.each<[string, string, Mapping, RegExp]>([
    [
      'an ambiguous date order is asked',
      'nr,day,acc,amount,text\n1,03/04/2026,100,5.00,a\n1,03/04/2026,400,-5.00,a',
      { columns: { entry: 'nr', date: 'day', account: 'acc', amount: 'amount', description: 'text' } },
      /two ways: “03\/04\/2026” could be day first or month first/,
    ],
    [
      'an ambiguous decimal mark is asked',
      'nr,day,acc,amount,text\n1,2026-04-03,100,"1,234",a\n1,2026-04-03,400,"-1,234",a',
      { columns: { entry: 'nr', date: 'day', account: 'acc', amount: 'amount', description: 'text' } },
      /“1,234” could be thousands/,
    ],
    [
      'a missing field is named',
      'nr,day,acc,text\n1,2026-04-03,100,a',
      { columns: { entry: 'nr', date: 'day', account: 'acc', description: 'text' } },
      /needs the columns/,
    ],
    [
      'a mapped column that is not there is named',
      'nr\n1',
      { columns: { entry: 'number' } },
      /names a column “number”/,
    ],
  ])('%s', async (_name, content, mapping, message) => {
    const done = await load(one, 'asked.csv', content, { entity: 'TWO', mapping: mapping as never });
    expect(done.status).toBe('refused');
    expect(done.problems.map((p) => p.message).join('\n')).toMatch(message);
  });

  test('an amount with its side, an entry number within its journal, numbers like (1 234.50) and 40.00-', async () => {
    const content =
      'jnl,nr,day,acc,amount,dc,text\nSJ,1,13/06/2026,100,(1 234.50),K,x\nSJ,1,13/06/2026,400,1 234.50-,S,x\nPJ,1,14/06/2026,100,40.00-,S,y\nPJ,1,14/06/2026,500,40.00-,H,y';
    const mapping: Mapping = {
      columns: {
        entry: ['jnl', 'nr'],
        journal: 'jnl',
        date: 'day',
        account: 'acc',
        amount: 'amount',
        side: 'dc',
        description: 'text',
      },
    };
    const done = await load(one, 'sides.csv', content, { entity: 'TWO', mapping: mapping as never });
    expect(done).toMatchObject({ status: 'loaded', entries: 2, problems: [] });
    const tb = await readTrialBalance(one.ctx, one.owner, {
      ...readQuery(scopeShape, new URLSearchParams('entity=TWO&from=2027.03&to=2027.03')),
      zero: 'hide',
      tree: 'no',
      yearToDate: 'no',
      retained: 'one',
    });
    expect(Object.fromEntries(tb.rows.map((r) => [r.account, r.movement]))).toMatchObject({
      100: '1194.50',
      400: '-1234.50',
      500: '40.00',
    });
  });
});

describe('containers', () => {
  test('gzip and zip are opened, a bomb is not', async () => {
    const lines = LINES.map((l) => l.replace(/^ONE/, 'EUR'));
    expect(await load(one, 'lines.csv.gz', gzipSync(lines.join('\n')), {})).toMatchObject({
      status: 'loaded',
      lines: 10,
    });
    const zipped = join(one.env.JUST_THREAD_HOME as string, 'lines.zip');
    const archive = new ZipArchive({});
    const written = pipeline(archive, createWriteStream(zipped));
    archive.append('about this delivery', { name: 'READ.ME' });
    archive.append(lines.join('\n'), { name: 'out/lines.csv' });
    await archive.finalize();
    await written;
    expect(
      await loadFile(one.ctx, one.owner, zipped, { kind: 'lines', entity: 'EUR', replaces: '2027.01 to 2027.13' }),
    ).toMatchObject({
      status: 'loaded',
      replaced: 10,
    });
    const bomb = await load(
      one,
      'bomb.csv.gz',
      gzipSync(Buffer.concat([Buffer.from(`${HEAD}\n`), Buffer.alloc(8 * 1024 ** 2, `${'a'.repeat(5_000)}\n`)])),
      {},
    );
    expect(bomb.status).toBe('refused');
    expect(bomb.problems.at(-1)?.message).toMatch(/unfolds to far more/);
  });

  test('XML with a document type or an external entity is not read', async () => {
    const evil =
      '<?xml version="1.0"?><!DOCTYPE AuditFile [<!ENTITY x SYSTEM "file:///etc/passwd">]><AuditFile>&x;</AuditFile>';
    expect((await load(one, 'evil.xml', evil, { entity: 'TWO' })).problems[0]?.message).toMatch(/document type/);
    expect((await load(one, 'other.xml', '<Other/>', { entity: 'TWO' })).problems[0]?.message).toMatch(
      /no standard audit file/,
    );
  });

  test('an audit file whose stated totals are not those of its lines is refused', async () => {
    const { stream } = await exportData(one.ctx, one.owner, {
      ...readQuery(scopeShape, new URLSearchParams(EVERYTHING)),
      what: 'lines',
      format: 'saft',
    });
    let text = '';
    for await (const chunk of stream) text += chunk;
    const done = await load(two, 'short.xml', text.replace(/<TotalDebit>[^<]*/, '<TotalDebit>1.00'), { entity: 'TWO' });
    expect(done).toMatchObject({
      status: 'refused',
      problems: [{ message: expect.stringMatching(/states 1\.00 as its debits/) }],
    });
  });
});

test('a French entries file of another ledger loads as it is, accounts made by their class', async () => {
  const head =
    'JournalCode|JournalLib|EcritureNum|EcritureDate|CompteNum|CompteLib|CompAuxNum|CompAuxLib|PieceRef|PieceDate|EcritureLib|Montant|Sens|EcritureLet|DateLet|ValidDate|Montantdevise|Idevise';
  const rows = [
    'VT|Ventes|1|20260405|411000|Clients|C9|Ciel Bleu|F-1|20260405|Facture|120,00|D|||20260406|0,00|',
    'VT|Ventes|1|20260405|706000|Prestations|||F-1|20260405|Facture|120,00|C|||20260406|0,00|',
  ];
  const done = await load(two, 'entries.txt', [head, ...rows].join('\r\n'), {
    entity: 'EUR',
    unknownAccounts: 'create',
  });
  expect(done).toMatchObject({ status: 'loaded', format: 'fec', lines: 2, problems: [] });
  const scope = readQuery(scopeShape, new URLSearchParams('entity=EUR&window=everything'));
  const tb = await readTrialBalance(two.ctx, two.owner, {
    ...scope,
    zero: 'hide',
    tree: 'no',
    yearToDate: 'no',
    retained: 'one',
  });
  expect(tb.rows.map((r) => [r.account, r.name, r.type, r.closing])).toEqual([
    ['411000', 'Clients', 'asset', '120.00'],
    ['706000', 'Prestations', 'income', '-120.00'],
  ]);
  expect(readFileSync(join(two.ctx.files.folder, done.digest), 'latin1')).toContain('Ciel Bleu');
});

test('in a French entries file a quotation mark is a letter of a name, wherever it stands', async () => {
  const head =
    'JournalCode|JournalLib|EcritureNum|EcritureDate|CompteNum|CompteLib|CompAuxNum|CompAuxLib|PieceRef|PieceDate|EcritureLib|Montant|Sens';
  const rows = [
    'VT|Ventes|7|20260405|411000|Clients|C8|"Le Grand" Bleu|F-7|20260405|"Facture|60,00|D',
    'VT|Ventes|7|20260405|706000|Prestations|||F-7|20260405|Facture "bis"|60,00|C',
  ];
  const done = await load(two, 'nicknames.txt', [head, ...rows].join('\r\n'), {
    entity: 'EUR',
    unknownAccounts: 'create',
  });
  expect(done).toMatchObject({ status: 'loaded', format: 'fec', lines: 2, problems: [] });
  const query = readQuery(linesShape, new URLSearchParams('entity=EUR&window=everything&document=F-7'));
  const { rows: lines } = await readLines(two.ctx, two.owner, query);
  expect(lines.map((l) => l.description).sort()).toEqual(['"Facture', 'Facture "bis"']);
});
