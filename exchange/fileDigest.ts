import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';

/** SHA-256 (FIPS 180-4) of a file, in hexadecimal. @param onBytes how many more of it were read */
export async function sha256OfFile(path: string, onBytes: (bytes: number) => void = () => {}): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path)) {
    hash.update(chunk as Buffer);
    onBytes((chunk as Buffer).length);
  }
  return hash.digest('hex');
}
