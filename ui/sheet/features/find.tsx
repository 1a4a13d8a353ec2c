import { FindInSheet } from '../FindInSheet';
import type { SheetFeature } from './feature';

export const find: SheetFeature = {
  name: 'find',
  keys: [
    { key: 'f', says: 'find a row of the sheet by part of its name; arrows to the next', run: (s) => s.open('find') },
  ],
  tool: (s) =>
    s.isOpen('find') && (
      <FindInSheet
        model={s.model}
        from={s.focus.row}
        onFound={s.focusRow}
        onClose={() => {
          s.close('find');
          s.focusCell();
        }}
      />
    ),
};
