import type { SeenPerson } from '@/store/people';
import type { Viewer } from '../asking/viewer';

/** A person as whoever asks, with what they may see. */
export const viewerOf = (p: SeenPerson): Viewer => ({
  id: p.id,
  name: p.name,
  email: p.email,
  role: p.role,
  entities: p.entities,
  members: p.members,
  accounts: p.accounts,
});
