import type { ProposedRow } from '@/store/evidence';
import { isAtLeast, type Viewer } from '../asking/viewer';

/** Whether somebody may approve an entry: somebody else than who proposed or changed it, who may propose entries too. */
export const mayApprove = (
  viewer: Pick<Viewer, 'id' | 'role'>,
  row: Pick<ProposedRow, 'person' | 'changed_by' | 'state'>,
): boolean =>
  row.state === 'proposed' && row.person !== viewer.id && row.changed_by !== viewer.id && isAtLeast(viewer, 'preparer');
