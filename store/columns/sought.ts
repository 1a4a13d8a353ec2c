import type { SoughtInBooks } from '@/core/searchWords';
import type { Copied } from './legs';
import { partName } from './manifest';
import type { LineKey } from './pages';
import { AMOUNT_PLACED, DAY_PLACED, SOUGHT, type SoughtColumn, textTable } from './shape';
import { type Found, type InPart, LIST_MAX, nested, type Rows, rowsOf, wavesOf } from './soughtTexts';
import { among, countedIn, day, onAccounts, type Place, Texts, whole } from './words';

/** Lines found by words, amounts and days in the copies, by the texts that have the words (soughtTexts), where they stand. */

/** A line that was found, with its day. */
export interface FoundKey extends LineKey {
  day: string;
  /** The text that it was found by, where each different one is wanted once. */
  own?: string;
}

type SoughtInPart = InPart['sought'][number];

/** Conditions on the lines of a figure at a place. */
const ofFigure = ({ question }: Copied, place: Place, texts: Texts): string[] => [
  ...countedIn(place, question, texts),
  ...onAccounts(place.entity.own),
];

/**
 * Keys of lines that have all that is sought, of a figure; no more than a limit of each part, in no order.
 * @param within the columns of texts that are looked in
 * @param each for each different one of a column, one line alone
 */
export async function keysWith(
  copied: Copied,
  found: readonly InPart[],
  within: readonly SoughtColumn[],
  limit: number,
  each?: SoughtColumn,
): Promise<FoundKey[]> {
  const keys = await Promise.all(found.map((part) => keysIn(copied, part, within, limit, each)));
  return keys.flat();
}

async function keysIn(
  copied: Copied,
  { place, sought }: InPart,
  within: readonly SoughtColumn[],
  limit: number,
  each: SoughtColumn | undefined,
): Promise<FoundKey[]> {
  const isMany = (texts: Found | null): boolean => within.some((column) => texts?.many.has(column));
  for (const { one, texts } of sought)
    if (one.amounts.length === 0 && !one.days && idsIn(texts, within) === 0) return [];
  // The rarest of what is sought finds lines, and the others are held against those.
  const weighed = await Promise.all(
    sought.map(async (one) => ({
      one,
      lines: isMany(one.texts) ? Number.POSITIVE_INFINITY : await linesPlaced(copied, place, one, within),
    })),
  );
  const [{ one: rarest, lines } = { one: undefined, lines: 0 }, ...left] = weighed.sort((a, b) => a.lines - b.lines);
  if (!rarest || lines === 0) return [];
  const others = left.map(({ one }) => one);
  const ask = (some: boolean): Promise<FoundKey[]> => {
    const texts = new Texts();
    const rest = [
      ...others.map(
        (other) => `(${[...textConditions(other.texts, within, texts, false), ...numbers(other.one)].join(' or ')})`,
      ),
      ...ofFigure(copied, place, texts),
    ];
    const any = foundBy(rarest, place, within, texts, lines <= FEW_LINES, some);
    return rowsOf(copied)<FoundKey>(linesSql(place, any, rest, limit, each), texts.values);
  };
  if (!isMany(rarest.texts)) {
    // What few lines have is held against the rest line by line, rather than all that has the rest against lines.
    const narrow = each === undefined && others.some(({ texts }) => isMany(texts));
    const few = narrow ? await amongFew(copied, place, { rarest, lines }, others, within, limit) : null;
    return few ?? ask(false);
  }
  // Of words that are everywhere some texts have all, and lines enough; unless other clauses leave too few of them.
  const some =
    others.length === 0 ? await ask(true) : await inOneText(copied, place, [rarest, ...others], within, limit, each);
  return some.length >= limit ? some : ask(false);
}

/** How many texts of some columns are named. */
const idsIn = (texts: Found | null, within: readonly SoughtColumn[]): number =>
  within.reduce((n, column) => n + (texts?.ids.get(column)?.length ?? 0), 0);

/** So few lines are gone to where they stand; more are found sooner by looking through all, until there are enough. */
const FEW_LINES = 1_000;
/** Lines of more texts than this are not counted, nor more lines. */
const COUNTED_TEXTS = 300;
const MANY_LINES = 100_000;

