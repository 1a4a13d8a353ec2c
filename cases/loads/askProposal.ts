import type { LedgerProposal } from '@/contracts/answers/loads';
import type { Mapping } from '@/contracts/mapping';
import { wrong } from '@/contracts/problem';
import type { Context } from '../asking/context';
import { require, type Viewer } from '../asking/viewer';
import { doneByWorker, refusalOf } from '../jobs/jobs';
import { ownFile } from './keptFiles';

/** As long as one waits for a large file to be read once. */
const WAIT_MS = 150_000;

/** Has a worker propose a ledger: whoever answers requests opens no file of anybody's. */
export async function askProposal(
  ctx: Context,
  viewer: Viewer,
  digest: string,
  { name, mapping }: { name: string; mapping?: Mapping | undefined },
): Promise<LedgerProposal> {
  require(viewer, 'owner', 'begin a ledger');
  const file = await ownFile(ctx, viewer, { digest, name });
  const input = { digest: file.digest, name, mapping: mapping ?? null };
  const asked = { kind: 'propose', subject: `file ${file.digest}`, label: name, input } as const;
  const job = await doneByWorker(ctx, viewer, asked, WAIT_MS);
  if (job.state === 'done') return job.result as LedgerProposal;
  throw refusalOf(job) ?? wrong('file', job.message ?? 'nothing can be proposed of the file');
}
