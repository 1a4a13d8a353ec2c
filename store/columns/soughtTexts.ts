import { foldedSql } from '@/core/folded';
import { isWhole, type SoughtInBooks } from '@/core/searchWords';
import { whoAsks } from '../asking';
import { type Copied, placesOf } from './legs';
import { partName } from './manifest';
import { SOUGHT, type SoughtColumn, TAIL, textTable } from './shape';
import { among, type Place, Texts, whole } from './words';

/**
 * Texts found by words in the copies. Words are looked for among words, and not in every text: first the words that have
 * the letters, then the texts that have the words. Each is asked by the numbers that the one before found, as long as these
 * are few, so that the engine sees which blocks it need not read.
 */

/** So many words or texts are named one by one; more are asked for within the question. */
export const LIST_MAX = 1_200;

/** The texts of a part that have what is sought, by the column that they are of. */
export interface Found {
  /** Their numbers; of a column that has very many, some of them. */
  ids: ReadonlyMap<SoughtColumn, readonly number[]>;
  /** Columns that have more than are named. */
  many: ReadonlySet<SoughtColumn>;
  /** What tells all of them, as columns col and text. */
  sql: string;
  values: readonly string[];
}

const NO_TEXTS: Found = { ids: new Map(), many: new Set(), sql: '', values: [] };

/** What the texts of one part have of all that is sought. */
export interface InPart {
  place: Place;
  sought: { one: SoughtInBooks; texts: Found | null }[];
}

export type Rows = <Row>(sql: string, values: readonly string[]) => Promise<Row[]>;
export const rowsOf =
  ({ columns: { engine }, limitMs }: Copied): Rows =>
  (sql, values) =>
    engine.rows(sql, values, limitMs, 'words are sought');

/** Asks for whole numbers under one column or two. */
type Numbers = <Column extends string>(
  sql: string,
  values: readonly string[],
  columns: readonly Column[],
) => Promise<Record<Column, number>[]>;

interface Waiting {
  sql: string;
  values: readonly string[];
  columns: readonly string[];
  resolve(rows: never[]): void;
  reject(reason: unknown): void;
}

/**
 * Asks what is asked in the same moment as one question: the words of all parts, then the texts of all of them. Each by
 * itself is found at once, and putting the question takes longer than its answer.
 */
function inWaves(rows: Rows): Numbers {
  let waiting: Waiting[] = [];
  const send = async (): Promise<void> => {
    const asked = waiting;
    waiting = [];
    const texts = new Texts();
    const legs = asked.map(
      ({ sql, values, columns: [a = '', b = 'null::integer'] }, i) =>
        `select ${whole(i)} as ask, ${a} as a, ${b} as b from (${nested(sql, values, texts)})`,
    );
    try {
      const found = await rows<{ ask: number; a: number; b: number | null }>(legs.join(' union all '), texts.values);
      const own: Record<string, number>[][] = asked.map(() => []);
      for (const { ask, a, b } of found) {
        const [first = '', second] = asked[ask]?.columns ?? [];
        own[ask]?.push({ [first]: a, ...(second !== undefined && b !== null ? { [second]: b } : {}) });
      }
      for (const [i, { resolve }] of asked.entries()) resolve(own[i] as never[]);
    } catch (error) {
      for (const { reject } of asked) reject(error);
    }
  };
  return (sql, values, columns) =>
    new Promise((resolve, reject) => {
      if (waiting.length === 0) setImmediate(() => void send());
      waiting.push({ sql, values, columns, resolve, reject });
    });
}

const waves = new WeakMap<object, Numbers>();

/** The books of several companies are looked through in the same waves, as long as one person asks. */
export function wavesOf(copied: Copied): Numbers {
  const asker = whoAsks() ?? copied.columns.engine;
  const held = waves.get(asker) ?? inWaves(rowsOf(copied));
  waves.set(asker, held);
  return held;
}

