import { createRequire } from 'node:module';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import PDFDocument from 'pdfkit';
import { digested, type Leaf, type LeafCell, type LeafColumn, type LeafRow, plainCell } from '@/core/leaf';
import { add, type Minor } from '@/core/money';
import { amountOf } from '@/core/sheet';
import { headFacts, type Leaving } from './leaving';

/** More rows than these nobody reads on paper; a spreadsheet holds them. */
export const PAPER_ROWS_MAX = 50_000;

/** Beyond so many cells a file says where its words stand, and no more what each of them is: it would be tags, most of it. */
const TAGGED_MAX = 40_000;

/** Paper in points (1/72 inch): ISO 216 and ANSI/ASME Y14.1. */
const SIZES: Record<Leaving['paper']['size'], [number, number]> = {
  a4: [595.28, 841.89],
  a3: [841.89, 1190.55],
  letter: [612, 792],
  legal: [612, 1008],
};
const MARGIN = { left: 42, right: 42, top: 40, bottom: 46 };
const SIZE = 8.6;
const LEADING = 11.4;
const GAP = 8;
const INDENT = 9;
const LINES_MAX = 3;
/** The room of a logo, in points. */
const LOGO: [number, number] = [120, 34];
const NARROWED = 0.7;
const INK = '#1f1b16';
const SOFT = '#6b6459';
const RULE = '#b9b1a3';
/** Rows that are measured to find how wide columns are. */
const MEASURED = 400;
/** Of a page's last rows so many go with the total, so that it never stands alone. */
const WITH_TOTAL = 2;
/** A ledger on paper has a dash where nothing was booked. */
const NOUGHT = '–';

interface Placed {
  column: LeafColumn;
  x: number;
  width: number;
}

/** Setting pages is work for the processor alone: whoever else is served by the process has a turn between them. */
const othersTurn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** Words before the sheets of a pack: paragraphs, in the order in which they are read. */
export interface FrontPage {
  title: string;
  about: string;
  paragraphs: readonly string[];
}

/**
 * Leaves typeset as a printed ledger (ISO 32000-1, fonts embedded, tagged for those who have it read to them): heads
 * repeated on each page, what a page comes to carried forward to the next, no total alone on its page, columns that do
 * not fit on facing pages, notes numbered and told at the end.
 * @throws RangeError of more rows than paper is for
 */
export async function pdfLeaves(
  leaves: readonly Leaf[],
  leaving: Leaving,
  front: FrontPage | null = null,
): Promise<Readable> {
  const sheets: { leaf: Leaf; rows: LeafRow[]; digest: string }[] = [];
  let read = 0;
  for (const whole of leaves) {
    const { leaf, digest } = digested(whole);
    const rows: LeafRow[] = [];
    for await (const row of leaf.rows) {
      rows.push(row);
      read += 1;
      if (read > PAPER_ROWS_MAX) throw new RangeError(`paper holds at most ${PAPER_ROWS_MAX} rows`);
    }
    const columns = leaf.columns.filter((c) => c.on !== 'file');
    sheets.push({ leaf: { ...leaf, columns }, rows, digest: digest() });
  }
  const [first] = sheets;
  const tagged = sheets.reduce((all, s) => all + s.rows.length * s.leaf.columns.length, 0) <= TAGGED_MAX;
  const doc = new PDFDocument({
    autoFirstPage: false,
    bufferPages: true,
    margin: 0,
    tagged,
    displayTitle: true,
    pdfVersion: '1.7',
    // ISO 19005-2: to be read in many years, whatever is installed then; with its tags, at level A.
    subset: tagged ? 'PDF/A-2a' : 'PDF/A-2b',
    lang: leaving.locale,
    info: {
      Title: inMetadata(front?.title ?? leaving.title ?? first?.leaf.title ?? ''),
      Subject: inMetadata(front?.about ?? first?.leaf.sentence ?? ''),
      Author: inMetadata(leaving.by),
      Creator: 'Just Thread',
      CreationDate: new Date(leaving.at),
    },
  });
  registerFonts(doc);
  const root = tagged ? doc.struct('Document') : null;
  if (root) doc.addStructure(root);
  const [short, long] = SIZES[leaving.paper.size];
  if (front) frontPage(doc, root, front, [short, long]);
  for (const { leaf, rows, digest } of sheets) {
    const print = new Print(doc, leaf, leaving, root);
    const widths = print.widths(rows);
    // Names may take a second line before the paper is turned.
    const needed = widths.reduce(
      (sum, w, i) => sum + (isFigure(leaf.columns[i] as LeafColumn) ? w : w * NARROWED) + GAP,
      -GAP,
    );
    const { orientation } = leaving.paper;
    const landscape =
      orientation === 'landscape' || (orientation === 'fitting' && needed > short - MARGIN.left - MARGIN.right);
    print.layout(landscape ? [long, short] : [short, long], widths);
    await print.rows(rows);
    print.foot(digest);
  }
  pageFeet(doc, root, leaving);
  root?.end();
  doc.end();
  return doc as unknown as Readable;
}

