import { allBut, changed, scopeAt } from '../../address/address';
import type { SheetAt, SheetFeature } from './feature';

export const APART = 'These rows differ in more than one thing; choose rows of one kind to take them together.';

/** The scope with only what the cell, or the chosen rows, are about; or with all but that. */
export function narrow(s: SheetAt, way: 'only' | 'but'): void {
  if (s.several && !s.several.together) return void s.say(APART);
  const put = s.several ? s.row?.put : (s.focused?.only?.(s.column) ?? s.focused?.put);
  if (!put) return void s.say('There is nothing in this cell to narrow the scope by.');
  const next = way === 'only' ? put : allBut(scopeAt(s.screen, s.depth), put);
  if (!next) return void s.say('All but this cannot be said in one clause; take the rows that are to stay instead.');
  s.go(changed(s.screen, next));
}

export const narrowing: SheetFeature = {
  name: 'narrow',
  keys: [
    { key: 'e', says: 'only what the cell or the chosen rows say; all but that', run: (s) => narrow(s, 'only') },
    { key: 'x', says: { with: 'e' }, run: (s) => narrow(s, 'but') },
  ],
};
