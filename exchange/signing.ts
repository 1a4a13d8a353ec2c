import {
  createHash,
  createPrivateKey,
  createPublicKey,
  generateKeyPairSync,
  type KeyObject,
  sign,
  verify,
} from 'node:crypto';
import { linkSync, mkdirSync, readFileSync, unlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Signs for an installation (Ed25519, RFC 8032). */
export interface Signer {
  /** The public key (SubjectPublicKeyInfo, RFC 8410) in base64. */
  publicKey: string;
  /** @returns the signature in base64 */
  sign(text: string): string;
}

const FILE = 'signing-key.pem';

/**
 * The key of an installation, made at first use and kept in a file that its owner alone reads. Several servers of one
 * installation share it by naming the same file.
 * @param named path of the file; absent: one in the folder of the installation
 */
export function signerOf(home: string, named: string | undefined = process.env.SIGNING_KEY_FILE): Signer {
  const file = named ?? join(home, FILE);
  const key = createPrivateKey(held(file) ?? made(home, file));
  return {
    publicKey: spki(createPublicKey(key)),
    sign: (text) => sign(null, Buffer.from(text), key).toString('base64'),
  };
}

function held(file: string): string | null {
  try {
    return readFileSync(file, 'utf8');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
}

/** Whoever comes second takes the key of whoever came first: it is put in its place whole or not at all. */
function made(home: string, file: string): string {
  mkdirSync(home, { recursive: true, mode: 0o700 });
  const { privateKey } = generateKeyPairSync('ed25519');
  const mine = `${file}.${process.pid}`;
  writeFileSync(mine, privateKey.export({ type: 'pkcs8', format: 'pem' }), { mode: 0o600 });
  try {
    linkSync(mine, file);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  } finally {
    unlinkSync(mine);
  }
  return readFileSync(file, 'utf8');
}

const spki = (key: KeyObject): string => key.export({ type: 'spki', format: 'der' }).toString('base64');

/** Whether a text bears the signature of a key. */
export function isSigned(text: string, signature: string, publicKey: string): boolean {
  try {
    const key = createPublicKey({ key: Buffer.from(publicKey, 'base64'), type: 'spki', format: 'der' });
    return (
      key.asymmetricKeyType === 'ed25519' && verify(null, Buffer.from(text), key, Buffer.from(signature, 'base64'))
    );
  } catch {
    return false;
  }
}

/** A key by which people tell installations apart: the first half of its SHA-256, in groups of four. */
export const fingerprintOf = (publicKey: string): string =>
  (createHash('sha256').update(Buffer.from(publicKey, 'base64')).digest('hex').slice(0, 32).match(/.{4}/g) ?? []).join(
    ' ',
  );
