import { ed25519 } from '@noble/curves/ed25519.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { unzipSync } from 'fflate';

/** Whether the files of a bundle are as they left. */
export interface FilesChecked {
  ok: boolean;
  /** What is not as it left, each a sentence. */
  wrong: string[];
  files: number;
  /** The key that signed it, as people tell keys apart. */
  key: string;
}

const [MANIFEST, SIGNATURE] = ['manifest.json', 'signature.json'] as const;
/** An Ed25519 key within its SubjectPublicKeyInfo (RFC 8410) is its last so many bytes. */
const KEY_BYTES = 32;

/**
 * The signature over the list of files (Ed25519, RFC 8032), the digest of each of them (SHA-256), and what is missing or
 * was added, looked at by the page itself.
 */
export function checkFiles(files: ReadonlyMap<string, Uint8Array>): FilesChecked {
  const [list, signed] = [files.get(MANIFEST), files.get(SIGNATURE)];
  if (!list || !signed)
    return { ok: false, wrong: ['it is no bundle: it has no list of its files that is signed'], files: 0, key: '' };
  const wrong: string[] = [];
  const { publicKey, signature } = JSON.parse(textOf(signed)) as { publicKey: string; signature: string };
  const spki = bytesOf(publicKey);
  if (!isSigned(list, bytesOf(signature), spki.slice(-KEY_BYTES)))
    wrong.push(`the signature does not hold: ${MANIFEST} was changed, or signed by another key`);
  const manifest = JSON.parse(textOf(list)) as { files: { path: string; sha256: string }[] };
  for (const { path, sha256: digest } of manifest.files) {
    const found = files.get(path);
    if (!found) wrong.push(`${path} is missing`);
    else if (bytesToHex(sha256(found)) !== digest) wrong.push(`${path} was changed`);
  }
  const listed = new Set<string>([...manifest.files.map((f) => f.path), MANIFEST, SIGNATURE]);
  for (const path of files.keys()) if (!listed.has(path)) wrong.push(`${path} was added`);
  const key = (bytesToHex(sha256(spki)).slice(0, 32).match(/.{4}/g) ?? []).join(' ');
  return { ok: wrong.length === 0, wrong, files: manifest.files.length, key };
}

/** The files of a ZIP, folders left out. */
export const unzipped = (zip: Uint8Array): Map<string, Uint8Array> =>
  new Map(Object.entries(unzipSync(zip)).filter(([name]) => !name.endsWith('/')));

function isSigned(text: Uint8Array, signature: Uint8Array, key: Uint8Array): boolean {
  try {
    return ed25519.verify(signature, text, key);
  } catch {
    return false; // what is no signature, or no key, signs nothing
  }
}

const textOf = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const bytesOf = (base64: string): Uint8Array => Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
