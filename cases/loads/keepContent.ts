import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';

/** Keeps content in a folder under its SHA-256; what is there already is kept once. A broken stream leaves nothing. */
export async function keepContent(folder: string, content: Readable): Promise<{ digest: string; bytes: number }> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const waiting = join(/* turbopackIgnore: true */ folder, `.${randomUUID()}`);
  const hash = createHash('sha256');
  content.on('data', (chunk: Buffer) => hash.update(chunk));
  try {
    await pipeline(content, createWriteStream(waiting, { mode: 0o600 }));
    const digest = hash.digest('hex');
    const { size } = await stat(/* turbopackIgnore: true */ waiting);
    await rename(waiting, join(folder, digest));
    return { digest, bytes: size };
  } finally {
    await rm(waiting, { force: true });
  }
}
