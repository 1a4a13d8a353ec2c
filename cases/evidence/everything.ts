import type { Viewer } from '../asking/viewer';

/** Whoever works out what moved sees all books: who is shown it later is asked for their own grant. */
export const EVERYTHING: Viewer = {
  id: 0,
  name: 'the installation',
  email: '',
  role: 'owner',
  entities: null,
  members: {},
  accounts: null,
};
