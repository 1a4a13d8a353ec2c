import { ProblemError } from '@/contracts/problem';
import { sha256Text } from '@/core/digest';
import type { Db } from '@/store/db';
import { holdThread, type StepRow, type ThreadRow } from '@/store/threads';

/** What a step froze: its figure, and what it was asked of. Its words may be changed, and are on record each time. */
export const stepDigest = (
  k: Pick<
    StepRow,
    | 'thread'
    | 'parent'
    | 'address'
    | 'view'
    | 'split_by'
    | 'subject'
    | 'measure'
    | 'currency'
    | 'value'
    | 'lines'
    | 'load'
  >,
): string =>
  sha256Text(
    JSON.stringify([
      k.thread,
      k.parent,
      k.address,
      k.view,
      k.split_by,
      k.subject,
      k.measure,
      k.currency,
      k.value,
      k.lines,
      k.load,
    ]),
  );

export const threadSubject = (id: number): string => `thread ${id}`;

export const stepSubject = (id: number): string => `step ${id}`;

/** What is signed is closed to everybody, whoever wrote it, until it is opened again with a reason. @throws ProblemError 409 */
export function mustBeOpen(thread: Pick<ThreadRow, 'state' | 'name'>): void {
  if (thread.state === 'prepared' || thread.state === 'signed')
    throw new ProblemError(
      409,
      `“${thread.name}” is signed${thread.state === 'prepared' ? ' by its preparer' : ''}; open it again to change it`,
    );
}

/** The same in the transaction that changes it: until that is done nobody signs it. */
export async function heldOpen(trx: Db, thread: number | null): Promise<void> {
  const held = thread === null ? undefined : await holdThread(trx, thread);
  if (held) mustBeOpen(held);
}
