import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import { faultySummaries, unbalancedEntries } from '@/store/checks';
import { rowsOf } from '@/store/db';
import { brokenAt } from '@/store/record';
import type { Context } from './context';
import { ownerOf } from './people';
import { brokenPins } from './pins';

export interface CheckResult {
  what: string;
  ok: boolean;
  detail: string;
}

/** Checks every stored invariant: summaries against lines, entries, kept files, pins, and the chained record. */
export async function* check(ctx: Context): AsyncGenerator<CheckResult> {
  for (const { table, faults, rows } of await faultySummaries(ctx.work)) {
    yield { what: `${table} against its lines`, ok: faults === 0, detail: faults === 0 ? `${rows} sums agree` : `${faults} sums disagree` };
  }
  const unbalanced = await unbalancedEntries(ctx.work);
  yield { what: 'entries', ok: unbalanced === 0, detail: unbalanced === 0 ? 'all balance' : `${unbalanced} do not balance` };
  const files = await rowsOf<{ file_digest: string }>(ctx.work, 'select distinct file_digest from load');
  let missing = 0;
  for (const { file_digest } of files) if ((await digestOf(join(ctx.files, file_digest))) !== file_digest) missing += 1;
  yield { what: 'loaded files', ok: missing === 0, detail: missing === 0 ? `${files.length} are as they came` : `${missing} are missing or changed` };
  const [any] = await rowsOf<{ n: number }>(ctx.work, 'select count(*)::integer as n from pin where removed_at is null');
  const broken = any?.n ? await brokenPins(ctx, await ownerOf(ctx.work)) : [];
  yield {
    what: 'pins',
    ok: broken.length === 0,
    detail: broken.length === 0 ? `${any?.n ?? 0} give the digest that was kept` : `pins ${broken.join(', ')} do not give their digest`,
  };
  const at = await brokenAt(ctx.work);
  yield { what: 'record of who did what', ok: at === null, detail: at === null ? 'the chain holds' : `the chain is broken at entry ${at}` };
}

async function digestOf(path: string): Promise<string | null> {
  const hash = createHash('sha256');
  try {
    for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
    return hash.digest('hex');
  } catch {
    return null;
  }
}
