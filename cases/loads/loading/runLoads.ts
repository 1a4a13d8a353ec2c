import { createReadStream } from 'node:fs';
import type { NewLoadFields } from '@/contracts/bodies/all';
import { readLoad } from '@/store/loads';
import type { Context } from '../../asking/context';
import type { Viewer } from '../../asking/viewer';
import { keepFile } from '../keptFiles';
import { queueLoad, showLoad } from '../loads';
import { runNextLoad } from './runLoad';

const LOOK_EVERY_MS = 200;

/** Runs loads in the order in which they were sent, until one of them is done. @param onBegin told of each that is begun here */
export async function runLoadsUpTo(
  ctx: Context,
  id: number,
  onBegin: (load: number) => void = () => {},
): Promise<void> {
  for (;;) {
    const load = await readLoad(ctx.work, id);
    if (!load || load.status === 'loaded' || load.status === 'refused') return;
    // Where another process has the lock, or one that has gone still holds it, it is waited for.
    if ((await runNextLoad(ctx.work, ctx.files, onBegin)) === null)
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
  }
}

/** Loads a file from the machine itself, in this process, and waits for the outcome. */
export async function loadFile(ctx: Context, viewer: Viewer, path: string, fields: NewLoadFields) {
  const file = await keepFile(ctx, path.split('/').pop() ?? path, createReadStream(path));
  const id = await queueLoad(ctx, viewer, file, fields);
  await runLoadsUpTo(ctx, id);
  return showLoad(ctx, viewer, id);
}
