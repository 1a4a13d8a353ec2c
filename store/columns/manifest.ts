import { type Db, rowsOf } from '../db';

/**
 * Which books have a copy of their lines by columns, and whether it is as new as they are. Whoever lays lines down, or
 * marks them as replaced, says so here in the same transaction.
 */

/** A file with some loads' lines of one company's books. */
export interface Part {
  id: number;
  /** Number under which the lines are kept. */
  books: number;
  /** Lines of loads after this one … */
  after: number;
  /** … up to this one, with it. */
  to: number;
  lines: number;
  bytes: number;
  /** Its name in the folder of copies. */
  file: string;
}

/** Its name among those that are open. */
export const partName = (part: Part): string => `part_${Number(part.id)}`;

/** What reads copies. */
export interface ColumnReader {
  /**
   * Rows of a question in the words of the copies; the caller names their shape.
   * @param values texts that it names by $1, $2 …
   * @param limitMs null: as long as it takes
   * @param why of the copies, told for whoever tunes
   */
  rows<Row>(sql: string, values: readonly string[], limitMs: number | null, why?: string): Promise<Row[]>;
}

/** The copies that answer a question, and what reads them. */
export interface Columns {
  engine: ColumnReader;
  /** Parts by the books whose lines are in them. */
  parts: ReadonlyMap<number, readonly Part[]>;
  /** The table with what accounts are now, by their ids. */
  accounts: string;
  /** Columns by which the lines of each part are added up beforehand, by its number; small parts have hardly any. */
  summed: ReadonlyMap<number, ReadonlySet<string>>;
}

/** How often books changed, and how often lines that were there came to be replaced. */
export interface BooksState {
  books: number;
  times: number;
  rewrites: number;
}

/** Says that lines were added to books; with `rewritten` also that others were marked as replaced, or that an old load has more. */
export async function booksChanged(db: Db, books: readonly number[], rewritten: boolean): Promise<void> {
  if (books.length === 0) return;
  await db.raw(
    `insert into books_change as c (books, times, rewrites) select b, 1, ? from unnest(?::smallint[]) b
     on conflict (books) do update set times = c.times + 1, rewrites = c.rewrites + excluded.rewrites`,
    [rewritten ? 1 : 0, [...books]],
  );
}

export const booksStates = (db: Db): Promise<BooksState[]> =>
  rowsOf(db, 'select books, times, rewrites from books_change order by books');

/** The parts that books consist of, for books of which a copy is as new as they are. */
export async function currentParts(db: Db): Promise<Map<number, Part[]>> {
  const rows = await rowsOf<Part>(
    db,
    `select p.id, p.books, p.after_load as after, p.to_load as to, p.lines, p.bytes, p.file
     from column_part p join books_change c on c.books = p.books and c.rewrites = p.rewrites
     where c.times = (select max(times) from column_part n where n.books = p.books) order by p.books, p.after_load`,
  );
  const found = new Map<number, Part[]>();
  for (const part of rows) found.set(part.books, [...(found.get(part.books) ?? []), part]);
  return found;
}

/** All parts that are registered, with the state of the books that each was made at. */
export const allParts = (db: Db): Promise<(Part & Omit<BooksState, 'books'>)[]> =>
  rowsOf(
    db,
    `select id, books, after_load as after, to_load as to, lines, bytes, file, times, rewrites from column_part
     order by books, after_load`,
  );

/** Registers a part. @param instead whether it takes the place of all parts that the books had */
export async function keepPart(
  db: Db,
  { books, after, to, lines, bytes, file, times, rewrites }: Omit<Part, 'id'> & BooksState,
  instead: boolean,
): Promise<void> {
  if (instead) await db('column_part').where({ books }).del();
  await db('column_part').insert({ books, after_load: after, to_load: to, lines, bytes, file, times, rewrites });
}

/** Notes that nothing is to be added for what changed: the parts that there are hold all lines of the books. */
export const stillHolds = (db: Db, { books, times, rewrites }: BooksState): Promise<unknown> =>
  db('column_part').where({ books, rewrites }).update({ times });

export const forgetParts = (db: Db): Promise<unknown> => db('column_part').del();

/** How many lines there are, of all books and loads. */
export async function linesInAll(db: Db): Promise<number> {
  const [row] = await rowsOf<{ lines: number }>(db, 'select coalesce(sum(lines), 0)::bigint as lines from load_total');
  return row?.lines ?? 0;
}
