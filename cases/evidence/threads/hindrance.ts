import type { SignOffRow, StepRow, ThreadRow } from '@/store/threads';
import type { Viewer } from '../../asking/viewer';

/**
 * What stands in the way of a viewer's signature; null where nothing does. A preparer signs first, a reviewer only what a
 * preparer signed and nobody changed since, with no open point; and never is one person both: who kept the thread or any
 * of its steps does not review it (ISA 230.9, ISA 220.33: who did the work, and who reviewed it).
 */
export interface Hindrance {
  status: 403 | 409;
  why: string;
}

export function hindranceOf(
  viewer: Pick<Viewer, 'id' | 'role'>,
  as: 'preparer' | 'reviewer',
  thread: Pick<ThreadRow, 'state' | 'person' | 'name'>,
  steps: readonly Pick<StepRow, 'person'>[],
  signOffs: readonly Pick<SignOffRow, 'signed_as' | 'person' | 'name' | 'ended_at' | 'digest'>[],
  now: { digest: string; openPoints: number; openQuestions: number },
): Hindrance | null {
  const live = signOffs.filter((s) => s.ended_at === null);
  const prepared = live.find((s) => s.signed_as === 'preparer');
  const reviewed = live.find((s) => s.signed_as === 'reviewer');
  const refused = (why: string): Hindrance => ({ status: 403, why });
  const inTheWay = (why: string): Hindrance => ({ status: 409, why });
  if (as === 'preparer') {
    if (viewer.role === 'reader') return refused('A reader does not sign; ask a preparer');
    if (prepared) return inTheWay(`${prepared.name} has signed it as its preparer`);
    if (now.openQuestions > 0)
      return inTheWay(
        `${now.openQuestions === 1 ? 'One question is' : `${now.openQuestions} questions are`} not answered`,
      );
    return null;
  }
  if (viewer.role !== 'reviewer' && viewer.role !== 'owner')
    return refused('Only a reviewer or an owner signs as reviewer');
  if (prepared?.person === viewer.id) return refused('You signed it as its preparer; somebody else reviews it');
  if (thread.person === viewer.id) return refused('You kept this thread; somebody else reviews it');
  if (steps.some((k) => k.person === viewer.id))
    return refused('Steps of this thread are yours; somebody else reviews it');
  if (reviewed) return inTheWay(`${reviewed.name} has signed it as its reviewer`);
  if (!prepared) return inTheWay('Its preparer has not signed it yet');
  if (prepared.digest !== now.digest)
    return inTheWay('It is not what its preparer signed; open it again, and have it signed anew');
  if (now.openPoints > 0)
    return inTheWay(
      `${now.openPoints === 1 ? 'One review point is' : `${now.openPoints} review points are`} not cleared`,
    );
  return null;
}

export const shownSignOff = (s: SignOffRow) => ({
  id: s.id,
  as: s.signed_as,
  by: s.name,
  at: s.signed_at.toISOString(),
  digest: s.digest,
  load: s.load,
  ended: s.ended_at === null ? null : { at: s.ended_at.toISOString(), by: s.ended_name ?? '', reason: s.reason ?? '' },
});
