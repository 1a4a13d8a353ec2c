import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';

/** SHA-256 (FIPS 180-4) of what comes, in hexadecimal. @param onBytes how many more of it were read */
export async function sha256Of(
  content: AsyncIterable<Buffer | string>,
  onBytes: (bytes: number) => void = () => {},
): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of content) {
    hash.update(chunk);
    onBytes(chunk.length);
  }
  return hash.digest('hex');
}

/** The same of a file. */
export const sha256OfFile = (path: string, onBytes?: (bytes: number) => void): Promise<string> =>
  sha256Of(createReadStream(path), onBytes);