/** What the writer puts into the metadata as it is, which is XML: signs of its own would break it off. */
const inMetadata = (text: string): string => text.replaceAll('&', '+').replaceAll('<', '‹').replaceAll('>', '›');

type Doc = PDFKit.PDFDocument;
/** What a part of the page is, for those who have it read to them; null where nothing says so. */
type Tag = PDFKit.PDFStructureElement | null;

function registerFonts(doc: Doc): void {
  const find = createRequire(join(/* turbopackIgnore: true */ process.cwd(), 'package.json'));
  const font = (path: string): string => find.resolve(path);
  doc.registerFont('text', font('source-sans/TTF/SourceSans3-Regular.ttf'));
  doc.registerFont('strong', font('source-sans/TTF/SourceSans3-Semibold.ttf'));
  doc.registerFont('head', font('source-serif/TTF/SourceSerif4-Semibold.ttf'));
  doc.registerFont('spoken', font('source-serif/TTF/SourceSerif4-It.ttf'));
}

class Print {
  private page: [number, number] = [0, 0];
  /** Columns of each facing page; the first columns, which name a row, are on every one. */
  private leaves: Placed[][] = [];
  private y = 0;
  private readonly formats = new Map<number, Intl.NumberFormat>();
  private readonly sums = new Map<string, Minor>();
  private readonly running = new Map<string, LeafCell>();
  private readonly notes: string[] = [];
  private readonly carried: boolean;

  constructor(
    private readonly doc: Doc,
    private readonly leaf: Leaf,
    private readonly of: Leaving,
    private readonly root: Tag,
  ) {
    this.carried = leaf.total !== null && leaf.columns.some((c) => c.adds && c.is === 'amount');
  }

  private get bottom(): number {
    return this.page[1] - MARGIN.bottom;
  }

  /** How wide each column would like to be, in points. */
  widths(rows: readonly LeafRow[]): number[] {
    const { doc } = this;
    const sample = rows.length <= MEASURED ? rows : [...rows.slice(0, MEASURED / 2), ...rows.slice(-MEASURED / 2)];
    return this.leaf.columns.map((column) => {
      const figures = isFigure(column);
      doc.font('strong').fontSize(SIZE);
      let most = Math.min(doc.widthOfString(column.label) + 1, figures ? 90 : 200);
      const cells = [
        ...sample,
        ...(this.leaf.total ? [{ cells: this.leaf.total.cells, depth: 0, look: 'total' }] : []),
      ];
      for (const row of cells) {
        doc.font(row.look === 'plain' ? 'text' : 'strong');
        const text = this.text(row.cells[column.key], column);
        const indent = column.key === 'name' ? row.depth * INDENT : 0;
        if (text !== '') most = Math.max(most, doc.widthOfString(text) + indent + 1);
      }
      // Sums that are carried forward may be larger than any row of the sample.
      return figures
        ? most + (this.carried ? 6 : 0)
        : Math.min(most, column.key === 'name' || column.key === 'description' ? 230 : 110);
    });
  }

