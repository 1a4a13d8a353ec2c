import { type Readable, Transform } from 'node:stream';
import { UnreadableFile } from './unreadable';

/**
 * What an honest ledger never exceeds, and a file made to harm does. Everything is counted while it is unfolded, at
 * every level of every container; nothing is taken from what a file says of itself.
 */
/** Characters of one cell; a spreadsheet has 32,767. */
export const CELL_MAX = 100_000;
/** Columns of a table. */
export const COLUMNS_MAX = 2_000;
/** Characters of one record, and of one line of text. */
export const RECORD_MAX = 2_000_000;
/** Characters of the rows that are looked at to recognise a file. */
export const SAMPLE_MAX = 16_000_000;
/** Objects and lists within one another. */
export const NESTING_MAX = 12;
/** Elements of one record of an audit file. */
export const ELEMENTS_MAX = 10_000;
/** What all archives unfold to, together. */
export const UNFOLDED_MAX_BYTES = 40 * 1024 ** 3;
/** How often its own size an archive unfolds to. Ledgers as text are packed to a tenth, sheets of workbooks to a thirtieth. */
export const RATIO_MAX = 200;
export const WORKBOOK_RATIO_MAX = 100;
/** Below this size the ratio says nothing. */
export const RATIO_FROM_BYTES = 4 * 1024 ** 2;
/** Texts that a workbook keeps once for all of its cells: they are in memory while it is read. */
export const SHARED_TEXTS_MAX_BYTES = 160 * 1024 ** 2;
/** A workbook within an archive is in memory while it is read. */
export const INNER_WORKBOOK_MAX_BYTES = 128 * 1024 ** 2;

const kilo = (n: number): string => n.toLocaleString('en');

/** @throws UnreadableFile where a row is wider, or a cell longer, than a ledger's */
export function checkRow(row: number, cells: readonly string[]): void {
  if (cells.length > COLUMNS_MAX)
    throw new UnreadableFile(
      `row ${row} has ${kilo(cells.length)} columns; a table has at most ${kilo(COLUMNS_MAX)}`,
      row,
    );
  for (const cell of cells)
    if (cell.length > CELL_MAX)
      throw new UnreadableFile(
        `a cell of row ${row} has ${kilo(cell.length)} characters; at most ${kilo(CELL_MAX)} are read`,
        row,
      );
}

const LINE_FEED = 10;
const RETURN = 13;

/** Ends a text whose lines have no end. */
export function withLines(stream: Readable): Readable {
  let since = 0;
  return guardedBy(stream, (chunk) => {
    const last = Math.max(chunk.lastIndexOf(LINE_FEED), chunk.lastIndexOf(RETURN));
    let first = chunk.indexOf(LINE_FEED);
    if (first < 0) first = chunk.indexOf(RETURN);
    if (since + (first < 0 ? chunk.length : first) > RECORD_MAX) throw endless();
    since = last < 0 ? since + chunk.length : chunk.length - last - 1;
  });
}

const endless = (): UnreadableFile =>
  new UnreadableFile(
    `a line of the file has more than ${kilo(RECORD_MAX)} characters; it is no table, or its line ends are missing`,
  );

const QUOTE = 34;
const BACKSLASH = 92;
const OPEN = new Set([123, 91]);
const CLOSE = new Set([125, 93]);

/** Ends a JSON that is nested more deeply than records are, or in which a record has no end. */
export function withNesting(stream: Readable): Readable {
  let depth = 0;
  let since = 0;
  let inText = false;
  let escaped = false;
  return guardedBy(stream, (chunk) => {
    for (const byte of chunk) {
      since += 1;
      if (inText) {
        if (escaped) escaped = false;
        else if (byte === BACKSLASH) escaped = true;
        else if (byte === QUOTE) inText = false;
      } else if (byte === QUOTE) inText = true;
      else if (OPEN.has(byte)) {
        depth += 1;
        if (depth > NESTING_MAX)
          throw new UnreadableFile(
            `the JSON is nested more than ${NESTING_MAX} deep; records are lists of plain values`,
          );
      } else if (CLOSE.has(byte)) {
        depth -= 1;
        since = 0;
      }
      if (since > RECORD_MAX)
        throw new UnreadableFile(
          `a record has more than ${kilo(RECORD_MAX)} characters; it is no list of records, or it has no end`,
        );
    }
  });
}

/** Ends an archive that unfolds to far more than its size. @param packed bytes that it is unfolded from */
export function withRatio(stream: Readable, packed: number): Readable {
  let unfolded = 0;
  return guardedBy(stream, (chunk) => {
    unfolded += chunk.length;
    checkRatio(unfolded, packed);
  });
}

/** @throws UnreadableFile */
export function checkRatio(unfolded: number, packed: number, ratioMax = RATIO_MAX): void {
  if (unfolded > UNFOLDED_MAX_BYTES || (unfolded > RATIO_FROM_BYTES && unfolded > packed * ratioMax)) throw bomb();
}

export const bomb = (): UnreadableFile =>
  new UnreadableFile('the archive unfolds to far more than its size; it is not opened. Send the file itself');

/** Lets every chunk through that a check does not throw at. */
function guardedBy(stream: Readable, check: (chunk: Buffer) => void): Readable {
  return piped(
    stream,
    new Transform({
      transform(chunk: Buffer, _encoding, done) {
        try {
          check(chunk);
        } catch (error) {
          return done(error as Error);
        }
        done(null, chunk);
      },
    }),
  );
}

/** Errors go down the pipe, and closing its end closes its beginning. */
export function piped(from: Readable, to: Transform): Transform {
  from.on('error', (error) => to.destroy(error));
  to.on('close', () => from.destroy());
  return from.pipe(to);
}
