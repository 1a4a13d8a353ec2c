import { Readable } from 'node:stream';
import { digested, type Leaf, onFile, plainCells } from '@/core/leaf';
import { headFacts, type Leaving } from './leaving';

/** A leaf as JSON: its head, its columns, each row by the keys of the columns with amounts as decimal strings, its digest. */
export function jsonLeaf(given: Leaf, leaving: Leaving): Readable {
  const { leaf, digest } = digested(onFile(given));
  const pieces = async function* (): AsyncGenerator<string> {
    const head = {
      title: leaving.title ?? leaf.title,
      sentence: leaf.sentence,
      ...(leaving.heading ? { facts: Object.fromEntries(headFacts(leaf, leaving)) } : {}),
      columns: leaf.columns.map(({ key, label, is, digits }) => ({ key, label, is, digits })),
    };
    yield `${JSON.stringify(head).slice(0, -1)},"rows":[`;
    let first = true;
    for await (const { depth, look, counts, cells: of, notes } of leaf.rows) {
      yield `${first ? '\n' : ',\n'}${JSON.stringify({ depth, look, counts, cells: plainCells(leaf.columns, of), ...(notes ? { notes } : {}) })}`;
      first = false;
    }
    const foot = {
      total: leaf.total && plainCells(leaf.columns, leaf.total.cells),
      proofs: leaf.proofs(),
      digest: digest(),
      ...(leaving.footer ? { footer: leaving.footer } : {}),
    };
    yield `\n],${JSON.stringify(foot).slice(1)}\n`;
  };
  return Readable.from(pieces());
}