  /** Places the columns: words give way first; what still does not fit is on facing pages beside what names the row. */
  layout(page: [number, number], wished: readonly number[]): void {
    this.page = page;
    const room = page[0] - MARGIN.left - MARGIN.right;
    const { columns } = this.leaf;
    const widths = [...wished];
    const total = (): number => widths.reduce((sum, w) => sum + w + GAP, -GAP);
    const least = (i: number): number =>
      isFigure(columns[i] as LeafColumn) ? (wished[i] as number) : Math.min(wished[i] as number, 46);
    for (let over = total() - room; over > 0.5; over = total() - room) {
      const giving = columns.flatMap((_, i) => ((widths[i] as number) > least(i) + 0.5 ? [i] : []));
      if (giving.length === 0) break;
      const widest = giving.reduce((a, b) => ((widths[a] as number) >= (widths[b] as number) ? a : b));
      widths[widest] = Math.max(least(widest), (widths[widest] as number) - Math.max(1, over / giving.length));
    }
    const naming = columns.findIndex(isFigure);
    const keys = columns
      .map((_, i) => i)
      .filter((i) => i < (naming < 0 ? columns.length : Math.max(1, Math.min(naming, 3))));
    const rest = columns.map((_, i) => i).filter((i) => !keys.includes(i));
    const pages: number[][] = [];
    let now = [...keys];
    const widthOf = (list: readonly number[]): number =>
      list.reduce((sum, i) => sum + (widths[i] as number) + GAP, -GAP);
    for (const i of rest) {
      if (now.length > keys.length && widthOf([...now, i]) > room + 0.5) {
        pages.push(now);
        now = [...keys];
      }
      now.push(i);
    }
    pages.push(now);
    this.leaves = pages.map((list) => {
      // What is left over goes to the names, so that figures stand at the right edge.
      const spare = Math.max(0, room - widthOf(list));
      const wide = list.find((i) => ['name', 'description'].includes((columns[i] as LeafColumn).key)) ?? list[0];
      const given = Math.min(spare, 150);
      let x = MARGIN.left;
      return list.map((i) => {
        const width = (widths[i] as number) + (i === wide ? given : 0);
        const placed = { column: columns[i] as LeafColumn, x, width };
        x += width + GAP;
        return placed;
      });
    });
  }

  async rows(rows: readonly LeafRow[]): Promise<void> {
    const heights: number[] = [];
    for (const row of rows) {
      if (heights.length % MEASURED === 0) await othersTurn();
      heights.push(Math.max(...this.leaves.map((leaf) => this.heightOf(row, leaf))));
    }
    const totalHeight = this.leaf.total ? LEADING + 8 : 0;
    let from = 0;
    for (let first = true; first || from < rows.length; first = false) {
      await othersTurn();
      const top = this.headHeight(first) + (first || !this.carried ? 0 : LEADING + 4);
      const room = this.bottom - MARGIN.top - top;
      let to = from;
      let used = 0;
      while (to < rows.length) {
        const height = heights[to] as number;
        const last = to === rows.length - 1;
        const after = last ? totalHeight : this.carried ? LEADING + 6 : 0;
        if (used + height + after > room && to > from) break;
        used += height;
        to += 1;
      }
      const ended = to === rows.length;
      if (!ended) {
        // No heading is left at the foot of a page without a row of its own, and no total without its last rows.
        while (to - 1 > from && rows[to - 1]?.look === 'heading') to -= 1;
        if (rows.length - to < WITH_TOTAL && to - from > WITH_TOTAL) to = rows.length - WITH_TOTAL;
      }
      const before = this.state();
      for (const [i, placed] of this.leaves.entries()) {
        if (i > 0) this.restore(before);
        this.pageOf(rows.slice(from, to), heights.slice(from, to), placed, { first, ended, part: i });
      }
      from = to;
      if (rows.length === 0) break;
    }
  }

  private state() {
    return { sums: new Map(this.sums), running: new Map(this.running), notes: this.notes.length };
  }

  private restore({ sums, running, notes }: ReturnType<Print['state']>): void {
    this.sums.clear();
    for (const [k, v] of sums) this.sums.set(k, v);
    this.running.clear();
    for (const [k, v] of running) this.running.set(k, v);
    this.notes.length = notes;
  }

  private pageOf(
    rows: readonly LeafRow[],
    heights: readonly number[],
    placed: readonly Placed[],
    { first, ended, part }: { first: boolean; ended: boolean; part: number },
  ): void {
    const { doc } = this;
    doc.addPage({ size: this.page, margin: 0 });
    this.y = MARGIN.top;
    this.head(first, part);
    const table = this.part(this.root, 'Table');
    this.heads(table, placed);
    if (!first && this.carried) this.carry(table, placed, 'Brought forward');
    for (const [i, row] of rows.entries()) this.row(table, placed, row, heights[i] as number);
    if (ended) {
      if (this.leaf.total) this.total(table, placed, this.leaf.total);
    } else if (this.carried) this.carry(table, placed, 'Carried forward');
    this.ended(table);
  }

