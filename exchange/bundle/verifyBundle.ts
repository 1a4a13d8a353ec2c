import type { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { parse } from 'csv-parse';
import { type Bundle, type BundledFigure, heldParts, linesOf, type PartAt, performed } from '@/core/bundle';
import { archiveMember, archiveNames } from '../archive';
import { sha256Of } from '../fileDigest';
import { fingerprintOf, isSigned } from '../signing';
import { linesInPart } from './spool';
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
  const { files, threads = [''] } = JSON.parse(list) as {
    files: { path: string; sha256: string }[];
    /** Of a bundle of several threads the folder of each. */
    threads?: string[];
  };
  const digests = new Map(files.map((f) => [f.path, f.sha256]));
  for (const [name, sha256] of digests) {
    if (!names.includes(name)) wrong.push(`${name} is missing`);
    else if ((await sha256Of(await archiveMember(path, name))) !== sha256) wrong.push(`${name} was changed`);
  }
  for (const name of names)
    if (!digests.has(name) && name !== MANIFEST && name !== SIGNATURE) wrong.push(`${name} was added`);
  let [figures, lines] = [0, 0];
  for (const folder of threads) {
    const within = folder === '' ? '' : `${folder}/`;
    if (!names.includes(`${within}bundle.json`) || !names.includes(`${within}lines.csv`)) continue;
    const bundle = await workedOut(path, within, wrong);
    figures += bundle.figures.length;
    lines += bundle.lines;
  }
  return { key: fingerprintOf(publicKey ?? ''), ok: wrong.length === 0, wrong, files: files.length, figures, lines };
}

/** Works every figure of a thread out again. @param wrong what is not as it left is added to it */
async function workedOut(path: string, within: string, wrong: string[]): Promise<Bundle> {
  const held = async (name: string): Promise<string> =>
    (await buffer(await archiveMember(path, `${within}${name}`))).toString('utf8');
  const bundle = JSON.parse(await held('bundle.json')) as Bundle;
  const partAt = heldParts(async (part) => linesInPart(await held(bundle.parts[part]?.file ?? '')));
  const amounts = await amountsIn(await archiveMember(path, `${within}lines.csv`), bundle.lines);
  for (const figure of bundle.figures) {
    const again = await performed(figure, partAt).catch((error: Error) => error);
    if (again instanceof Error) wrong.push(`“${figure.label}” cannot be worked out: ${again.message}`);
    else if (!again.ok) wrong.push(`“${figure.label}” is not what its ${again.count} lines come to`);
    if (!(await sameAmounts(figure, amounts, partAt).catch(() => false)))
      wrong.push(`“${figure.label}”: lines.csv holds other amounts than the record`);
  }
  return bundle;
}

/** The amounts of the table by the numbers of its lines. */
async function amountsIn(csv: Readable, lines: number): Promise<Float64Array> {
  const found = new Float64Array(lines).fill(Number.NaN);
  const rows: AsyncIterable<{ number: string; minor: string }> = csv.pipe(parse({ columns: true }));
  for await (const { number, minor } of rows) found[Number(number)] = Number(minor);
  return found;
}

async function sameAmounts({ runs }: BundledFigure, amounts: Float64Array, partAt: PartAt): Promise<boolean> {
  for (const [first, last] of runs) {
    let at = first;
    for await (const lines of linesOf([[first, last]], partAt))
      for (const line of lines) {
        if (amounts[at] !== line.amount) return false;
        at += 1;
      }
  }
  return true;
}
