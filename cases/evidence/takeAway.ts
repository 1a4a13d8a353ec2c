import type { Act } from '@/contracts/acts';
import { forbidden } from '@/contracts/problem';
import type { EvidenceKind } from '@/contracts/work';
import { type Kept, removeEvidence } from '@/store/evidence';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import type { Viewer } from '../asking/viewer';
import { seenPiece } from './seenEvidence';
import { heldOpen } from './threads/words';

/**
 * Takes a piece of one's own evidence away, from a thread that is open; the record keeps that it was there.
 * @param says what else the record says of it; it may refuse
 * @throws ProblemError 404, 403, 409
 */
export async function takeAway<Kind extends EvidenceKind>(
  ctx: Context,
  viewer: Viewer,
  kind: Kind,
  id: number,
  act: Act,
  says: (row: Kept<Kind>) => Record<string, unknown> = () => ({}),
): Promise<void> {
  const row = await seenPiece(ctx, viewer, kind, id);
  if (row.person !== viewer.id) throw forbidden(`Only ${row.name} can take this ${kind} away`);
  const more = says(row);
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, row.thread);
    await removeEvidence(trx, kind, id);
    await record(act, row.subject, { [kind]: id, ...more });
  });
}