  private headHeight(first: boolean): number {
    const lines = first ? this.firstHead() : [];
    return (first ? lines.reduce((sum, l) => sum + l.height, 0) + 8 : 20) + this.headsHeight() + 4;
  }

  private firstHead(): { text: string; font: string; size: number; color: string; height: number }[] {
    const { of, leaf, doc } = this;
    const width = this.page[0] - MARGIN.left - MARGIN.right;
    const line = (text: string, font: string, size: number, color: string, gap: number) => {
      doc.font(font).fontSize(size);
      return { text, font, size, color, height: doc.heightOfString(text, { width }) + gap };
    };
    const title = of.title ?? leaf.title;
    if (!of.heading) return of.title === null ? [] : [line(title, 'head', 15, INK, 4)];
    const facts = headFacts(leaf, of);
    return [
      ...(of.letterhead?.name ? [line(of.letterhead.name, 'strong', 9.5, SOFT, 2)] : []),
      line(title, 'head', 16, INK, 3),
      line(leaf.sentence, 'spoken', 10, INK, 5),
      line(facts.map(([name, says]) => `${name}: ${says}`).join('   ·   '), 'text', 7.6, SOFT, 4),
    ];
  }

  private head(first: boolean, part: number): void {
    const { doc, of, leaf } = this;
    const width = this.page[0] - MARGIN.left - MARGIN.right;
    if (first && part === 0) {
      const logo = of.heading ? of.letterhead?.logo : null;
      // Above the margin's edge at the right, where no line of the head reaches.
      if (logo)
        this.artifact(() => {
          doc.image(logo, this.page[0] - MARGIN.right - LOGO[0], MARGIN.top - 12, { fit: LOGO, align: 'right' });
        });
      for (const [i, line] of this.firstHead().entries()) {
        doc.font(line.font).fontSize(line.size).fillColor(line.color);
        const y = this.y;
        this.tagged(this.root, i === (of.letterhead?.name && of.heading ? 1 : 0) ? 'H1' : 'P', () =>
          doc.text(line.text, MARGIN.left, y, { width }),
        );
        this.y += line.height;
      }
      this.y += 8;
      return;
    }
    const height = first ? this.headHeight(true) - this.headsHeight() - 4 : 20;
    this.artifact(() => {
      doc.font('spoken').fontSize(8.4).fillColor(SOFT);
      const says = of.heading ? `${of.title ?? leaf.title} — ${leaf.sentence}` : (of.title ?? '');
      doc.text(cutTo(doc, says, width), MARGIN.left, this.y, { lineBreak: false });
    });
    this.y += height;
  }

  private headsHeight(): number {
    const { doc } = this;
    doc.font('strong').fontSize(SIZE - 0.4);
    return (
      Math.max(
        ...this.leaves.flat().map(({ column, width }) => doc.heightOfString(column.label || ' ', { width: width + 1 })),
        LEADING,
      ) + 3
    );
  }

  private heads(table: Tag, placed: readonly Placed[]): void {
    const { doc } = this;
    const height = this.headsHeight();
    const line = this.part(table, 'TR');
    for (const { column, x, width } of placed) {
      doc
        .font('strong')
        .fontSize(SIZE - 0.4)
        .fillColor(SOFT);
      const own = doc.heightOfString(column.label || ' ', { width: width + 1 });
      this.tagged(line, 'TH', () =>
        doc.text(column.label, x, this.y + height - 3 - own, {
          width: width + 1,
          align: isFigure(column) ? 'right' : 'left',
        }),
      );
    }
    this.ended(line);
    this.y += height;
    this.ruled(placed, 0.9, INK);
    this.y += 4;
  }