/** How many lines have one of the texts that are named, or a number: no more than are counted, some of them twice. */
async function linesPlaced(
  copied: Copied,
  place: Place,
  { one, texts: found }: SoughtInPart,
  within: readonly SoughtColumn[],
): Promise<number> {
  // What lies between two bounds is more than is counted, most of the time.
  if (one.amounts.some(({ from, to }) => from !== to)) return MANY_LINES;
  // To count the lines of very many texts takes longer than to find some.
  const named = idsIn(found, within);
  if (named > COUNTED_TEXTS) return Math.max(FEW_LINES + 1, named);
  const any = [...textsPlaced(found, within), ...numbersPlaced(one)];
  if (any.length === 0) return 0;
  const [row] = await wavesOf(copied)(
    // Each by itself: of several at once the engine would look at every row.
    `select count(*)::integer as lines from (${any
      .map((where) => `(select 1 from ${partName(place.part)}.placed where ${where} limit ${MANY_LINES})`)
      .join(' union all ')})`,
    [],
    ['lines'],
  );
  return row?.lines ?? 0;
}

const placedWhere = (col: number, values: string): string => `(col = ${whole(col)} and ${values})`;

/** Of the texts of columns that are named where their lines stand. */
const textsPlaced = (found: Found | null, within: readonly SoughtColumn[]): string[] =>
  within.flatMap((column) => {
    const ids = found?.ids.get(column) ?? [];
    return ids.length === 0 ? [] : [placedWhere(SOUGHT.indexOf(column), among('value', ids.map(whole)))];
  });

/** Of amounts that are named and of days where their lines stand. */
const numbersPlaced = ({ amounts, days }: SoughtInBooks): string[] => [
  ...amounts.flatMap(({ from, to }) =>
    from !== null && from === to ? [placedWhere(AMOUNT_PLACED, `value = ${whole(Math.abs(from))}`)] : [],
  ),
  ...(days
    ? [
        placedWhere(
          DAY_PLACED,
          `value between ${day(days.from)} - date '1970-01-01' and ${day(days.to)} - date '1970-01-01'`,
        ),
      ]
    : []),
];

/**
 * Conditions each of which finds lines that have one thing that is sought.
 * @param few whether they are few, and are gone to where they stand
 * @param some whether some of very many texts will do
 */
function foundBy(
  { one, texts: found }: SoughtInPart,
  place: Place,
  within: readonly SoughtColumn[],
  texts: Texts,
  few: boolean,
  some: boolean,
): string[] {
  if (!few) return [...textConditions(found, within, texts, some), ...numbers(one)];
  // The limit leaves none of them out: it tells the engine how few they are, so that it asks for them first.
  const standing = (where: string): string =>
    `s.rowid in (select row from ${partName(place.part)}.placed where ${where} limit ${FEW_LINES})`;
  return [...textsPlaced(found, within), ...numbersPlaced(one)].map(standing);
}

/** Lines that have the rarest of what is sought, if they are no more than this, are looked at one by one. */
const FEW = 5_000;

/** Lines that have the rarest, those of them that have the others too; null where they are not few. */
async function amongFew(
  copied: Copied,
  place: Place,
  { rarest, lines }: { rarest: SoughtInPart; lines: number },
  others: readonly SoughtInPart[],
  within: readonly SoughtColumn[],
  limit: number,
): Promise<FoundKey[] | null> {
  const rows = rowsOf(copied);
  const part = partName(place.part);
  const texts = new Texts();
  const rest = ofFigure(copied, place, texts);
  const told = [
    ...['s.entry', 's.line_no', 's.day::varchar as day'],
    ...within.map((column, i) => `s.${column} as t${i}`),
    ...others.map(({ one }, i) => `(${numbers(one).join(' or ') || 'false'}) as n${i}`),
  ].join(', ');
  const any = foundBy(rarest, place, within, texts, lines <= FEW_LINES, false);
  const legs = any.map(
    (one) => `(select ${told} from ${part}.line s where ${[one, ...rest].join(' and ')} limit ${whole(FEW + 1)})`,
  );
  type Candidate = FoundKey & Record<`t${number}`, number | null> & Record<`n${number}`, boolean>;
  let left = await rows<Candidate>(`select * from (${legs.join(' union ')}) limit ${whole(FEW + 1)}`, texts.values);
  if (left.length > FEW) return null;
  for (const [i, { texts: found }] of others.entries()) {
    const open = left.filter((row) => !row[`n${i}`]);
    const has = found === null ? new Set<string>() : await havingText(found, within, open, rows);
    left = left.filter((row) => row[`n${i}`] || within.some((_, at) => has.has(`${at} ${row[`t${at}`]}`)));
    if (left.length === 0) return [];
  }
  return left.slice(0, limit).map(({ entry, line_no, day: on }) => ({ entity: place.books, entry, line_no, day: on }));
}

