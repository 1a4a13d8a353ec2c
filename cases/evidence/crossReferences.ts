import type { z } from 'zod';
import type { newCrossReferenceSchema } from '@/contracts/bodies/all';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { add, exponentOf, formatAmount } from '@/core/money';
import * as store from '@/store/crossReferences';
import { type PinRow, readEvidence } from '@/store/evidence';
import { listThreads } from '@/store/threads';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySeeSubject } from '../asking/subjects';
import { require, type Viewer } from '../asking/viewer';
import { driftsOfPins } from './drift';
import type { EvidenceParams } from './seenEvidence';
import { seenEvidence, seenPiece } from './seenEvidence';

/** Holds two pins against each other from now on: papers that should agree are seen to, or by how much they do not. */
export async function crossRefer(ctx: Context, viewer: Viewer, { a, b }: z.infer<typeof newCrossReferenceSchema>) {
  require(viewer, 'preparer', 'hold two pins against each other');
  const pins = await Promise.all([a, b].map((id) => seenPiece(ctx, viewer, 'pin', id)));
  const [one, other] = pins as [PinRow, PinRow];
  if (one.currency !== other.currency)
    throw wrong('b', `the one is in ${one.currency} and the other in ${other.currency}; pin both in one currency`);
  const [low, high] = a < b ? [a, b] : [b, a];
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const added = await store.insertReference(trx, low, high, viewer.id);
    if (added === null) throw new ProblemError(409, 'These two are held against each other already');
    await record('held two pins against each other', one.subject, { reference: added, a, b, other: other.subject });
    return added;
  });
  const [row] = await shownReferences(
    ctx,
    viewer,
    (await store.listReferences(ctx.write)).filter((r) => r.id === id),
  );
  return row as NonNullable<typeof row>;
}

/** Those of pins that the viewer may see, both of them. */
export async function listReferences(ctx: Context, viewer: Viewer, params: EvidenceParams) {
  const all = await store.listReferences(ctx.write);
  const asked = params.subject || params.entity || params.thread !== undefined;
  const mine = asked ? new Set((await seenEvidence(ctx, viewer, 'pin', params)).rows.map((p) => p.id)) : null;
  return { rows: await shownReferences(ctx, viewer, mine ? all.filter((r) => mine.has(r.a) || mine.has(r.b)) : all) };
}

export async function removeReference(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  require(viewer, 'preparer', 'let two pins go');
  const row = (await store.listReferences(ctx.write)).find((r) => r.id === id);
  if (!row) throw notFound(`Cross-reference ${id}`);
  const pin = await seenPiece(ctx, viewer, 'pin', row.a);
  await seenPiece(ctx, viewer, 'pin', row.b);
  await onRecord(ctx, viewer, async (trx, record) => {
    await store.removeReference(trx, id);
    await record('let two pins go', pin.subject, { reference: id, a: row.a, b: row.b });
  });
}

/** Each with what its two pins are worth on the newest load, and by how much they differ. */
async function shownReferences(ctx: Context, viewer: Viewer, references: readonly store.ReferenceRow[]) {
  const ids = [...new Set(references.flatMap((r) => [r.a, r.b]))];
  const rows = (await Promise.all(ids.map((id) => readEvidence(ctx.write, 'pin', id)))).filter((p) => p !== undefined);
  const visible = await Promise.all(rows.map((p) => maySeeSubject(ctx, viewer, p)));
  const pins = new Map(rows.filter((_, i) => visible[i]).map((p) => [p.id, p]));
  const drifts = await driftsOfPins(ctx, viewer, [...pins.values()]);
  const threads = new Map((await listThreads(ctx.write)).map((t) => [t.id, t]));
  const nameOf = (pin: PinRow): string => {
    const thread = pin.thread === null ? undefined : threads.get(pin.thread);
    return thread ? thread.reference || thread.name : pin.label;
  };
  return references.flatMap((r) => {
    const [a, b] = [pins.get(r.a), pins.get(r.b)];
    if (!a || !b) return [];
    const [one, other] = [drifts.get(a.id)?.value ?? null, drifts.get(b.id)?.value ?? null];
    const off = one === null || other === null ? null : add(one, -other);
    return [
      {
        ...{ id: r.id, a: r.a, b: r.b, by: r.name, at: r.made_at.toISOString() },
        names: [nameOf(a), nameOf(b)],
        labels: [a.label, b.label],
        agrees: off === 0,
        offBy: off === null ? 'gone' : formatAmount(off, exponentOf(a.currency)),
      },
    ];
  });
}
