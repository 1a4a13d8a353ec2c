/**
 * Texts as they are looked through: without capitals, and without the marks that letters bear, so that “sorvik” finds
 * Sørvik. The store folds texts by the same table, so that both find the same.
 */

/** Letters that stand for two. */
const DOUBLED: readonly (readonly [letter: string, plain: string])[] = [
  ['ß', 'ss'],
  ['æ', 'ae'],
  ['œ', 'oe'],
  ['þ', 'th'],
];

/** Letters that are letters of their own, with the one they are looked for by. */
const OWN: readonly (readonly [letter: string, plain: string])[] = [
  ['ø', 'o'],
  ['đ', 'd'],
  ['ð', 'd'],
  ['ł', 'l'],
  ['ħ', 'h'],
  ['ŧ', 't'],
  ['ı', 'i'],
  ['ŋ', 'n'],
];

/** Letters of whose marks and capitals a pattern knows: Latin, Greek, Cyrillic. */
const RANGES: readonly (readonly [from: number, to: number])[] = [
  [0xc0, 0x24f],
  [0x370, 0x3ff],
  [0x400, 0x52f],
  [0x1e00, 0x1fff],
];

const MARK = /\p{M}/gu;
const TWO = new Map(DOUBLED);
const ONE = new Map(OWN);

const quoted = (text: string): string => `'${text}'`;

/**
 * The same in SQL, of any text in it, for an engine that tells how many bytes a text has by strlen. Most texts have plain
 * letters alone, for which there is a quicker way.
 */
export const foldedSql = (text: string): string =>
  `case when strlen(${text}) = length(${text}) then lower(${text})
     else ${[...OWN, ...DOUBLED].reduce((sql, [letter, plain]) => `replace(${sql}, ${quoted(letter)}, ${quoted(plain)})`, `strip_accents(lower(${text}))`)} end`;

const isPlain = /^[\0-\x7f]*$/;

export function folded(text: string): string {
  if (isPlain.test(text)) return text.toLowerCase();
  let plain = '';
  for (const letter of text) plain += foldedLetter(letter);
  return plain;
}

const foldedLetters = new Map<string, string>();

function foldedLetter(letter: string): string {
  if (letter <= '\x7f') return letter.toLowerCase();
  const held = foldedLetters.get(letter);
  if (held !== undefined) return held;
  const bare = letter.toLowerCase().normalize('NFD').replace(MARK, '').normalize('NFC');
  const plain = ONE.get(bare) ?? TWO.get(bare) ?? bare;
  foldedLetters.set(letter, plain);
  return plain;
}

/** Letters by the plain one that they are looked for by. */
const LETTERS = new Map<string, string>();
for (const letter of 'abcdefghijklmnopqrstuvwxyz') LETTERS.set(letter, letter + letter.toUpperCase());
/** The letters that stand for two, by what they stand for: with marks and capitals. */
const PAIRS: [letter: string, plain: string][] = [];
for (const [from, to] of RANGES)
  for (let code = from; code <= to; code++) {
    const letter = String.fromCodePoint(code);
    if (!/\p{L}/u.test(letter)) continue;
    const plain = foldedLetter(letter);
    if ([...plain].length === 1) LETTERS.set(plain, `${LETTERS.get(plain) ?? plain}${letter === plain ? '' : letter}`);
    else if (plain !== '') PAIRS.push([letter, plain]);
  }

/** Letters and digits, as far as a pattern knows of them. */
const WORD = '0-9A-Za-zÀ-ÖØ-öø-ɏͰ-ϿЀ-ԯḀ-῿';

/**
 * The same of words that stand whole, with neither a letter nor a digit before or behind them. Of letters of other scripts
 * it does not know: whoever has to be exact looks once more at what it fits.
 */
export function patternOfWhole(words: string): string {
  const [first = '', last = ''] = [[...words][0], [...words].at(-1)];
  const isLetter = (letter: string): boolean => /[\p{L}\p{N}]/u.test(letter);
  return `${isLetter(first) ? `(^|[^${WORD}])` : ''}${patternOfFolded(words)}${isLetter(last) ? `($|[^${WORD}])` : ''}`;
}

const MARKS = '[\u0300-\u036f]*';
const doubledWhere = (fits: (plain: string) => boolean): string =>
  PAIRS.flatMap(([letter, plain]) => (fits(plain) ? [letter] : [])).join('');

/**
 * A pattern that fits a text exactly where the same folded has some folded words in it: for whoever looks through texts as
 * they stand, such as the database, which folds slowly and fits patterns quickly.
 */
export function patternOfFolded(words: string): string {
  const letters = [...words];
  // One half of a letter that stands for two may be all that is sought of it, at either end.
  const one = (at: number): string => {
    const letter = letters[at] ?? '';
    const halves =
      (at === 0 ? doubledWhere((plain) => plain.endsWith(letter)) : '') +
      (at === letters.length - 1 ? doubledWhere((plain) => plain.startsWith(letter)) : '');
    return classOf(letter, halves);
  };
  const both = (at: number): string =>
    at + 1 < letters.length ? doubledWhere((plain) => plain === `${letters[at]}${letters[at + 1]}`) : '';
  /** Letters of a chain in which each two next to each other may be one. */
  const chain = (at: number, end: number): string => {
    if (at >= end) return '';
    const two = at + 1 < end ? both(at) : '';
    const single = one(at) + chain(at + 1, end);
    return two === '' ? single : `(?:${single}|[${two}]${MARKS}${chain(at + 2, end)})`;
  };
  let pattern = '';
  for (let at = 0; at < letters.length; ) {
    let end = at + 1;
    while (both(end - 1) !== '') end++;
    if (end - at <= CHAIN_MAX) pattern += chain(at, end);
    else for (let i = at; i < end; i++) pattern += one(i);
    at = end;
  }
  return pattern;
}

/** Nobody writes more of one letter in a row; each would make the pattern longer by half. */
const CHAIN_MAX = 6;

function classOf(letter: string, more: string): string {
  const all = LETTERS.get(letter) ?? letter;
  if (/[\p{L}\p{N}]/u.test(letter)) return all.length + more.length > 1 ? `[${all}${more}]${MARKS}` : `${all}${MARKS}`;
  return `${letter === ' ' ? ' ' : `\\${letter}`}${MARKS}`;
}

/** A text folded, with the place in the text itself of each of its letters, and of its end. */
export function foldedPlaces(text: string): { folded: string; places: number[] } {
  let plain = '';
  const places: number[] = [];
  let at = 0;
  for (const letter of text) {
    const own = foldedLetter(letter);
    for (let i = 0; i < own.length; i++) places.push(at);
    plain += own;
    at += letter.length;
  }
  places.push(at);
  return { folded: plain, places };
}
