import { openJobOf } from '@/store/jobs';
import { loadSubject, readLoad, unsealedLoads } from '@/store/loads';
import { addToRecord } from '@/store/record';
import { keepSeals, sealsOfLoad } from '@/store/seals';
import type { Context } from '../asking/context';
import { addJob } from '../jobs/jobs';

/** Whoever acts when nobody asked. */
const INSTALLATION = { person: null, personName: 'the installation' };

const PROGRESS_EVERY_MS = 1_000;

/**
 * Keeps a digest of all that a load laid down, beside it and in the record of who did what: whatever is changed by hand
 * from then on, `check` finds.
 */
export async function sealLoad(
  ctx: Context,
  id: number,
  tell: (progress: number) => Promise<void>,
): Promise<{ message?: string }> {
  const load = await readLoad(ctx.work, id);
  if (load?.status !== 'loaded') return { message: 'there is nothing to seal' };
  let rows = 0;
  let told = Date.now();
  const seals = await sealsOfLoad(ctx.work, id, (more) => {
    rows += more;
    if (Date.now() - told < PROGRESS_EVERY_MS) return;
    told = Date.now();
    void tell(Math.min(0.99, rows / Math.max(1, load.lines + load.entries))).catch(() => {});
  });
  await ctx.work.transaction(async (trx) => {
    await keepSeals(trx, seals);
    await addToRecord(trx, {
      ...INSTALLATION,
      act: 'sealed a load',
      subject: loadSubject(id),
      detail: { seals: seals.map(({ what, rows: many, digest }) => ({ what, rows: many, digest })) },
    });
  });
  return {};
}

/** Asks for the digests of loads that have none: those of before there were any, and those whose job was put aside. */
export async function askSeals(ctx: Context): Promise<void> {
  for (const { id, file_name, person, person_name } of await unsealedLoads(ctx.work)) {
    const subject = loadSubject(id);
    if (await openJobOf(ctx.work, 'seal', subject)) continue;
    await ctx.work.transaction((trx) =>
      addJob(trx, { kind: 'seal', subject, label: file_name, person, person_name, entities: null }),
    );
  }
}
