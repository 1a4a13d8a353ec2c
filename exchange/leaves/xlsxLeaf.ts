import { PassThrough, type Readable } from 'node:stream';
import ExcelJS from 'exceljs';
import { digested, type Leaf, type LeafCell, type LeafColumn, type LeafRow, onFile, plainCell } from '@/core/leaf';
import { add, type Minor } from '@/core/money';
import { headFacts, type Leaving } from './leaving';
import { letters } from './letters';
import { type Sealing, sealing } from './seal';

/** Beyond so many digits a spreadsheet's binary numbers are no longer exact; such amounts are written as text. */
const EXACT_DIGITS = 15;
/** Rows of a sheet (ECMA-376 programs hold 2^20), with some room for what stands below them. */
const ROWS_MAX = 1_048_000;
/** Levels that a spreadsheet folds. */
const LEVELS_MAX = 7;
const ARGUMENTS_MAX = 200;
const FORMULA_MAX = 8_000;
/** So many rows have what is behind them in the same file; what has more is told to say so. */
const BEHIND_MAX = 2_000;
const NAME_MAX = 31;
/** After so many rows it is looked whether they are taken. */
const PACE = 500;
const HELD_MAX = 4 * 1024 ** 2;

const WARNING =
  'The ledger behind these figures is not in this file. Their links lead to the live ledger; take the sheet out with details to have accounts and lines in the file.';

/**
 * Leaves as a workbook (ECMA-376), a sheet each: real numbers and dates, levels that fold, totals as formulas over the rows that they
 * add, and each row linked to what is behind it, in further sheets of the file as far as was asked and live beyond it.
 * Rows are written as they are read.
 */
export function xlsxLeaves(leaves: readonly Leaf[], leaving: Leaving): Readable {
  const out = new PassThrough();
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream: out, useStyles: true, useSharedStrings: false });
  book.creator = leaving.by;
  book.created = new Date(leaving.at);
  book.title = leaving.title ?? leaves[0]?.title ?? '';
  const seal = leaving.signer && sealing();
  const fill = async (): Promise<void> => {
    const writer = new Sheets(book, out, leaving, seal);
    for (const leaf of leaves) await writer.main(leaf, leaves.length === 1);
    await writer.behind();
    if (seal && leaving.signer) await seal.write(book, leaving.signer);
    await book.commit();
  };
  fill().catch((error: Error) => out.destroy(error));
  return out;
}

interface Wanted {
  sheet: string;
  cell: string;
  label: string;
  path: string;
  level: number;
}

class Sheets {
  private readonly names = new Set<string>();
  /** What is still to be written of what is behind. */
  private wanted: Wanted[] = [];
  private readonly of: Leaving;

  constructor(
    private readonly book: ExcelJS.stream.xlsx.WorkbookWriter,
    private readonly out: PassThrough,
    leaving: Leaving,
    private readonly seal: Sealing | null,
  ) {
    this.of = leaving;
  }

  /** @param alone whether it is the one sheet of the file, and bears the name that the file was given */
  async main(leaf: Leaf, alone: boolean): Promise<void> {
    const name = alone ? (this.of.title ?? leaf.title) : leaf.title;
    await this.written({ ...leaf, title: name }, { name, level: 0, back: null });
  }

  /** What is behind the rows, one sheet for each, in the order of the rows. */
  async behind(): Promise<void> {
    for (let next = this.wanted.shift(); next; next = this.wanted.shift()) {
      const leaf = await this.of.behind(next.path);
      await this.written(leaf, {
        name: next.sheet,
        level: next.level,
        back: { says: `Back to ${next.label}`, to: next.cell },
      });
    }
  }