  private row(table: Tag, placed: readonly Placed[], row: LeafRow, height: number): void {
    const { doc } = this;
    if (row.counts)
      for (const { key, adds, is } of this.leaf.columns) {
        const cell = row.cells[key];
        if (adds && is === 'amount' && cell && typeof cell === 'object' && cell.is === 'amount')
          this.sums.set(key, add(this.sums.get(key) ?? 0, cell.amount));
      }
    for (const { key, runs } of this.leaf.columns) if (runs) this.running.set(key, row.cells[key] ?? null);
    if (row.look === 'subtotal' || row.look === 'total') this.ruled(placed, 0.5, INK, -1);
    const signs = (row.notes ?? []).map((note) => this.notes.push(note));
    const line = this.part(table, 'TR');
    for (const [i, { column, x, width }] of placed.entries()) {
      const figures = isFigure(column);
      const strong = row.look !== 'plain';
      doc
        .font(strong ? 'strong' : 'text')
        .fontSize(SIZE)
        .fillColor(INK);
      const indent = column.key === 'name' ? row.depth * INDENT : 0;
      const text = this.text(row.cells[column.key], column);
      this.tagged(line, i === 0 ? 'TH' : 'TD', () => {
        if (figures) {
          doc.text(text, this.rightOf(text, x + width), this.y, { lineBreak: false });
        } else
          for (const [at, words] of this.lines(text, width - indent).entries())
            doc.text(words, x + indent, this.y + at * LEADING, { lineBreak: false });
        if (signs.length > 0 && column.key === noteAt(placed)) {
          const own = figures
            ? 0
            : Math.min(width - indent, doc.widthOfString(this.lines(text, width - indent)[0] ?? ''));
          doc.fontSize(6).fillColor(SOFT);
          doc.text(signs.join(' '), x + indent + own + 1.5, this.y - 1, { lineBreak: false });
        }
      });
    }
    this.ended(line);
    this.y += height;
    if (row.look === 'total') {
      this.ruled(placed, 0.5, INK, -1.5);
      this.ruled(placed, 0.5, INK, 0);
    } else this.ruled(placed, 0.3, RULE, -1.2);
  }

  /** What the rows so far come to, at the end of a page and at the head of the next. */
  private carry(table: Tag, placed: readonly Placed[], says: string): void {
    const { doc } = this;
    const line = this.part(table, 'TR');
    this.y += 1.5;
    const words = wordsAt(placed);
    for (const { column, x, width } of placed) {
      doc.font('spoken').fontSize(SIZE).fillColor(SOFT);
      const value: LeafCell = column.runs
        ? (this.running.get(column.key) ?? null)
        : column.adds && column.is === 'amount'
          ? amountOf(this.sums.get(column.key) ?? 0)
          : null;
      const text = column.key === words ? says : this.text(value, column);
      this.tagged(line, 'TD', () => this.put(text, column, x, width));
    }
    this.ended(line);
    this.y += LEADING + 2.5;
  }

  private total(table: Tag, placed: readonly Placed[], { label, cells }: NonNullable<Leaf['total']>): void {
    const { doc } = this;
    this.y += 1;
    this.ruled(placed, 0.6, INK, -0.5);
    this.y += 2;
    const line = this.part(table, 'TR');
    const words = wordsAt(placed);
    const says = cells.description ?? cells.name;
    for (const { column, x, width } of placed) {
      doc.font('strong').fontSize(SIZE).fillColor(INK);
      const text =
        column.key === words
          ? typeof says === 'string'
            ? says
            : label
          : isFigure(column)
            ? this.text(cells[column.key], column)
            : '';
      this.tagged(line, 'TD', () => this.put(text, column, x, width));
    }
    this.ended(line);
    this.y += LEADING;
    this.ruled(placed, 0.6, INK, 0);
    this.ruled(placed, 0.6, INK, 1.8);
    this.y += 5;
  }

  private put(text: string, column: LeafColumn, x: number, width: number): void {
    const { doc } = this;
    if (isFigure(column)) doc.text(text, this.rightOf(text, x + width), this.y, { lineBreak: false });
    else doc.text(text, x, this.y, { lineBreak: false });
  }

