import { createWriteStream, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { ZipArchive } from 'archiver';

/**
 * Files made to harm whoever reads them, each with what is said when it is refused. Sizes are those with which an attack
 * stopped the server once; `share` makes them smaller, where only the refusal is asked for.
 */
export interface Hostile {
  name: string;
  /** What makes it harmful. */
  harm: string;
  says: RegExp;
  make(path: string, share: number): Promise<void>;
}

const MB = 1024 ** 2;
const HEAD = 'entry,line,date,account,amount,description\n';

/** Pieces again and again, never held whole. */
function* repeated(piece: string | Buffer, times: number): Generator<Buffer> {
  const buffer = Buffer.from(piece);
  for (let i = 0; i < times; i++) yield buffer;
}

const streamed = (parts: () => Iterable<Buffer>): Readable => Readable.from(parts());

const written = (path: string, parts: () => Iterable<Buffer>): Promise<void> =>
  pipeline(streamed(parts), createWriteStream(path));

async function zipped(path: string, members: Record<string, Readable | string | Buffer>): Promise<void> {
  const archive = new ZipArchive({ zlib: { level: 6 } });
  const done = pipeline(archive, createWriteStream(path));
  for (const [name, content] of Object.entries(members)) archive.append(content, { name });
  await archive.finalize();
  await done;
}

/** The parts that a workbook needs around its one sheet. */
const workbook = (
  sheet: Readable | string,
  more: Record<string, Readable | string> = {},
): Record<string, Readable | string> => ({
  '[Content_Types].xml': `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`,
  '_rels/.rels': `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
  'xl/workbook.xml': `<?xml version="1.0"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Sheet1" sheetId="1" r:id="rId1"/></sheets></workbook>`,
  'xl/_rels/workbook.xml.rels': `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
  ...more,
  'xl/worksheets/sheet1.xml': sheet,
});

const SHEET =
  '<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>';
const END = '</sheetData></worksheet>';
const inline = (row: number, column: string, text: string): string =>
  `<c r="${column}${row}" t="inlineStr"><is><t>${text}</t></is></c>`;
const HEAD_ROW = `<row r="1">${['entry', 'line', 'date', 'account', 'amount'].map((name, i) => inline(1, 'ABCDE'[i] as string, name)).join('')}</row>`;

/** A sheet of so many rows, each of one text of so many megabytes. */
function* longCells(rows: number, megabytes: number): Generator<Buffer> {
  yield Buffer.from(SHEET + HEAD_ROW);
  for (let row = 2; row < rows + 2; row++) {
    yield Buffer.from(`<row r="${row}"><c r="A${row}" t="inlineStr"><is><t>`);
    yield* repeated('a'.repeat(MB), megabytes);
    yield Buffer.from('</t></is></c></row>');
  }
  yield Buffer.from(END);
}

/** A sheet of very many small rows. */
function* manyRows(megabytes: number): Generator<Buffer> {
  yield Buffer.from(SHEET + HEAD_ROW);
  const row = `<row>${inline(0, '', 'a').replace(' r="0"', '')}</row>`;
  yield* repeated(row.repeat(Math.ceil(MB / row.length)), megabytes);
  yield Buffer.from(END);
}

const text = (make: (share: number) => () => Iterable<Buffer>) => (path: string, share: number) =>
  written(path, make(share));

const part = (most: number, share: number, least = 1): number => Math.max(least, Math.round(most * share));

export const HOSTILE: readonly Hostile[] = [
  {
    name: 'long-cells.xlsx.zip',
    harm: 'a workbook in a zip, 68 rows of one cell of 30 MB each, in 2 MB',
    says: /unfolds to far more than its size|a cell of the workbook has more than/,
    async make(path, share) {
      await zipped(`${path}.inner`, workbook(streamed(() => longCells(part(68, share), 30))));
      await zipped(path, { 'book.xlsx': readFileSync(`${path}.inner`) });
    },
  },
  {
    name: 'long-cells.xlsx',
    harm: 'the same workbook by itself',
    says: /unfolds to far more than its size|a cell of the workbook has more than/,
    make: (path, share) => zipped(path, workbook(streamed(() => longCells(part(68, share), 30)))),
  },
  {
    name: 'forged.xlsx',
    harm: 'a workbook that says that its parts are small',
    says: /damaged|has more than|unfolds to far more/,
    async make(path, share) {
      await zipped(path, workbook(streamed(() => longCells(part(10, share), 30))));
      const bytes = readFileSync(path);
      // Central directory entries: the stated size of what is unfolded is 24 bytes in.
      for (
        let at = bytes.indexOf('PK\x01\x02', 0, 'latin1');
        at >= 0;
        at = bytes.indexOf('PK\x01\x02', at + 4, 'latin1')
      )
        bytes.writeUInt32LE(1_000, at + 24);
      writeFileSync(path, bytes);
    },
  },
  {
    name: 'hidden-part.xlsx',
    harm: 'a workbook with a part that its list leaves out',
    says: /parts that its list leaves out/,
    async make(path, share) {
      await zipped(path, workbook(`${SHEET}${HEAD_ROW}${END}`));
      await zipped(`${path}.inner`, { 'xl/worksheets/sheet1.xml': streamed(() => manyRows(part(400, share, 20))) });
      const whole = readFileSync(path);
      const other = readFileSync(`${path}.inner`);
      const hidden = other.subarray(0, other.lastIndexOf('PK\x01\x02', undefined, 'latin1'));
      const list = whole.indexOf('PK\x01\x02', 0, 'latin1');
      const end = Buffer.from(whole.subarray(list));
      end.writeUInt32LE(list + hidden.length, end.lastIndexOf('PK\x05\x06', undefined, 'latin1') + 16);
      writeFileSync(path, Buffer.concat([whole.subarray(0, list), hidden, end]));
    },
  },
  {
    name: 'many-rows.xlsx',
    harm: 'a sheet of 1.8 GB in a workbook of 2 MB',
    says: /unfolds to far more than its size/,
    make: (path, share) => zipped(path, workbook(streamed(() => manyRows(part(1_800, share, 80))))),
  },
  {
    name: 'shared-strings.xlsx',
    harm: '250 MB of texts that a workbook keeps once for all cells',
    says: /MB of texts|unfolds to far more/,
    make: (path, share) =>
      zipped(
        path,
        workbook(`${SHEET}${HEAD_ROW}${END}`, {
          'xl/sharedStrings.xml': streamed(function* () {
            yield Buffer.from(
              '<?xml version="1.0"?><sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">',
            );
            let n = 0;
            // Different each time, so that it is packed no better than an honest file.
            for (let mb = 0; mb < part(250, share, 165); mb++) {
              let piece = '';
              while (piece.length < MB) piece += `<si><t>text ${(n++ * 2_654_435_761).toString(36)} of a line</t></si>`;
              yield Buffer.from(piece);
            }
            yield Buffer.from('</sst>');
          }),
        }),
      ),
  },
  {
    name: 'far-column.xlsx',
    harm: 'a cell in a column that there is not',
    says: /cannot be read|reaches to column/,
    make: (path) => zipped(path, workbook(`${SHEET}${HEAD_ROW}<row r="2">${inline(2, 'ZZZZZ', 'x')}</row>${END}`)),
  },
  {
    name: 'entity.xlsx',
    harm: 'an XML entity that is not defined',
    says: /cannot be read/,
    make: (path) => zipped(path, workbook(`${SHEET}${HEAD_ROW}<row r="2">${inline(2, 'A', '&nothing;')}</row>${END}`)),
  },
  {
    name: 'endless-line.csv.gz',
    harm: 'a line of 800 MB in 800 kB',
    says: /unfolds to far more|a line of the file has more than/,
    make: (path, share) =>
      pipeline(
        streamed(function* () {
          yield Buffer.from(HEAD);
          yield* repeated('a'.repeat(MB), part(800, share, 10));
        }),
        createGzip(),
        createWriteStream(path),
      ),
  },
  {
    name: 'long-cells.csv.gz',
    harm: 'long cells that unfold to less than two hundred times their size',
    says: /a line of the file has more than|characters; at most/,
    make: (path, share) =>
      pipeline(
        streamed(function* () {
          yield Buffer.from(HEAD);
          let seed = 1;
          for (let row = 0; row < part(40, share, 2); row++) {
            yield Buffer.from(`${row},1,2026-04-03,100,1.00,`);
            for (let kb = 0; kb < 1_500; kb++) {
              seed = (seed * 48_271) % 2_147_483_647;
              yield Buffer.from(seed.toString(36).padEnd(1_024, 'b'));
            }
            yield Buffer.from('\n');
          }
        }),
        createGzip(),
        createWriteStream(path),
      ),
  },
  {
    name: 'unclosed-quote.csv',
    harm: 'a quote that is opened and never closed, 150 MB',
    says: /cannot be read as CSV|a line of the file has more than/,
    make: text(
      (share) =>
        function* () {
          yield Buffer.from(`${HEAD}1,1,2026-04-03,100,1.00,"open\n`);
          yield* repeated('2,1,2026-04-03,100,1.00,more\n'.repeat(36_000), part(150, share, 4));
        },
    ),
  },
  {
    name: 'endless-line.ndjson',
    harm: 'a line of 150 MB',
    says: /a line of the file has more than|cannot be read/,
    make: text(
      (share) =>
        function* () {
          yield Buffer.from(
            '{"entry":"1","line":"1","date":"2026-04-03","account":"100","amount":"1.00","description":"x"}\n{"entry":"',
          );
          yield* repeated('a'.repeat(MB), part(150, share, 4));
          yield Buffer.from('"}\n');
        },
    ),
  },
  {
    name: 'million-columns.csv',
    harm: 'a row of a million columns, 10 MB',
    says: /a line of the file has more than|columns; a table has at most/,
    make: text((share) => () => repeated('column,at,', part(1_000_000, share, 100_000))),
  },
  {
    name: 'million-empty-cells.csv',
    harm: 'five rows of a million empty cells each, 5 MB',
    says: /columns; a table has at most/,
    make: text(() => () => repeated(`${','.repeat(1_000_000)}\n`, 5)),
  },
  {
    name: 'nested.json',
    harm: 'JSON nested five million deep, 5 MB',
    says: /is nested more than/,
    make: text(() => () => repeated('['.repeat(1_000_000), 5)),
  },
  {
    name: 'nested-records.json',
    harm: 'a list of records, each nested',
    says: /is nested more than/,
    make: text(
      () =>
        function* () {
          yield Buffer.from('[{"entry":"1"},{"entry":');
          yield* repeated('{"a":'.repeat(1_000), 100);
        },
    ),
  },
  {
    name: 'long-field.csv',
    harm: 'one cell of 100 MB',
    says: /a line of the file has more than/,
    make: text(
      (share) =>
        function* () {
          yield Buffer.from(`${HEAD}1,1,2026-04-03,100,1.00,"`);
          yield* repeated('a'.repeat(MB), part(100, share, 4));
          yield Buffer.from('"\n');
        },
    ),
  },
  {
    name: 'many-elements.xml',
    harm: 'an audit file whose one line has a million elements',
    says: /has more than 10000 elements/,
    make: text(
      (share) =>
        function* () {
          yield Buffer.from('<AuditFile><GeneralLedgerEntries><Journal><Transaction><Line>');
          yield* repeated('<a/>'.repeat(10_000), part(100, share, 2));
          yield Buffer.from('</Line></Transaction></Journal></GeneralLedgerEntries></AuditFile>');
        },
    ),
  },
];

/** Makes one of them in a folder. @returns its path */
export async function makeHostile(folder: string, hostile: Hostile, share = 1): Promise<string> {
  const path = join(folder, hostile.name.replace(/\.xlsx\.zip$/, '.zip'));
  await hostile.make(path, share);
  return path;
}