  private async written(
    given: Leaf,
    { name, level, back }: { name: string; level: number; back: { says: string; to: string } | null },
  ): Promise<void> {
    const { leaf, digest } = digested(onFile(given));
    const { columns } = leaf;
    const noted = given.noted === true;
    const width = columns.length + (noted ? 1 : 0);
    const facts = this.of.heading ? headFacts(leaf, this.of) : [];
    const above =
      [back, this.of.heading, this.of.heading && this.of.letterhead?.name].filter(Boolean).length + facts.length;
    // Title, what is above, an empty row, the heads.
    let sheet = this.begun(back ? name : this.fresh(name), columns, noted, above + 3);
    let put = new Rows(sheet, this.seal, this.of.decimals);
    put.text(leaf.title, { bold: true, size: 14 });
    if (back) put.link(back.says, back.to);
    if (this.of.heading) {
      if (this.of.letterhead?.name) put.text(this.of.letterhead?.name, { bold: true });
      put.text(leaf.sentence, { italic: true });
      for (const [fact, says] of facts) put.pair(fact, says);
    }
    put.nothing();
    const heads = put.heads([...columns.map((c) => c.label), ...(noted ? ['Notes'] : [])], columns);
    sheet.pageSetup.printTitlesRow = `${heads}:${heads}`;
    const sums = Array.isArray(given.rows) ? await sumsOf(given.rows as LeafRow[], columns) : null;
    const counted = new Counted(columns);
    let index = 0;
    const first = put.row + 1;
    for await (const row of leaf.rows) {
      if (index % PACE === 0) await this.drained();
      if (put.row >= ROWS_MAX) {
        this.ended(sheet, width, put.row);
        const more = this.fresh(name);
        sheet = this.begun(more, columns, noted, 1);
        put = new Rows(sheet, this.seal, this.of.decimals);
        put.heads([...columns.map((c) => c.label), ...(noted ? ['Notes'] : [])], columns);
      }
      const at = put.row + 1;
      const formulas = sums ? sums.formulasOf(index, first) : {};
      put.cells(columns, row, formulas, noted);
      if (row.counts) counted.add(sheet.name, at, row.cells);
      this.linked(sheet, at, row, columns, formulas, level);
      index += 1;
    }
    if (leaf.total) put.total(columns, leaf.total.cells, counted.formulas(sheet.name, leaf.total.cells));
    put.nothing();
    for (const says of leaf.proofs()) put.pair('Proof', says);
    put.pair('Digest', `SHA-256 ${digest()}`);
    if (level === 0 && this.of.details === 0) put.text(WARNING, { italic: true });
    if (this.of.footer) put.text(this.of.footer, {});
    this.ended(sheet, width, put.row);
  }

  /** Waits until whoever takes the file has taken most of it, so that a large one is never held whole. */
  private async drained(): Promise<void> {
    // Rows at hand are read without a pause: others of this process, and whoever goes, are let in here.
    await new Promise((resolve) => setImmediate(resolve));
    while (!this.out.destroyed && this.out.writableLength > HELD_MAX)
      await new Promise((resolve) => setTimeout(resolve, 5));
    // Whoever asked for it has gone: nothing more of it is read.
    if (this.out.destroyed) throw new Error('nobody takes this file any more');
  }

  private begun(name: string, columns: readonly LeafColumn[], noted: boolean, heads: number): ExcelJS.Worksheet {
    const { size, orientation } = this.of.paper;
    const landscape = orientation === 'landscape' || (orientation === 'fitting' && columns.length > 6);
    const naming = columns.findIndex((c) => c.is !== 'text' && c.is !== 'date');
    const sheet = this.book.addWorksheet(name, {
      views: [{ state: 'frozen', ySplit: heads, xSplit: Math.max(0, naming) }],
      properties: { outlineProperties: { summaryBelow: false, summaryRight: false } } as never,
      pageSetup: {
        ...(SPREADSHEET_PAPER[size] === undefined ? {} : { paperSize: SPREADSHEET_PAPER[size] }),
        orientation: landscape ? 'landscape' : 'portrait',
        fitToPage: true,
        fitToWidth: 1,
        fitToHeight: 0,
      },
      headerFooter: { oddFooter: `&L${(this.of.footer ?? '').replaceAll('&', '&&')}&RPage &P of &N` },
    });
    sheet.columns = [...columns.map((c) => ({ width: c.width })), ...(noted ? [{ width: 60 }] : [])];
    return sheet;
  }

  private ended(sheet: ExcelJS.Worksheet, width: number, rows: number): void {
    sheet.pageSetup.printArea = `A1:${letters(width)}${rows}`;
    // Whoever is to see that a figure was changed has the seal; the lock only keeps hands from slipping.
    if (this.seal) void sheet.protect('', { selectLockedCells: true, selectUnlockedCells: true, formatColumns: true });
    sheet.commit();
  }

