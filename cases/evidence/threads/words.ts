import { ProblemError } from '@/contracts/problem';
import { sha256Text } from '@/core/digest';
import type { StepRow, ThreadRow } from '@/store/threads';

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

/** What is concluded is closed to everybody, whoever wrote it, until it is opened again. */
export function mustBeOpen(thread: ThreadRow): void {
  if (thread.state === 'concluded')
    throw new ProblemError(409, `“${thread.name}” is concluded; open it again to change it`);
}
