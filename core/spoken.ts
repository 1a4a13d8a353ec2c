import { formatAmount, type Minor } from './money';

/** A piece of a sentence: words, or an amount in minor units. */
export type Piece = string | { amount: Minor };

/** A piece as it crosses the API: amounts are decimal strings, for whoever shows them to write as its reader does. */
export type PieceText = string | { amount: string };

/** A sentence of words and amounts: `sentence\`${name} is above ${{ amount }}\``. Words that follow each other are one piece. */
export function sentence(texts: TemplateStringsArray, ...between: (Piece | number | Piece[])[]): Piece[] {
  const found: Piece[] = [];
  const say = (piece: Piece): void => {
    const last = found[found.length - 1];
    if (typeof piece === 'string' && typeof last === 'string') found[found.length - 1] = last + piece;
    else if (piece !== '') found.push(piece);
  };
  for (const [i, text] of texts.entries()) {
    say(text);
    for (const piece of [between[i] ?? ''].flat()) say(typeof piece === 'number' ? String(piece) : piece);
  }
  return found;
}

export const pieceTexts = (pieces: readonly Piece[], digits: number): PieceText[] =>
  pieces.map((piece) => (typeof piece === 'string' ? piece : { amount: formatAmount(piece.amount, digits) }));
