import { scopeAt, traced } from '../../address/address';
import { remember } from '../../address/memory';
import { later } from '../../parts/later';
import { entryStep } from '../../screens/steps';
import type { SheetFeature } from './feature';

const BesidePanel = later(() => import('../../panels/BesidePanel').then((m) => m.BesidePanel));

/** The lines of the focused figure beside the sheet; they follow the focus. */
export const linesBeside: SheetFeature = {
  name: 'lines beside',
  keys: [
    {
      key: 'b',
      says: 'the lines of the focused figure beside the sheet',
      run: (s) => {
        s.close('document beside');
        s.toggle('lines beside');
        requestAnimationFrame(() => s.focusRow(s.focus.row));
      },
    },
  ],
  beside: (s) => {
    const here = s.focused?.step(s.column) ?? null;
    const step = here?.view === 'entry' ? null : here;
    return (
      <BesidePanel
        scope={step && scopeAt(traced(s.screen, step), s.depth + 1)}
        label={step?.label ?? s.row?.label ?? ''}
        onLine={(line) => {
          if (!step || !s.focused) return;
          remember(s.memoryKey, { row: s.focused.key, at: s.focus.row, column: s.column });
          s.go(traced(traced(s.screen, { ...step, view: 'lines' }), entryStep(line)));
        }}
        onClose={() => s.close('lines beside')}
      />
    );
  },
};
