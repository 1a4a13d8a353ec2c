import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { sha256Of, sha256OfFile } from './fileDigest';
import type { ObjectStore } from './objectStore';

const DIGEST = /^[0-9a-f]{64}$/;

/** The store of files, which is elsewhere, did not do what was asked. */
export class StoreAway extends Error {}

/**
 * Files by their SHA-256. They lie in a folder; where there is a store that several servers reach, they lie in that, and
 * the folder holds what this machine has sent or asked for, each held against its name as it comes.
 */
export class FileShelf {
  readonly #fetching = new Map<string, Promise<string | null>>();

  constructor(
    readonly folder: string,
    readonly store: ObjectStore | null = null,
  ) {}

  /** Keeps content; what is there already is kept once. A broken stream leaves nothing. @throws StoreAway */
  async keep(content: Readable): Promise<{ digest: string; bytes: number }> {
    const kept = await this.#written(content);
    await this.#away(() => this.store?.put(kept.digest, join(this.folder, kept.digest), kept.bytes));
    return kept;
  }

  /** Where a file can be read here, which is asked for from the store if it is not here. @returns null if it is nowhere */
  async pathOf(digest: string): Promise<string | null> {
    if (!DIGEST.test(digest)) return null;
    const path = join(/* turbopackIgnore: true */ this.folder, digest);
    if (await stat(/* turbopackIgnore: true */ path).catch(() => null)) return path;
    if (this.store === null) return null;
    const under = this.#fetching.get(digest) ?? this.#fetch(digest).finally(() => this.#fetching.delete(digest));
    this.#fetching.set(digest, under);
    return under;
  }

  /** The SHA-256 of what is kept under a name, as it is now where it is kept; null where it is not. */
  async digestNow(digest: string, onBytes?: (bytes: number) => void): Promise<string | null> {
    if (this.store === null) return sha256OfFile(join(this.folder, digest), onBytes).catch(() => null);
    const content = await this.#away(() => this.store?.get(digest));
    return content && sha256Of(content, onBytes);
  }

  /** All that is kept, with when it came; what lies here and is not in the store as well. */
  async *all(): AsyncGenerator<{ name: string; at: Date }> {
    const seen = new Set<string>();
    for (const name of await readdir(this.folder).catch(() => [] as string[])) {
      const found = await stat(join(this.folder, name)).catch(() => null);
      if (!found?.isFile()) continue;
      seen.add(name);
      yield { name, at: found.mtime };
    }
    if (this.store) for await (const one of this.store.list()) if (!seen.has(one.name)) yield one;
  }

  async remove(name: string): Promise<void> {
    await rm(join(this.folder, name), { force: true });
    if (DIGEST.test(name)) await this.#away(() => this.store?.remove(name));
  }

  async #written(content: Readable): Promise<{ digest: string; bytes: number }> {
    await mkdir(this.folder, { recursive: true, mode: 0o700 });
    const waiting = join(/* turbopackIgnore: true */ this.folder, `.${randomUUID()}`);
    const hash = createHash('sha256');
    content.on('data', (chunk: Buffer) => hash.update(chunk));
    try {
      await pipeline(content, createWriteStream(waiting, { mode: 0o600 }));
      const digest = hash.digest('hex');
      const { size } = await stat(/* turbopackIgnore: true */ waiting);
      await rename(waiting, join(this.folder, digest));
      return { digest, bytes: size };
    } finally {
      await rm(waiting, { force: true });
    }
  }

  async #fetch(digest: string): Promise<string | null> {
    const content = await this.#away(() => this.store?.get(digest));
    if (!content) return null;
    const came = await this.#away(() => this.#written(content));
    if (came.digest === digest) return join(this.folder, digest);
    // What was changed there is nobody's evidence of anything.
    await rm(join(this.folder, came.digest), { force: true });
    return null;
  }

  async #away<Of>(act: () => Promise<Of> | undefined): Promise<Of> {
    try {
      return (await act()) as Of;
    } catch (error) {
      if (this.store === null || (error as { code?: string }).code === 'ENOSPC') throw error;
      throw new StoreAway(`the store of files does not answer: ${(error as Error).message}`);
    }
  }
}