/** Looks for the texts that have what is sought, in every part of the books of a question. */
export function textsSought(copied: Copied, sought: readonly SoughtInBooks[]): Promise<InPart[]> {
  const numbersOf = wavesOf(copied);
  return Promise.all(
    placesOf(copied.question, copied.columns).map(async (place) => ({
      place,
      sought: await Promise.all(
        sought.map(async (one) => ({
          one,
          texts: one.text === null ? null : await textsWith(partName(place.part), one.text, one.exact, numbersOf),
        })),
      ),
    })),
  );
}

/** A piece of SQL within another, its texts handed over with those of the whole. */
export function nested(sql: string, values: readonly string[], texts: Texts): string {
  const named = values.map((value) => texts.of(value));
  return sql.replace(/\$(\d+)::varchar/g, (_, n: string) => named[Number(n) - 1] ?? '');
}

/** The texts of a part that have a piece of text. */
async function textsWith(part: string, wanted: string, exact: boolean, rows: Numbers): Promise<Found> {
  const words = piecesOf(wanted, exact);
  const texts = new Texts();
  // Signs alone are no part of a word: every text is looked at.
  if (words.length === 0) return textsNamed(rows, everyText(part, texts.of(wanted)), texts);
  const fitting = await Promise.all(words.map(async (piece) => ({ piece, ids: await wordsWith(part, piece, rows) })));
  // Which of several is the rarest is told by those that few words have, if there is one.
  const isFew = ({ ids }: (typeof fitting)[number]): boolean => ids !== null && ids.length <= FEW_WORDS;
  const tells = fitting.some(isFew) ? isFew : () => true;
  const found = await Promise.all(
    fitting.map(async (one) => ({
      ...one,
      texts: one.ids === null || !tells(one) ? Number.POSITIVE_INFINITY : await textsOf(part, one.ids, rows),
    })),
  );
  // Of several words the rarest finds texts, which are then looked at as they stand.
  const [rarest] = found.sort((a, b) => a.texts - b.texts || b.piece.letters.length - a.piece.letters.length);
  if (!rarest || rarest.texts === 0) return NO_TEXTS;
  const ids = rarest.ids ? rarest.ids.map(whole).join(', ') : wordsSql(part, rarest.piece, texts);
  const sql = `select x.col, x.text from ${part}.sought_text x where x.word in (${ids})`;
  if (words.length === 1 && words[0]?.letters === wanted) return textsNamed(rows, sql, texts);
  const others = found.filter((one) => one !== rarest);
  const narrowed = others.length === 0 ? null : await textsNarrowed(part, sql, texts, others, rows);
  if (narrowed === 'none') return NO_TEXTS;
  return textsChecked(part, narrowed ?? { sql, values: texts.values }, { wanted, exact }, rows);
}

/** Texts that have the other pieces too, by their words alone; null where they are too many to be named. */
async function textsNarrowed(
  part: string,
  sql: string,
  { values }: Texts,
  others: readonly { piece: Piece; ids: readonly number[] | null }[],
  rows: Numbers,
): Promise<{ sql: string; values: readonly string[] } | 'none' | null> {
  let left = await rows(`select distinct col, text from (${sql}) limit ${LIST_MAX + 1}`, values, ['col', 'text']);
  if (left.length > LIST_MAX) return null;
  for (const { piece, ids } of others) {
    if (left.length === 0) break;
    const texts = new Texts();
    const found = await rows(
      `select distinct x.col, x.text from ${part}.sought_text x where ${among(
        'x.text',
        left.map(({ text }) => whole(text)),
      )}
         and ${ids === null ? `x.word in (${wordsSql(part, piece, texts)})` : among('x.word', ids.map(whole))}`,
      texts.values,
      ['col', 'text'],
    );
    const has = new Set(found.map(({ col, text }) => `${col} ${text}`));
    left = left.filter(({ col, text }) => has.has(`${col} ${text}`));
  }
  if (left.length === 0) return 'none';
  const named = left.map(({ col, text }) => `(${whole(col)}, ${whole(text)})`);
  return { sql: `select * from (values ${named.join(', ')}) v(col, text)`, values: [] };
}

/** The texts of more words than this are not counted where those of fewer are. */
const FEW_WORDS = 100;

