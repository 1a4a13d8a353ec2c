import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Db } from '../db';
import { allParts } from './manifest';

/** What is not registered may be under way for so long: being made, or still read by whoever knew it before. */
const LEFT_MS = 15 * 60_000;

/** Removes files of the folder that are nobody's: former copies, and what a stopped process left. */
export async function dropUnregistered(db: Db, folder: string): Promise<void> {
  const registered = new Set((await allParts(db)).map((p) => p.file));
  for (const name of await readdir(folder).catch(() => [])) {
    const path = join(folder, name);
    const { mtimeMs } = await stat(path).catch(() => ({ mtimeMs: Date.now() }));
    if (!registered.has(name) && Date.now() - mtimeMs > LEFT_MS) await rm(path, { recursive: true, force: true });
  }
}