  /** Each figure of a row leads to what is behind it: in this file as far as was asked, else live. */
  private linked(
    sheet: ExcelJS.Worksheet,
    at: number,
    row: LeafRow,
    columns: readonly LeafColumn[],
    formulas: Formulas,
    level: number,
  ): void {
    if (row.behind === null) return;
    const within = level < this.of.details && this.wanted.length < BEHIND_MAX;
    // What is a formula is told from what it adds; there the words lead on, since readers take a link or a formula of a cell.
    const figures = columns.flatMap((c, i) => {
      const isFigure = c.is !== 'text' && c.is !== 'date' && formulas[c.key] === undefined;
      return isFigure || (i === nameAt(columns) && Object.keys(formulas).length > 0) ? [`${letters(i + 1)}${at}`] : [];
    });
    let target = this.of.link(row.behind);
    if (within && figures.length > 0) {
      const label = [row.cells.code ?? row.cells.account, row.cells.name]
        .filter((c) => typeof c === 'string')
        .join(' ');
      const name = this.fresh(label || row.key);
      this.wanted.push({
        sheet: name,
        cell: `${quoted(sheet.name)}!A${at}`,
        label: sheet.name,
        path: row.behind,
        level: level + 1,
      });
      target = `#${quoted(name)}!A1`;
    }
    for (const address of figures) linkCell(sheet, address, target);
  }