/** How many texts have some words; where several are in one it counts more than once. */
async function textsOf(part: string, words: readonly number[], rows: Numbers): Promise<number> {
  if (words.length === 0) return 0;
  const [row] = await rows(
    `select count(*)::integer as texts from ${part}.sought_text where ${among('word', words.map(whole))}`,
    [],
    ['texts'],
  );
  return row?.texts ?? 0;
}

async function textsNamed(rows: Numbers, sql: string, { values }: Texts): Promise<Found> {
  const found = await Promise.all(
    SOUGHT.map((_, col) =>
      rows(`select col, text from (${sql}) where col = ${col} limit ${LIST_MAX + 1}`, values, ['col', 'text']),
    ),
  );
  const many = new Set(SOUGHT.filter((_, col) => (found[col]?.length ?? 0) > LIST_MAX));
  return { ids: byColumn(found.flat()), many, sql, values };
}

/** Of so many texts of a column that have its rarest word a piece of text is looked for first. */
const CHECKED_FIRST = 20_000;

/** Of texts that have a word of a piece of text those that have it as it stands. */
async function textsChecked(
  part: string,
  { sql, values }: { sql: string; values: readonly string[] },
  { wanted, exact }: { wanted: string; exact: boolean },
  rows: Numbers,
): Promise<Found> {
  const checked = (column: SoughtColumn, texts: Texts, first: number | null): string => {
    const candidates = nested(sql, values, texts);
    const limit = first === null ? '' : ` limit ${whole(first)}`;
    // Only the bodies of candidates are looked at: without a word the engine would look at all of them first.
    return `select ${SOUGHT.indexOf(column)} as col, id as text from (
      with m as materialized (select t.id, t.body from ${part}.${textTable(column)} t
        join (select distinct text from (${candidates}) where col = ${SOUGHT.indexOf(column)}${limit}) c on c.text = t.id)
      select id from m where ${hasText(wanted, exact, texts)})`;
  };
  const many = new Set<SoughtColumn>();
  const found = await Promise.all(
    SOUGHT.map(async (column, col) => {
      const kept = async (first: number | null): Promise<{ col: number; text: number }[]> => {
        const texts = new Texts();
        const own = checked(column, texts, first);
        return rows(`${own} limit ${LIST_MAX + 1}`, texts.values, ['col', 'text']);
      };
      const [row] = await rows(
        `select count(*)::integer as texts from (select 1 from (${sql}) where col = ${col} limit ${CHECKED_FIRST})`,
        values,
        ['texts'],
      );
      const candidates = row?.texts ?? 0;
      if (candidates === 0) return [];
      const some = await kept(CHECKED_FIRST);
      const all = candidates < CHECKED_FIRST || some.length > LIST_MAX ? some : await kept(null);
      if (all.length > LIST_MAX) many.add(column);
      return all;
    }),
  );
  const texts = new Texts();
  return {
    ids: byColumn(found.flat()),
    many,
    sql: SOUGHT.map((column) => checked(column, texts, null)).join(' union all '),
    values: texts.values,
  };
}

function byColumn(found: readonly { col: number; text: number }[]): Map<SoughtColumn, number[]> {
  const ids = new Map<SoughtColumn, number[]>();
  for (const { col, text } of found) {
    const column = SOUGHT[col];
    if (!column) continue;
    const list = ids.get(column);
    if (list) list.push(text);
    else ids.set(column, [text]);
  }
  return ids;
}

const FOLDED = `(${foldedSql('body')})`;
const EDGE = String.raw`[^\p{L}\p{N}]`;

const everyText = (part: string, wanted: string): string =>
  SOUGHT.map(
    (column, i) =>
      `select ${i} as col, id as text from ${part}.${textTable(column)} where contains(${FOLDED}, ${wanted})`,
  ).join(' union all ');

