import { Readable } from 'node:stream';
import { stringify } from 'csv-stringify';
import { digested, type Leaf, type LeafCell, onFile, plainCell } from '@/core/leaf';
import { guardedCell } from '../writers';
import { headFacts, type Leaving } from './leaving';

/**
 * A leaf as delimited text (RFC 4180): amounts as decimals with a point, and no cell that a spreadsheet would run. With
 * its heading it says first what it is and of what, and last what it comes to and its digest; without, it is a table
 * of one row of names and its rows.
 */
export function csvLeaf(given: Leaf, leaving: Leaving): Readable {
  const { leaf, digest } = digested(onFile(given));
  const cells = (of: Readonly<Record<string, LeafCell>>, notes: readonly string[] = []): string[] => [
    ...leaf.columns.map(({ key, digits, is }) => {
      const text = plainCell(of[key], digits) ?? '';
      return is === 'text' || typeof of[key] === 'string' ? guardedCell(text) : text;
    }),
    ...(noted ? [guardedCell(notes.join('; '))] : []),
  ];
  const noted = given.noted === true;
  const lines = async function* (): AsyncGenerator<string[]> {
    if (leaving.heading) {
      yield [guardedCell(leaving.title ?? leaf.title)];
      yield [guardedCell(leaf.sentence)];
      for (const [name, says] of headFacts(leaf, leaving)) yield [name, guardedCell(says)];
      yield [];
    }
    yield [...leaf.columns.map((c) => guardedCell(c.label)), ...(noted ? ['Notes'] : [])];
    for await (const row of leaf.rows) yield cells(row.cells, row.notes);
    if (!leaving.heading) return;
    if (leaf.total) yield cells(leaf.total.cells);
    yield [];
    for (const says of leaf.proofs()) yield ['Proof', guardedCell(says)];
    yield ['Digest', `SHA-256 ${digest()}`];
    if (leaving.footer) yield [guardedCell(leaving.footer)];
  };
  const out = stringify({ record_delimiter: 'windows' });
  const source = Readable.from(lines());
  source.on('error', (error) => out.destroy(error));
  return source.pipe(out);
}