  /** A name that no sheet has yet, without what names of sheets may not hold. */
  private fresh(wanted: string): string {
    const plain =
      wanted
        .replace(/[\\/*?:[\]']/g, ' ')
        .replace(/\s+/g, ' ')
        .trim() || 'Sheet';
    for (let n = 1; ; n += 1) {
      const suffix = n === 1 ? '' : ` ${n}`;
      const name = `${plain.slice(0, NAME_MAX - suffix.length).trim()}${suffix}`;
      if (this.names.has(name.toLowerCase())) continue;
      this.names.add(name.toLowerCase());
      return name;
    }
  }
}

const SPREADSHEET_PAPER: Record<Leaving['paper']['size'], number | undefined> = { a4: 9, a3: 8, letter: 1, legal: 5 };

/** A link on a cell that stays a number: the writer has links on texts only, and takes others by its list of them. */
function linkCell(sheet: ExcelJS.Worksheet, address: string, target: string): void {
  const { _sheetRelsWriter: writer } = sheet as unknown as {
    _sheetRelsWriter: { addHyperlink(link: { address: string; target: string }): void };
  };
  writer.addHyperlink({ address, target });
}

const quoted = (sheet: string): string => `'${sheet.replaceAll("'", "''")}'`;

type CellValue = string | number | Date | null;

function written(cell: LeafCell | undefined, { is, digits }: LeafColumn): CellValue {
  const text = plainCell(cell, digits);
  if (text === null || text === '') return null;
  if (typeof cell === 'string')
    return is === 'date' && /^\d{4}-\d\d-\d\d$/.test(text) ? new Date(`${text}T00:00:00Z`) : text;
  if (!isExact(text)) return text;
  return is === 'share' ? Number(text) / 100 : Number(text);
}

const isExact = (text: string): boolean => text.replace(/\D/g, '').length <= EXACT_DIGITS;

/** How a number is shown; what the cell holds is exact whatever is shown of it. */
function formatOf({ is, digits }: LeafColumn, shown: Leaving['decimals']): string | null {
  const decimals = digits === 0 ? '' : `.${'0'.repeat(digits)}`;
  if (is === 'amount' && shown !== 'exact') return shown === 'thousands' ? '#,##0,;-#,##0,;0' : '#,##0;-#,##0;0';
  if (is === 'amount') return `#,##0${decimals};-#,##0${decimals};${digits === 0 ? '0' : `0${decimals}`}`;
  if (is === 'share') return '0.0%';
  if (is === 'date') return 'yyyy-mm-dd';
  if (is === 'count') return '#,##0';
  return is === 'quantity' ? '#,##0.######' : null;
}

/** Writes rows of a sheet one after the other, and has each sealed. */
class Rows {
  row = 0;

  constructor(
    private readonly sheet: ExcelJS.Worksheet,
    private readonly seal: Sealing | null,
    private readonly shown: Leaving['decimals'],
  ) {}

  text(says: string, font: Partial<ExcelJS.Font>): void {
    const row = this.begin([says]);
    row.getCell(1).font = font;
    this.end(row);
  }

  pair(name: string, says: string): void {
    const row = this.begin([name, says]);
    row.getCell(1).font = { color: { argb: 'FF6B6459' } };
    this.end(row);
  }

  link(says: string, to: string): void {
    this.end(this.begin([{ text: says, hyperlink: `#${to}` }]));
  }

  nothing(): void {
    this.end(this.begin([]));
  }

  /** @returns the number of the row of heads */
  heads(labels: readonly string[], columns: readonly LeafColumn[]): number {
    const row = this.begin([...labels]);
    for (const [i, _] of labels.entries()) {
      const cell = row.getCell(i + 1);
      const is = columns[i]?.is ?? 'text';
      cell.font = { bold: true };
      cell.alignment = {
        wrapText: true,
        vertical: 'bottom',
        horizontal: is === 'text' || is === 'date' ? 'left' : 'right',
      };
      cell.border = { bottom: { style: 'medium' } };
    }
    this.end(row);
    return this.row;
  }

  cells(columns: readonly LeafColumn[], row: LeafRow, formulas: Formulas, noted: boolean): void {
    const line = this.begin([
      ...columns.map((c) => withFormula(written(row.cells[c.key], c), formulas[c.key])),
      ...(noted ? [(row.notes ?? []).join('\n')] : []),
    ]);
    if (row.depth > 0) line.outlineLevel = Math.min(LEVELS_MAX, row.depth);
    const bold = row.look !== 'plain';
    for (const [i, column] of columns.entries()) {
      const cell = line.getCell(i + 1);
      const format = formatOf(column, this.shown);
      if (format && typeof row.cells[column.key] !== 'undefined') cell.numFmt = format;
      if (bold) cell.font = { bold };
      if (row.look === 'subtotal' || row.look === 'total')
        cell.border = {
          top: { style: 'thin' },
          ...(row.look === 'total' ? { bottom: { style: 'double' as const } } : {}),
        };
      if (i === nameAt(columns) && row.depth > 0) cell.alignment = { indent: Math.min(LEVELS_MAX, row.depth) };
    }
    this.end(line);
  }

  total(columns: readonly LeafColumn[], cells: LeafRow['cells'], formulas: Formulas): void {
    const line = this.begin(columns.map((c) => withFormula(written(cells[c.key], c), formulas[c.key])));
    for (const [i, column] of columns.entries()) {
      const cell = line.getCell(i + 1);
      const format = formatOf(column, this.shown);
      if (format) cell.numFmt = format;
      cell.font = { bold: true };
      cell.border = { top: { style: 'thin' }, bottom: { style: 'double' } };
    }
    this.end(line);
  }

  private begin(values: ExcelJS.CellValue[]): ExcelJS.Row {
    this.row += 1;
    return this.sheet.addRow(values);
  }

  private end(row: ExcelJS.Row): void {
    this.seal?.row(this.sheet.name, row);
    row.commit();
  }
}

const nameAt = (columns: readonly LeafColumn[]): number =>
  Math.max(
    0,
    columns.findIndex((c) => c.key === 'name'),
  );

type Formulas = Readonly<Record<string, string>>;

const withFormula = (value: CellValue, formula: string | undefined): ExcelJS.CellValue =>
  formula !== undefined && typeof value === 'number' ? { formula, result: value } : value;

/** Rows of one column as the parts of a sum, each run of rows as one. */
const rangesOf = (letter: string, rows: readonly number[], sheet = ''): string[] => {
  const ranges: string[] = [];
  for (let i = 0; i < rows.length; ) {
    let to = i;
    while (rows[to + 1] === (rows[to] as number) + 1) to += 1;
    ranges.push(`${sheet}${letter}${rows[i]}${to > i ? `:${letter}${rows[to]}` : ''}`);
    i = to + 1;
  }
  return ranges;
};

/** A sum of ranges, rounded to the decimals of its amounts, since programs add binary numbers; null where it is too long. */
function sumText(ranges: readonly string[], digits: number): string | null {
  if (ranges.length === 0) return null;
  const sums: string[] = [];
  for (let i = 0; i < ranges.length; i += ARGUMENTS_MAX)
    sums.push(`SUM(${ranges.slice(i, i + ARGUMENTS_MAX).join(',')})`);
  const text = `ROUND(${sums.join('+')},${digits})`;
  return text.length > FORMULA_MAX ? null : text;
}

const amountAt = (cells: LeafRow['cells'], key: string): Minor | null => {
  const cell = cells[key];
  return cell !== null && typeof cell === 'object' && cell.is === 'amount' ? cell.amount : null;
};

/** Formulas of rows that others come to, each only where what it adds comes to what the row says. */
async function sumsOf(rows: readonly LeafRow[], columns: readonly LeafColumn[]) {
  const at = new Map(rows.map((r, i) => [r.key, i]));
  const ofBeneath = (index: number, { key, digits }: LeafColumn, letter: string, first: number): string | null => {
    const parts: number[] = [];
    let sum: Minor = 0;
    for (let i = index + 1; i < rows.length && (rows[i] as LeafRow).depth > (rows[index] as LeafRow).depth; i += 1) {
      const row = rows[i] as LeafRow;
      if (!row.counts) continue;
      parts.push(i + first);
      sum = add(sum, amountAt(row.cells, key) ?? 0);
    }
    return sum === amountAt((rows[index] as LeafRow).cells, key) ? sumText(rangesOf(letter, parts), digits) : null;
  };
  const ofTerms = (
    index: number,
    terms: readonly { row: string; times: 1 | -1 }[],
    { key, digits }: LeafColumn,
    letter: string,
    first: number,
  ): string | null => {
    let sum: Minor = 0;
    let text = '';
    for (const { row, times } of terms) {
      const from = at.get(row);
      const amount = from === undefined ? null : amountAt((rows[from] as LeafRow).cells, key);
      if (from === undefined || amount === null) return null;
      sum = add(sum, times * amount);
      text += `${times < 0 ? '-' : text === '' ? '' : '+'}${letter}${from + first}`;
    }
    return sum === amountAt((rows[index] as LeafRow).cells, key) && text !== '' ? `ROUND(${text},${digits})` : null;
  };
  return {
    formulasOf(index: number, first: number): Formulas {
      const { sums } = rows[index] as LeafRow;
      if (sums === null) return {};
      const found: Record<string, string> = {};
      for (const [i, column] of columns.entries()) {
        if (column.is !== 'amount') continue;
        const letter = letters(i + 1);
        const text =
          sums === 'beneath'
            ? column.adds
              ? ofBeneath(index, column, letter, first)
              : null
            : ofTerms(index, sums, column, letter, first);
        if (text !== null) found[column.key] = text;
      }
      return found;
    },
  };
}

/** The rows that a total adds, as runs of rows of each sheet, and what they come to. */
class Counted {
  private readonly runs: { sheet: string; from: number; to: number }[] = [];
  private readonly sums = new Map<string, Minor>();
  private readonly adding: LeafColumn[];
  /** Whether an amount had to be written as text, which no formula adds. */
  private inexact = false;

  constructor(private readonly columns: readonly LeafColumn[]) {
    this.adding = columns.filter((c) => c.adds && c.is === 'amount');
  }

  add(sheet: string, row: number, cells: LeafRow['cells']): void {
    const last = this.runs.at(-1);
    if (last?.sheet === sheet && last.to === row - 1) last.to = row;
    else this.runs.push({ sheet, from: row, to: row });
    for (const { key, digits } of this.adding) {
      const amount = amountAt(cells, key);
      if (amount === null) continue;
      if (!isExact(plainCell(cells[key], digits) ?? '')) this.inexact = true;
      this.sums.set(key, add(this.sums.get(key) ?? 0, amount));
    }
  }

  /** @param here the sheet in which the total stands */
  formulas(here: string, total: LeafRow['cells']): Formulas {
    const found: Record<string, string> = {};
    if (this.inexact) return found;
    for (const { key, digits } of this.adding) {
      if ((this.sums.get(key) ?? 0) !== amountAt(total, key)) continue;
      const letter = letters(this.columns.findIndex((c) => c.key === key) + 1);
      const ranges = this.runs.map(
        ({ sheet, from, to }) =>
          `${sheet === here ? '' : `${quoted(sheet)}!`}${letter}${from}${to > from ? `:${letter}${to}` : ''}`,
      );
      const text = sumText(ranges, digits);
      if (text !== null) found[key] = text;
    }
    return found;
  }
}
