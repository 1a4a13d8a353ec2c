import { wrong } from '@/contracts/problem';
import { type EvidenceKind, listEvidence } from '@/store/evidence';
import type { Context } from '../asking/context';
import { withSeenSubject } from '../asking/subjects';
import type { Viewer } from '../asking/viewer';

export interface EvidenceParams {
  subject?: string[] | undefined;
  entity?: string[] | undefined;
  limit: number;
  after?: string | undefined;
}

/** A page of the evidence of some subjects or entities of which the viewer may see what it is about. */
export async function seenEvidence<Kind extends EvidenceKind>(
  ctx: Context,
  viewer: Viewer,
  kind: Kind,
  { subject, entity, limit, after }: EvidenceParams,
) {
  if (!subject && !entity) throw wrong('entity', 'say whose evidence: an entity, or a subject');
  const asked = { subjects: subject ?? null, entities: entity ?? null, limit: limit + 1, after: Number(after ?? 0) };
  const found = await listEvidence(ctx.write, kind, asked);
  const page = found.slice(0, limit);
  return {
    rows: await withSeenSubject(ctx, viewer, page),
    next: found.length > limit ? String(page.at(-1)?.id) : null,
  };
}