  /** What it was held against, its digest, and the notes by their numbers. */
  foot(digest: string): void {
    const { doc } = this;
    const width = this.page[0] - MARGIN.left - MARGIN.right;
    const say = (text: string, font: string, size: number, color: string): void => {
      doc.font(font).fontSize(size).fillColor(color);
      const height = doc.heightOfString(text, { width }) + 2;
      if (this.y + height > this.bottom) {
        doc.addPage({ size: this.page, margin: 0 });
        this.y = MARGIN.top;
        doc.font(font).fontSize(size).fillColor(color);
      }
      this.tagged(this.root, 'P', () => doc.text(text, MARGIN.left, this.y, { width }));
      this.y += height;
    };
    this.y += 8;
    if (this.of.heading) {
      for (const says of this.leaf.proofs()) say(`Proof: ${says}`, 'text', 7.6, SOFT);
      if (this.of.decimals !== 'exact')
        say(
          `Amounts are in ${this.of.decimals === 'thousands' ? 'thousands' : 'whole units'}; what they come to is of the exact ones.`,
          ...(['text', 7.6, SOFT] as const),
        );
      say(`Digest: SHA-256 ${digest}`, 'text', 7.6, SOFT);
    }
    const { decimals } = this.of;
    const unit = decimals === 'thousands' ? 'thousands' : 'whole units';
    if (decimals !== 'exact') say(`Amounts in ${unit}; sums are of the exact amounts.`, 'text', 7.6, SOFT);
    if (this.notes.length === 0) return;
    this.y += 6;
    say('Notes', 'head', 11, INK);
    for (const [i, note] of this.notes.entries()) say(`${i + 1}  ${note}`, 'text', SIZE, INK);
  }

  private part(within: Tag, as: 'Table' | 'TR'): Tag {
    const part = within && this.doc.struct(as);
    if (part) within.add(part);
    return part;
  }

  private ended(part: Tag): void {
    part?.end();
  }

  private tagged(parent: Tag, as: string, draw: () => void): void {
    if (parent) parent.add(this.doc.struct(as as never, {}, draw));
    else draw();
  }

  private artifact(draw: () => void): void {
    artifact(this.doc, this.root, draw);
  }

  private ruled(placed: readonly Placed[], width: number, color: string, shift = 0): void {
    const last = placed.at(-1) as Placed;
    this.artifact(() => {
      this.doc
        .lineWidth(width)
        .strokeColor(color)
        .moveTo(MARGIN.left, this.y + shift)
        .lineTo(last.x + last.width, this.y + shift)
        .stroke();
    });
  }

  private heightOf(row: LeafRow, placed: readonly Placed[]): number {
    this.doc.font(row.look === 'plain' ? 'text' : 'strong').fontSize(SIZE);
    const lines = placed.map(({ column, width }) =>
      isFigure(column)
        ? 1
        : this.lines(this.text(row.cells[column.key], column), width - (column.key === 'name' ? row.depth * INDENT : 0))
            .length,
    );
    return Math.max(1, ...lines) * LEADING + 2;
  }

  /** Where a figure begins that ends at an edge, so that the digits of those with and without brackets line up. */
  private rightOf(text: string, edge: number): number {
    const bracket = text.endsWith(')') ? 0 : this.doc.widthOfString(')');
    return edge - this.doc.widthOfString(text) - bracket;
  }

  /** A text in lines of a width; what is longer than so many lines ends in an ellipsis. */
  private lines(text: string, width: number): string[] {
    const { doc } = this;
    if (doc.widthOfString(text) <= width) return [text];
    const lines: string[] = [];
    let line = '';
    for (const word of text.split(' ')) {
      const longer = line === '' ? word : `${line} ${word}`;
      if (doc.widthOfString(longer) <= width) line = longer;
      else {
        if (line !== '') lines.push(line);
        line = word;
        while (doc.widthOfString(line) > width && line.length > 1) {
          let cut = line.length - 1;
          while (cut > 1 && doc.widthOfString(line.slice(0, cut)) > width) cut -= 1;
          lines.push(line.slice(0, cut));
          line = line.slice(cut);
        }
      }
    }
    lines.push(line);
    if (lines.length <= LINES_MAX) return lines;
    return [...lines.slice(0, LINES_MAX - 1), cutTo(doc, lines.slice(LINES_MAX - 1).join(' '), width)];
  }

  /** A cell as its reader writes it, to the last unit. */
  private text(cell: LeafCell | undefined, column: LeafColumn): string {
    const plain = plainCell(cell, column.digits);
    if (plain === null) return '';
    if (typeof cell === 'string') return plain;
    if (cell?.is === 'amount' && cell.amount === 0) return NOUGHT;
    if (column.is === 'amount' && this.of.decimals !== 'exact') return this.rounded(plain);
    const digits =
      column.is === 'amount' ? column.digits : column.is === 'share' ? 1 : (plain.split('.')[1]?.length ?? 0);
    let format = this.formats.get(digits);
    if (!format) {
      format = new Intl.NumberFormat(this.of.locale, { minimumFractionDigits: digits, maximumFractionDigits: digits });
      this.formats.set(digits, format);
    }
    // From its decimal string, since a binary number would not hold every amount.
    const size = format.format(plain.replace(/^-/, '') as `${number}`);
    // What is on the other side stands in brackets, as on the screen.
    return `${plain.startsWith('-') ? `(${size})` : size}${column.is === 'share' ? ' %' : ''}`;
  }