/** Which texts of some lines have a piece of text, by the place of their column and their number. */
async function havingText(
  found: Found,
  within: readonly SoughtColumn[],
  lines: readonly Record<`t${number}`, number | null>[],
  rows: Rows,
): Promise<ReadonlySet<string>> {
  const has = await Promise.all(
    within.map(async (column, at): Promise<string[]> => {
      const own = [...new Set(lines.flatMap((line) => line[`t${at}`] ?? []))];
      if (own.length === 0 || (found.ids.get(column) ?? []).length === 0) return [];
      if (!found.many.has(column)) {
        const all = new Set(found.ids.get(column));
        return own.filter((id) => all.has(id)).map((id) => `${at} ${id}`);
      }
      const texts = new Texts();
      const named = await rows<{ text: number }>(
        `select distinct text from (${nested(found.sql, found.values, texts)})
         where col = ${SOUGHT.indexOf(column)} and ${among('text', own.map(whole))}`,
        texts.values,
      );
      return named.map(({ text }) => `${at} ${text}`);
    }),
  );
  return new Set(has.flat());
}

/** Lines with a text that has all that is sought at once, as far as that many texts are needed to find enough of them. */
async function inOneText(
  copied: Copied,
  place: Place,
  sought: readonly SoughtInPart[],
  within: readonly SoughtColumn[],
  limit: number,
  each: SoughtColumn | undefined,
): Promise<FoundKey[]> {
  const rows = rowsOf(copied);
  const all = sought.flatMap(({ texts }) => texts ?? []);
  if (all.length < sought.length) return [];
  const named = await Promise.all(
    within.map(async (column): Promise<string[]> => {
      if (all.some(({ ids }) => (ids.get(column) ?? []).length === 0)) return [];
      const texts = new Texts();
      const [first = '', ...others] = all.map(
        ({ sql, values }) => `select text from (${nested(sql, values, texts)}) where col = ${SOUGHT.indexOf(column)}`,
      );
      const both = others.map((other) => `f.text in (${other})`).join(' and ');
      const found = await rows<{ text: number }>(
        `select f.text from (${first}) f where ${both} limit ${whole(LIST_MAX)}`,
        texts.values,
      );
      return found.length === 0
        ? []
        : [
            among(
              `s.${column}`,
              found.map(({ text }) => whole(text)),
            ),
          ];
    }),
  );
  const any = named.flat();
  if (any.length === 0) return [];
  const texts = new Texts();
  const rest = ofFigure(copied, place, texts);
  return rows<FoundKey>(linesSql(place, any, rest, limit, each), texts.values);
}

/** Lines that one of some conditions finds: each is asked by itself, so that its column alone is read through. */
function linesSql(
  place: Place,
  any: readonly string[],
  rest: readonly string[],
  limit: number,
  each: SoughtColumn | undefined,
): string {
  const part = partName(place.part);
  const own = each ? `, s.${each} as text` : '';
  const legs = any.map(
    (condition) =>
      `(select s.entry, s.line_no, s.day${own} from ${part}.line s where ${[condition, ...rest].join(' and ')} ${each ? '' : `limit ${whole(limit)}`})`,
  );
  const lines = `(${legs.join(' union ')})`;
  const key = `${whole(place.books)} as entity`;
  return each
    ? `select ${key}, f.s.entry as entry, f.s.line_no as line_no, f.s.day::varchar as day, t.body as own
       from (select text, arg_min({'entry': entry, 'line_no': line_no, 'day': day}, line_no) as s from ${lines} group by text limit ${whole(limit)}) f
       join ${part}.${textTable(each)} t on t.id = f.text`
    : `select ${key}, entry, line_no, day::varchar as day from ${lines} limit ${whole(limit)}`;
}

/** Conditions on the texts of lines, one for each column. @param some whether some of very many texts will do */
function textConditions(found: Found | null, within: readonly SoughtColumn[], texts: Texts, some: boolean): string[] {
  if (found === null) return [];
  const { ids, many, sql, values } = found;
  let named: string | null = null;
  return within.flatMap((column) => {
    const list = ids.get(column) ?? [];
    if (list.length === 0) return [];
    if (some || !many.has(column)) return [among(`s.${column}`, list.map(whole))];
    named ??= nested(sql, values, texts);
    return [`s.${column} in (select text from (${named}) where col = ${SOUGHT.indexOf(column)})`];
  });
}

const numbers = ({ amounts, days }: SoughtInBooks): string[] => [
  ...amounts.map(({ from, to }) =>
    from !== null && from === to
      ? among('s.amount', [whole(from), whole(0 - from)])
      : `(${[
          ...(from === null ? [] : [`abs(s.amount) >= ${whole(from)}`]),
          ...(to === null ? [] : [`abs(s.amount) <= ${whole(to)}`]),
        ].join(' and ')})`,
  ),
  ...(days ? [`s.day between ${day(days.from)} and ${day(days.to)}`] : []),
];
