// Whoever opens it goes on typing at once: it is there from the beginning.
import { SplitChooser } from '../SplitChooser';
import type { SheetFeature } from './feature';
import { APART } from './narrow';

export const split: SheetFeature = {
  name: 'split',
  keys: [
    {
      key: 's',
      says: 'split the focused figure, or the chosen rows',
      run: (s) => {
        if (s.several && !s.several.together) s.say(APART);
        else if (s.row?.put) s.open('split');
      },
    },
  ],
  dialog: (s) =>
    s.row?.put && (
      <SplitChooser
        row={s.row}
        column={s.column}
        screen={s.screen}
        scope={s.scopeOfRow}
        onChosen={s.go}
        onClose={() => s.close('split')}
      />
    ),
};
