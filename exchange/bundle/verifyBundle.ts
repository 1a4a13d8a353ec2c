import { createHash } from 'node:crypto';
import { buffer } from 'node:stream/consumers';
import { parse } from 'csv-parse/sync';
import { type Bundle, linesIn, performed } from '@/core/bundle';
import { sum } from '@/core/money';
import { archiveMember, archiveNames } from '../archive';
import { fingerprintOf, isSigned } from '../signing';
import { MANIFEST, SIGNATURE } from './writeBundle';

export interface BundleChecked {
  /** The key that signed it, as people tell keys apart. */
  key: string | null;
  ok: boolean;
  /** What is not as it left, each a sentence. */
  wrong: string[];
  files: number;
  figures: number;
  lines: number;
}

/**
 * Whether a bundle is as it left: the signature over the list of its files, the digest of each, what is missing or was
 * added, and every figure worked out again from the lines, by the same core that told it first.
 * @param path of the ZIP
 */
export async function verifyBundle(path: string): Promise<BundleChecked> {
  const wrong: string[] = [];
  const held = async (name: string): Promise<Buffer> => buffer(await archiveMember(path, name));
  const names = await archiveNames(path);
  const nothing = { key: null, ok: false, files: 0, figures: 0, lines: 0 };
  if (!names.includes(MANIFEST) || !names.includes(SIGNATURE))
    return { ...nothing, wrong: ['it is no bundle: it has no list of its files that is signed'] };
  const list = (await held(MANIFEST)).toString('utf8');
  const { publicKey, signature } = JSON.parse((await held(SIGNATURE)).toString('utf8')) as Record<string, string>;
  if (!isSigned(list, signature ?? '', publicKey ?? ''))
    wrong.push(`the signature does not hold: ${MANIFEST} was changed, or signed by another key`);
  const { files } = JSON.parse(list) as { files: { path: string; sha256: string }[] };
  for (const { path: name, sha256 } of files) {
    if (!names.includes(name)) wrong.push(`${name} is missing`);
    else if (
      createHash('sha256')
        .update(await held(name))
        .digest('hex') !== sha256
    )
      wrong.push(`${name} was changed`);
  }
  const listed = new Set([...files.map((f) => f.path), MANIFEST, SIGNATURE]);
  for (const name of names) if (!listed.has(name)) wrong.push(`${name} was added`);
  if (!names.includes('bundle.json') || !names.includes('lines.csv'))
    return { ...nothing, key: fingerprintOf(publicKey ?? ''), wrong, files: files.length };

  const bundle = JSON.parse((await held('bundle.json')).toString('utf8')) as Bundle;
  for (const figure of bundle.figures) {
    const found = performed(bundle, figure);
    if (!found.ok) wrong.push(`“${figure.label}” is not what its ${found.count} lines come to`);
  }
  const rows = parse((await held('lines.csv')).toString('utf8'), { columns: true }) as { minor: string }[];
  for (const figure of bundle.figures) {
    const own = figure.runs.flatMap(([first, last]) => rows.slice(first, last + 1));
    const amounts = own.map((r) => Number(r.minor));
    if (
      !amounts.every(Number.isSafeInteger) ||
      sum(amounts) !== sum(linesIn(bundle, figure).map((l) => Number(l.amount)))
    )
      wrong.push(`“${figure.label}”: lines.csv holds other amounts than the record`);
  }
  const key = fingerprintOf(publicKey ?? '');
  return {
    key,
    ok: wrong.length === 0,
    wrong,
    files: files.length,
    figures: bundle.figures.length,
    lines: bundle.lines.length,
  };
}
