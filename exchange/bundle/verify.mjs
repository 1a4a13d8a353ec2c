// Checks a bundle without the installation that made it: run `node verify.mjs` in its folder (Node.js 18 or later).
// It needs nothing but what is here: the digest of every file, the signature over the list of them, and every figure
// worked out again from lines.csv. Amounts are whole numbers of the smallest unit, so that nothing is rounded.
import { createHash, createPublicKey, verify } from 'node:crypto';
import { closeSync, openSync, readdirSync, readFileSync, readSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = process.argv[2] ?? dirname(fileURLToPath(import.meta.url));
const wrong = [];
const sha256 = (bytes) => createHash('sha256').update(bytes).digest('hex');
const read = (name) => readFileSync(join(here, name));
/** A file a piece at a time: it may be larger than the memory. */
function* pieces(name) {
  const file = openSync(join(here, name));
  const piece = Buffer.alloc(1024 * 1024);
  for (let size = readSync(file, piece); size > 0; size = readSync(file, piece)) yield piece.subarray(0, size);
  closeSync(file);
}
function digestOf(name) {
  const hash = createHash('sha256');
  for (const piece of pieces(name)) hash.update(piece);
  return hash.digest('hex');
}

// 1. The list of files bears the signature of the installation (Ed25519, RFC 8032).
const list = read('manifest.json');
const manifest = JSON.parse(list);
const { publicKey, signature } = JSON.parse(read('signature.json'));
const key = createPublicKey({ key: Buffer.from(publicKey, 'base64'), type: 'spki', format: 'der' });
if (!verify(null, list, key, Buffer.from(signature, 'base64')))
  wrong.push('the signature does not hold: manifest.json was changed');

// 2. Every file is as the list says (SHA-256, FIPS 180-4), and there is none beside them.
for (const { path, sha256: digest } of manifest.files) {
  let found;
  try {
    found = digestOf(path);
  } catch {
    found = null;
  }
  if (found === null) wrong.push(`${path} is missing`);
  else if (found !== digest) wrong.push(`${path} was changed`);
}
const listed = new Set([...manifest.files.map((f) => f.path), 'manifest.json', 'signature.json']);
const all = (folder) =>
  readdirSync(join(here, folder), { withFileTypes: true }).flatMap((e) =>
    e.isDirectory() ? all(join(folder, e.name)) : [join(folder, e.name).replaceAll('\\', '/')],
  );
for (const path of all('')) if (!listed.has(path)) wrong.push(`${path} was added`);

// 3. Every figure again from the lines (RFC 4180), which come a piece at a time.
function* records(name) {
  const decoder = new TextDecoder();
  let [row, cell, quoted, closed] = [[], '', false, false];
  for (const piece of pieces(name))
    for (const c of decoder.decode(piece, { stream: true })) {
      if (closed && c === '"') {
        cell += '"'; // two of them within quotes are one
        [quoted, closed] = [true, false];
        continue;
      }
      closed = false;
      if (quoted && c !== '"') cell += c;
      else if (quoted) [quoted, closed] = [false, true];
      else if (c === '"') quoted = true;
      else if (c === ',' || c === '\n') {
        row.push(c === '\n' ? cell.replace(/\r$/, '') : cell);
        cell = '';
        if (c === '\n') {
          yield row;
          row = [];
        }
      } else cell += c;
    }
}
/** @param folder of one thread, where several are here */
function workedOut(folder) {
  const amounts = [];
  const debits = [];
  let heads = null;
  for (const row of records(join(folder, 'lines.csv'))) {
    if (heads === null) {
      heads = row;
      continue;
    }
    const minor = row[heads.indexOf('minor')];
    const isAmount = /^-?\d{1,15}$/.test(minor);
    if (!isAmount) wrong.push(`lines.csv: line ${amounts.length} has no amount`);
    amounts.push(isAmount ? Number(minor) : 0);
    debits.push(row[heads.indexOf('side')] === 'debit');
  }
  /** What the lines of some runs come to. */
  function sums(runs) {
    let [debit, credit, count] = [0n, 0n, 0];
    for (const [first, last] of runs)
      for (let at = first; at <= last && at < amounts.length; at += 1) {
        if (debits[at]) debit += BigInt(amounts[at]);
        else credit -= BigInt(amounts[at]);
        count += 1;
      }
    return { debit, credit, count, movement: debit - credit };
  }
  let agreed = 0;
  for (const figure of JSON.parse(read(join(folder, 'figures.json')))) {
    const { debit, credit, count, movement } = sums(figure.runs);
    const [opening, roll] = [BigInt(figure.opening), BigInt(figure.roll)];
    const values = { opening, debit, credit, movement, closing: opening + movement + roll };
    // What was there before is the sum of the lines before, where these are inside.
    const { before } = figure;
    const rolled = () => sums(before.rolledIn).movement - sums(before.rolledOut).movement;
    if (before && (sums(before.opening).movement !== opening || rolled() !== roll))
      wrong.push(`“${figure.label}”: the lines before come to something else than what it began with`);
    if (values[figure.measure] !== BigInt(figure.value) || count !== figure.count)
      wrong.push(
        `“${figure.label}”: its ${count} lines come to ${values[figure.measure]}, and ${figure.value} with ${figure.count} lines is said`,
      );
    else agreed += 1;
  }
  return { agreed, lines: amounts.length };
}
let [agreed, lines] = [0, 0];
for (const folder of manifest.threads ?? ['']) {
  const found = workedOut(folder);
  agreed += found.agreed;
  lines += found.lines;
}

const fingerprint = sha256(Buffer.from(publicKey, 'base64')).slice(0, 32).match(/.{4}/g).join(' ');
if (wrong.length > 0) {
  console.error(`NOT as it left:\n${wrong.map((w) => `  ${w}`).join('\n')}`);
  process.exit(1);
}
console.log(`As it left: ${manifest.files.length} files, ${agreed} figures worked out again from ${lines} lines.`);
console.log(
  `Signed by the key ${fingerprint}; hold it against what the installation says of itself (./just-thread key).`,
);