  /** An exact amount to whole units, or thousands of them, rounded half away from zero. */
  private rounded(plain: string): string {
    const places = this.of.decimals === 'thousands' ? 3 : 0;
    const [whole = '0', fraction = ''] = plain.replace('-', '').split('.');
    const padded = whole.padStart(places + 1, '0');
    const kept = BigInt(padded.slice(0, padded.length - places));
    const next = `${padded.slice(padded.length - places)}${fraction}`[0] ?? '0';
    const size = kept + (next >= '5' ? 1n : 0n);
    if (size === 0n) return NOUGHT;
    const said = new Intl.NumberFormat(this.of.locale).format(size);
    return plain.startsWith('-') ? `(${said})` : said;
  }
}

/** What is no part of the content, such as rules and what is repeated on each page. */
function artifact(doc: Doc, root: Tag, draw: () => void): void {
  if (root) doc.markContent('Artifact', { type: 'Pagination' } as never);
  draw();
  if (root) doc.endMarkedContent();
}

/** The foot of every page, once it is known how many there are. */
function pageFeet(doc: Doc, root: Tag, { footer, record }: Leaving): void {
  const { start, count } = doc.bufferedPageRange();
  for (let i = 0; i < count; i += 1) {
    doc.switchToPage(start + i);
    const { width, height } = doc.page;
    const y = height - MARGIN.bottom + 20;
    artifact(doc, root, () => {
      doc.font('text').fontSize(7.6).fillColor(SOFT);
      const pages = `Page ${i + 1} of ${count}`;
      const own = doc.widthOfString(pages);
      const room = width - MARGIN.left - MARGIN.right - own - 12;
      doc.text(cutTo(doc, footer ?? `Just Thread · ${record}`, room), MARGIN.left, y, { lineBreak: false });
      doc.text(pages, width - MARGIN.right - own, y, { lineBreak: false });
    });
  }
}

const FRONT_TOP = 150;
const FRONT_WIDTH = 400;

function frontPage(doc: Doc, root: Tag, { title, about, paragraphs }: FrontPage, page: [number, number]): void {
  const begin = (): number => {
    doc.addPage({ size: page, margin: 0 });
    return MARGIN.top;
  };
  begin();
  let y = FRONT_TOP;
  const say = (text: string, as: 'H1' | 'P', font: string, size: number, color: string, gap: number): void => {
    doc.font(font).fontSize(size).fillColor(color);
    const height = doc.heightOfString(text, { width: FRONT_WIDTH, lineGap: 2 });
    if (y + height > page[1] - MARGIN.bottom) {
      y = begin();
      doc.font(font).fontSize(size).fillColor(color);
    }
    const draw = (): void => void doc.text(text, MARGIN.left, y, { width: FRONT_WIDTH, lineGap: 2 });
    if (root) root.add(doc.struct(as, {}, draw));
    else draw();
    y += height + gap;
  };
  say(title, 'H1', 'head', 24, INK, 6);
  say(about, 'P', 'spoken', 11, SOFT, 22);
  for (const text of paragraphs) say(text, 'P', 'text', 10.5, INK, 8);
}

const isFigure = ({ is }: LeafColumn): boolean => is !== 'text' && is !== 'date';

/** The column in which the words of a total or of what is carried forward stand. */
const wordsAt = (placed: readonly Placed[]): string | undefined =>
  (placed.find((p) => ['name', 'description'].includes(p.column.key)) ?? placed.find((p) => !isFigure(p.column)))
    ?.column.key;

/** The column beside whose words the numbers of notes stand. */
const noteAt = wordsAt;

function cutTo(doc: Doc, text: string, width: number): string {
  if (doc.widthOfString(text) <= width) return text;
  let [least, most] = [0, text.length];
  while (least < most) {
    const middle = Math.ceil((least + most) / 2);
    if (doc.widthOfString(`${text.slice(0, middle).trimEnd()}…`) <= width) least = middle;
    else most = middle - 1;
  }
  return `${text.slice(0, least).trimEnd()}…`;
}
