import { forbidden, notFound } from '@/contracts/problem';
import type { Figure } from '@/core/figure';

export type Role = 'owner' | 'preparer' | 'reviewer' | 'reader';

/** Who asks, and what they may see. */
export interface Viewer {
  id: number;
  name: string;
  email: string;
  role: Role;
  /** Entities granted; null: all. */
  entities: readonly string[] | null;
}

export const maySee = (viewer: Viewer, entity: string): boolean => viewer.entities === null || viewer.entities.includes(entity);

/**
 * The figure as this viewer may ask it: the one place through which every figure passes before the store.
 * What is outside the grant is refused, never shown as a smaller number; it is refused in the same words as
 * what does not exist, so that nobody learns what there is.
 * @throws ProblemError
 */
export function asSeenBy(figure: Figure, viewer: Viewer): Figure {
  for (const entity of figure.entities) if (!maySee(viewer, entity)) throw notFound(`Entity ${entity}`);
  return figure;
}

const RANK: Record<Role, number> = { reader: 0, preparer: 1, reviewer: 2, owner: 3 };

/** @throws ProblemError if the viewer's role is below the one needed */
export function require(viewer: Viewer, role: Role, act: string): void {
  if (RANK[viewer.role] < RANK[role]) throw forbidden(`A ${viewer.role} may not ${act}; ask a ${role}`);
}
