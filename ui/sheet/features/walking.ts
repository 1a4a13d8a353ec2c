import { backTo } from '../../address/address';
import type { SheetFeature } from './feature';

/** Up the thread, and from sibling to sibling. */
export const walking: SheetFeature = {
  name: 'walking',
  keys: [
    { key: 'Backspace', says: 'up one strip', run: (s) => s.depth > 0 && s.go(backTo(s.screen, s.depth - 1)) },
    { key: '[', says: 'previous and next row of the sheet above', run: (s) => s.siblings.go(-1) },
    { key: ']', says: { with: '[' }, run: (s) => s.siblings.go(1) },
  ],
};

export const clause: SheetFeature = {
  name: 'clause',
  keys: [{ key: '/', says: 'add a clause to the scope', run: (s) => s.open('clause') }],
};
