// Checks a bundle without the installation that made it: run `node verify.mjs` in its folder (Node.js 18 or later).
// It needs nothing but what is here: the digest of every file, the signature over the list of them, and every figure
// worked out again from lines.csv. Amounts are whole numbers of the smallest unit, so that nothing is rounded.
import { createHash, createPublicKey, verify } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = process.argv[2] ?? dirname(fileURLToPath(import.meta.url));
const wrong = [];
const sha256 = (bytes) => createHash('sha256').update(bytes).digest('hex');
const read = (name) => readFileSync(join(here, name));

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
    found = sha256(read(path));
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

// 3. Every figure again from the lines (RFC 4180).
function* records(text) {
  let row = [];
  let cell = '';
  let quoted = false;
  for (let i = 0; i < text.length; i += 1) {
    const c = text[i];
    if (quoted) {
      if (c !== '"') cell += c;
      else if (text[i + 1] === '"') {
        cell += '"';
        i += 1;
      } else quoted = false;
    } else if (c === '"') quoted = true;
    else if (c === ',') {
      row.push(cell);
      cell = '';
    } else if (c === '\n') {
      row.push(cell.replace(/\r$/, ''));
      yield row;
      row = [];
      cell = '';
    } else cell += c;
  }
}
const lines = [];
let heads = null;
for (const row of records(read('lines.csv').toString('utf8'))) {
  if (heads === null) heads = row;
  else {
    const minor = row[heads.indexOf('minor')];
    if (!/^-?\d+$/.test(minor)) wrong.push(`lines.csv: line ${lines.length} has no amount`);
    lines.push({ side: row[heads.indexOf('side')], amount: /^-?\d+$/.test(minor) ? BigInt(minor) : 0n });
  }
}
let agreed = 0;
for (const figure of JSON.parse(read('figures.json'))) {
  let debit = 0n;
  let credit = 0n;
  let count = 0;
  for (const [first, last] of figure.runs)
    for (const { side, amount } of lines.slice(first, last + 1)) {
      if (side === 'debit') debit += amount;
      else credit -= amount;
      count += 1;
    }
  const opening = BigInt(figure.opening);
  const values = {
    opening,
    debit,
    credit,
    movement: debit - credit,
    closing: opening + debit - credit + BigInt(figure.roll),
  };
  if (values[figure.measure] !== BigInt(figure.value) || count !== figure.count)
    wrong.push(
      `“${figure.label}”: its ${count} lines come to ${values[figure.measure]}, and ${figure.value} with ${figure.count} lines is said`,
    );
  else agreed += 1;
}

const fingerprint = sha256(Buffer.from(publicKey, 'base64')).slice(0, 32).match(/.{4}/g).join(' ');
if (wrong.length > 0) {
  console.error(`NOT as it left:\n${wrong.map((w) => `  ${w}`).join('\n')}`);
  process.exit(1);
}
console.log(
  `As it left: ${manifest.files.length} files, ${agreed} figures worked out again from ${lines.length} lines.`,
);
console.log(
  `Signed by the key ${fingerprint}; hold it against what the installation says of itself (./just-thread key).`,
);
