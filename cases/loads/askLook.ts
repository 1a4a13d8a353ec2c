import type { Inspection } from '@/contracts/answers/loads';
import type { Format, LoadKind, Mapping } from '@/contracts/mapping';
import type { Context } from '../asking/context';
import { require, type Viewer } from '../asking/viewer';
import { doneByWorker, refusalOf } from '../jobs/jobs';
import { ownFile } from './keptFiles';

export interface InspectionFields {
  kind?: LoadKind | undefined;
  format?: Format | undefined;
  mapping?: Mapping | undefined;
  entity?: string | undefined;
  unknownAccounts?: 'create' | 'refuse' | undefined;
  /** What the file is called. */
  name?: string | undefined;
}

/** As long as one waits in front of the screen. */
const WAIT_MS = 20_000;

/** Has a kept file looked at, by a worker: whoever answers requests opens no file of anybody's. */
export async function askLook(
  ctx: Context,
  viewer: Viewer,
  file: { digest: string; name: string },
  wanted: InspectionFields,
): Promise<Inspection> {
  require(viewer, 'preparer', 'load data');
  const { digest } = await ownFile(ctx, viewer, file);
  const asked = { kind: 'look', subject: `file ${digest}`, label: file.name, input: { digest, wanted } } as const;
  const job = await doneByWorker(ctx, viewer, asked, WAIT_MS);
  if (job.state === 'done') return job.result as Inspection;
  const refusal = refusalOf(job);
  if (refusal) throw refusal;
  return { digest, kind: wanted.kind ?? 'lines', unreadable: job.message ?? 'the file cannot be looked at' };
}