/** Whether a text has what is sought (core/searchWords, placeOf). */
function hasText(wanted: string, exact: boolean, texts: Texts): string {
  if (!isWhole({ text: wanted, exact })) return `contains(${FOLDED}, ${texts.of(wanted)})`;
  const plain = wanted.replace(/[\\^$.|?*+()[\]{}]/g, '\\$&');
  const [first = '', last = ''] = [wanted[0], wanted.at(-1)];
  const before = /[\p{L}\p{N}]/u.test(first) ? `(^|${EDGE})` : '';
  const after = /[\p{L}\p{N}]/u.test(last) ? `($|${EDGE})` : '';
  return `regexp_matches(${FOLDED}, ${texts.of(`${before}${plain}${after}`)})`;
}

/** A word, or a part of one, of a piece of text. */
interface Piece {
  letters: string;
  /** Whether a word must begin, or end, with it: a sign is before it, or behind it. */
  begins: boolean;
  ends: boolean;
}

function piecesOf(wanted: string, exact: boolean): Piece[] {
  const whole = isWhole({ text: wanted, exact });
  return [...wanted.matchAll(/[\p{L}\p{N}]+/gu)].map(({ 0: letters, index }) => ({
    letters,
    begins: whole || index > 0,
    ends: whole || index + letters.length < wanted.length,
  }));
}

/** Numbers of the words of a part that a piece fits; null where they are too many to be named. */
async function wordsWith(part: string, piece: Piece, rows: Numbers): Promise<number[] | null> {
  const { letters, begins, ends } = piece;
  if (!begins && [...letters].length >= TAIL) {
    // Few words begin to have it: these are looked at by their numbers, where a join would look at all words.
    const texts = new Texts();
    const some = await rows(
      `select distinct t.word from ${tailsSql(part, letters, texts)} limit ${LIST_MAX + 1}`,
      texts.values,
      ['word'],
    );
    if (some.length === 0) return [];
    if (some.length <= LIST_MAX) {
      const own = new Texts();
      const fit = await rows(
        `select w.id as word from ${part}.sought_word w where ${among(
          'w.id',
          some.map(({ word }) => whole(word)),
        )} and ${fitsSql(letters, ends, own)}`,
        own.values,
        ['word'],
      );
      return fit.map(({ word }) => word);
    }
  }
  const texts = new Texts();
  const found = await rows(
    `select distinct word from (${wordsSql(part, piece, texts)}) limit ${LIST_MAX + 1}`,
    texts.values,
    ['word'],
  );
  return found.length > LIST_MAX ? null : found.map(({ word }) => word);
}

/** Words that a piece fits. Words and their tails stand in their order, so that what begins with some letters is together. */
function wordsSql(part: string, { letters, begins, ends }: Piece, texts: Texts): string {
  if (begins && ends) return `select id as word from ${part}.sought_word where body = ${texts.of(letters)}`;
  if (begins) return `select id as word from ${part}.sought_word where ${between('body', letters, texts)}`;
  // A tail has two letters at least.
  if ([...letters].length === 1)
    return `select id as word from ${part}.sought_word where ends_with(body, ${texts.of(letters)})`;
  if ([...letters].length < TAIL)
    return `select t.word from ${part}.sought_tail t where ${ends ? `t.tail = ${texts.of(letters)}` : between('t.tail', letters, texts)}`;
  // Tails are cut: of the words that begin so, those go on so.
  return `select t.word from ${part}.sought_tail t join ${part}.sought_word w on w.id = t.word
    where ${between('t.tail', [...letters].slice(0, TAIL).join(''), texts)} and ${fitsSql(letters, ends, texts)}`;
}

/** What begins with some letters, in a column that stands in its order. */
function between(column: string, start: string, texts: Texts): string {
  const last = start.codePointAt(start.length - 1) as number;
  const to = start.slice(0, -1) + String.fromCodePoint(last + 1);
  return `${column} >= ${texts.of(start)} and ${column} < ${texts.of(to)}`;
}

const tailsSql = (part: string, letters: string, texts: Texts): string =>
  `${part}.sought_tail t where ${between('t.tail', [...letters].slice(0, TAIL).join(''), texts)}`;

const fitsSql = (letters: string, ends: boolean, texts: Texts): string =>
  ends ? `ends_with(w.body, ${texts.of(letters)})` : `contains(w.body, ${texts.of(letters)})`;
