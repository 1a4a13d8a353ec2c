import { plainAmount, SPACES } from './writtenAmounts';

/** What of a line is looked for in the text of its paper. */
export interface Sought {
  /** Amounts as decimal strings, of either sign. */
  amounts: readonly string[];
  /** Numbers of documents and the like, found whatever their case. */
  numbers: readonly string[];
}

/** Part of a text, from a character up to another, which is outside. */
export interface Marked {
  from: number;
  to: number;
}

/** Digits with what is written between them; where it ends in a space or a mark, that does not belong. */
const WRITTEN = /\d(?:[\d.,'’\s\u00a0\u202f]*\d)?/g;
const GROUPED = /^\d{1,3}(?:[\s\u00a0\u202f'’]\d{3})+(?:[.,]\d+)?$/;
/** Shorter numbers stand everywhere. */
const NUMBER_MIN = 3;

/** An amount without sign and without what means nothing: "-0,500.00" and "500" are the same. */
const bare = (amount: string): string => {
  const [whole = '', fraction = ''] = amount.replace(/^[-+]/, '').split('.');
  const kept = fraction.replace(/0+$/, '');
  return `${whole.replace(/^0+(?=\d)/, '')}${kept === '' ? '' : `.${kept}`}`;
};

const DECIMALS = ['.', ','] as const;

/**
 * Where a text says what is sought: an amount written in any of the ways that people write them, or a number. A whole
 * amount of one digit or two is marked only where it is written with decimals.
 */
export function markedIn(text: string, { amounts, numbers }: Sought): Marked[] {
  const wanted = new Set(amounts.map(bare).filter((amount) => /[1-9]/.test(amount)));
  const found: Marked[] = [];
  if (wanted.size > 0)
    for (const { 0: written, index } of text.matchAll(WRITTEN)) {
      const at = partOf(written, wanted);
      if (at !== null) found.push({ from: index + at, to: index + written.length });
    }
  const folded = text.toLowerCase();
  for (const number of numbers) {
    const sought = number.toLowerCase();
    if (sought.length < NUMBER_MIN) continue;
    for (let at = folded.indexOf(sought); at >= 0; at = folded.indexOf(sought, at + sought.length))
      found.push({ from: at, to: at + sought.length });
  }
  return found.sort((a, b) => a.from - b.from);
}

/** From which character on a written number is one of those wanted: other digits may stand before it, with a space between. */
function partOf(written: string, wanted: ReadonlySet<string>): number | null {
  // What is grouped in thousands is one number.
  const begins = GROUPED.test(written) ? [0] : [0, ...[...written.matchAll(SPACES)].map(({ index }) => index + 1)];
  for (const begin of begins) {
    const part = written.slice(begin);
    if (!/^\d/.test(part)) continue;
    if (part.replace(/\D/g, '').length < NUMBER_MIN) continue;
    if (DECIMALS.some((decimal) => wanted.has(bare(plainAmount(part, decimal))))) return begin;
  }
  return null;
}
