import { spawnSync } from 'node:child_process';
import { createWriteStream, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { pathToFileURL } from 'node:url';
import { ZipArchive } from 'archiver';
import ExcelJS from 'exceljs';
import { archiveMember, archiveNames } from '@/exchange/archive';

/** Formulas of a workbook, and those of which a spreadsheet program makes another value than stands in the file. */
export interface Recalculated {
  formulas: number;
  /** Each with its sheet and cell, what stands in the file and what it comes to. */
  differing: string[];
}

/** Amounts have four decimals at most; beneath is what binary fractions leave. */
const NEAR = 1e-6;

/** Formulas are worked out when a workbook is opened, whoever wrote it, and not read from it. */
const ALWAYS = `<?xml version="1.0" encoding="UTF-8"?>
<oor:items xmlns:oor="http://openoffice.org/2001/registry">
<item oor:path="/org.openoffice.Office.Calc/Formula/Load"><prop oor:name="OOXMLRecalcMode" oor:op="fuse"><value>0</value></prop></item>
</oor:items>`;

/**
 * Has LibreOffice work out all formulas of a workbook, in which wrong values were put before, so that none is just read; and
 * holds what it makes against what the file says.
 * @throws Error where it does not open
 */
export async function recalculated(bytes: Buffer): Promise<Recalculated> {
  const folder = mkdtempSync(join(tmpdir(), 'just-thread-recalculated-'));
  try {
    const [profile, file] = [join(folder, 'profile'), join(folder, 'wrong.xlsx')];
    mkdirSync(join(profile, 'user'), { recursive: true });
    writeFileSync(join(profile, 'user', 'registrymodifications.xcu'), ALWAYS);
    await pipeline((await withWrongValues(bytes)) as never, createWriteStream(file));
    const done = spawnSync(
      'soffice',
      [
        `-env:UserInstallation=${pathToFileURL(profile).href}`,
        ...['--headless', '--convert-to', 'xlsx:Calc MS Excel 2007 XML', '--outdir', join(folder, 'out'), file],
      ],
      { encoding: 'utf8', timeout: 300_000 },
    );
    if (done.status !== 0) throw new Error(`the spreadsheet program did not open it: ${done.stderr ?? ''}`);
    const said = formulasOf(await read(bytes));
    const worked = formulasOf(await read(readFileSync(join(folder, 'out', 'wrong.xlsx'))));
    const differing = [...said].flatMap(([place, was]) => {
      const now = worked.get(place);
      if (now === undefined) return [`${place}: no formula any more`];
      return Math.abs(was - now) > NEAR ? [`${place}: ${was} in the file, ${now} worked out`] : [];
    });
    return { formulas: said.size, differing };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The same workbook in which every formula says that it came to something else. */
async function withWrongValues(bytes: Buffer): Promise<ZipArchive> {
  const zip = new ZipArchive({});
  for (const name of await archiveNames(bytes)) {
    const content = await buffer(await archiveMember(bytes, name));
    const isSheet = /^xl\/worksheets\/[^/]+\.xml$/.test(name);
    zip.append(isSheet ? content.toString('utf8').replace(/<\/f><v>[^<]*<\/v>/g, '</f><v>1234567</v>') : content, {
      name,
    });
  }
  void zip.finalize();
  return zip;
}

async function read(bytes: Buffer): Promise<ExcelJS.Workbook> {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(bytes as unknown as ExcelJS.Buffer);
  return book;
}

/** What the formulas of a workbook came to, by sheet and cell. */
function formulasOf(book: ExcelJS.Workbook): Map<string, number> {
  const found = new Map<string, number>();
  book.eachSheet((sheet) =>
    sheet.eachRow((row) =>
      row.eachCell((cell) => {
        const value = cell.value as ExcelJS.CellFormulaValue | null;
        // Of what comes to nothing the reader has no result.
        if (value !== null && typeof value === 'object' && 'formula' in value && value.formula)
          found.set(`${sheet.name}!${cell.address}`, Number(value.result ?? 0));
      }),
    ),
  );
  return found;
}
